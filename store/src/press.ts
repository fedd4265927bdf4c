/** Press jobs and the films they are made on. */
import { MOVING_FORMATS, type PressJob, type PressOrder } from '@wemlox/wire';
import { newId, type Project } from '@wemlox/core/document';
import { useAssets } from './assets.ts';
import { inTransaction, MissingError } from './database.ts';
import type { Session } from './session.ts';

/** Name of the task in the queue. */
export const PRESS_TASK = 'press';
/** Name of the task that binds a job's pictures to a moving one. */
export const BIND_TASK = 'bind';
/** Times a job is taken up again after what may pass. */
export const PRESS_ATTEMPTS = 25;

const LINE = `j.id, name, look, shot, first, last, width, height, samples, seed, format, alpha, layers, denoise, noise, state,
  message, asked_at, actor, f.frames_done, f.samples_done, f.seconds, coalesce(bound, f.result) AS result`;
/** Jobs with how far their pictures are; a picture that is alone is the file. */
const JOBS = `press_jobs j CROSS JOIN LATERAL (
    SELECT count(result)::int AS frames_done, sum(samples_done)::int AS samples_done, sum(seconds) AS seconds,
           CASE WHEN count(*) = 1 AND NOT j.format = ANY('{${MOVING_FORMATS.join(',')}}') THEN min(result) END AS result
      FROM press_frames WHERE job_id = j.id) f`;

const jobOf = (r: Record<string, unknown> & { asked_at: Date }): PressJob => {
  const { samples_done, frames_done, asked_at, seed, ...rest } = r;
  return {
    ...(rest as unknown as PressJob),
    seed: Number(seed),
    samplesDone: samples_done as number,
    framesDone: frames_done as number,
    askedAt: asked_at.toISOString(),
  };
};

/** Records an order and puts its pictures into the queue, in one transaction. */
export async function askPress(
  { pool, actor }: Session,
  project: string,
  document: Project,
  order: PressOrder,
): Promise<PressJob> {
  const id = newId();
  const first = order.first ?? 0;
  const last = Math.max(first, order.last ?? first);
  return inTransaction(pool, async (client) => {
    const { rowCount } = await client.query(
      `INSERT INTO press_jobs (id, project_id, name, look, shot, document, width, height, samples, seed, format, alpha,
              layers, denoise, noise, actor, first, last)
       SELECT $1, p.id, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18
         FROM projects p WHERE p.id = $2`,
      [
        id,
        project,
        order.name,
        order.look,
        order.shot,
        JSON.stringify(document),
        order.width,
        order.height,
        order.samples,
        order.seed,
        order.format,
        order.alpha,
        order.layers,
        order.denoise,
        order.noise,
        actor.id,
        first,
        last,
      ],
    );
    if (rowCount === 0) throw new MissingError(`no project ${project}`);
    await client.query(
      'INSERT INTO press_frames (job_id, frame) SELECT $1, n FROM generate_series($2::int, $3::int) n',
      [id, first, last],
    );
    await useAssets(client, project, document);
    // due whatever the clock says now or later, one after the other
    await client.query(
      `SELECT graphile_worker.add_job($1, json_build_object('id', $2::text, 'frame', n), job_key := $2::text || '/' || n,
              run_at := to_timestamp(0), max_attempts := $3)
         FROM generate_series($4::int, $5::int) n ORDER BY n`,
      [PRESS_TASK, id, PRESS_ATTEMPTS, first, last],
    );
    const { rows } = await client.query(`SELECT ${LINE} FROM ${JOBS} WHERE j.id = $1`, [id]);
    return jobOf(rows[0]);
  });
}

/** Newest first. */
export async function listPress({ pool }: Session, project: string): Promise<PressJob[]> {
  const { rows } = await pool.query(
    `SELECT ${LINE} FROM ${JOBS} WHERE project_id = $1 ORDER BY n DESC LIMIT 100`,
    [project],
  );
  return rows.map(jobOf);
}

/** A job of a project. @throws MissingError */
export async function findPress({ pool }: Session, project: string, id: string): Promise<PressJob> {
  const { rows } = await pool.query(`SELECT ${LINE} FROM ${JOBS} WHERE project_id = $1 AND j.id = $2`, [
    project,
    id,
  ]);
  if (rows.length === 0) throw new MissingError(`no press job ${id}`);
  return jobOf(rows[0]);
}

/** A job with the document it is made from, as it is kept. @throws MissingError */
export async function readPress({ pool }: Session, id: string): Promise<PressJob & { document: unknown }> {
  const { rows } = await pool.query(`SELECT ${LINE}, document FROM ${JOBS} WHERE j.id = $1`, [id]);
  if (rows.length === 0) throw new MissingError(`no press job ${id}`);
  return { ...jobOf(rows[0]), document: rows[0].document };
}

/** Stops a job that is waiting or being traced. @throws MissingError */
export async function cancelPress({ pool }: Session, project: string, id: string): Promise<void> {
  const { rowCount } = await pool.query(
    `UPDATE press_jobs SET state = 'cancelled', ended_at = now()
      WHERE id = $2 AND project_id = $1 AND state IN ('waiting', 'tracing')`,
    [project, id],
  );
  if (rowCount === 0) throw new MissingError(`no press job ${id} is under way`);
  await pool.query('DELETE FROM press_films WHERE job_id = $1', [id]);
}

/** What is known of one of a job's pictures. */
export interface PressFrame {
  frame: number;
  samplesDone: number;
  seconds: number;
  /** Asset hash of the picture; null while it is not done. */
  result: string | null;
}

/** The pictures of a job, in their order. */
export async function pressFrames({ pool }: Session, id: string): Promise<PressFrame[]> {
  const { rows } = await pool.query(
    `SELECT frame, samples_done AS "samplesDone", seconds, result FROM press_frames WHERE job_id = $1 ORDER BY frame`,
    [id],
  );
  return rows as PressFrame[];
}

/** Reports how far a picture is; false when its job has been cancelled or has failed meanwhile. */
export async function reportPress(
  { pool }: Session,
  id: string,
  frame: number,
  samplesDone: number,
  seconds: number,
): Promise<boolean> {
  const { rowCount } = await pool.query(
    `WITH job AS (UPDATE press_jobs SET state = 'tracing' WHERE id = $1 AND state IN ('waiting', 'tracing') RETURNING id)
     UPDATE press_frames SET samples_done = $3, seconds = $4 FROM job WHERE job_id = job.id AND frame = $2`,
    [id, frame, samplesDone, seconds],
  );
  return rowCount === 1;
}

/** Keeps a picture that is done; the last of a job ends it. */
export async function endFrame(
  { pool }: Session,
  id: string,
  frame: number,
  { result, samples }: { result: string; samples: number },
): Promise<void> {
  await inTransaction(pool, async (client) => {
    // the one that finds none left must see what the others have done
    await client.query('SELECT FROM press_jobs WHERE id = $1 FOR UPDATE', [id]);
    await client.query(
      'UPDATE press_frames SET result = $3, samples_done = $4 WHERE job_id = $1 AND frame = $2',
      [id, frame, result, samples],
    );
    const { rows } = await client.query(
      `SELECT format = ANY($2) AS moving FROM press_jobs WHERE id = $1 AND state IN ('waiting', 'tracing')
          AND NOT EXISTS (SELECT FROM press_frames WHERE job_id = $1 AND result IS NULL)`,
      [id, MOVING_FORMATS],
    );
    if (rows[0]?.moving)
      await client.query(
        `SELECT graphile_worker.add_job($1, json_build_object('id', $2::text), job_key := 'bind/' || $2::text,
                run_at := to_timestamp(0), max_attempts := $3)`,
        [BIND_TASK, id, PRESS_ATTEMPTS],
      );
    else if (rows[0])
      await client.query(`UPDATE press_jobs SET state = 'done', ended_at = now() WHERE id = $1`, [id]);
    await client.query('DELETE FROM press_films WHERE job_id = $1 AND frame = $2', [id, frame]);
  });
}

/** Ends a job whose pictures are bound to a moving one. */
export async function endBound({ pool }: Session, id: string, result: string): Promise<void> {
  await pool.query(
    `UPDATE press_jobs SET state = 'done', bound = $2, ended_at = now() WHERE id = $1 AND state IN ('waiting', 'tracing')`,
    [id, result],
  );
}

/** Ends a job that cannot be done; the pictures that are done stay. */
export async function failPress({ pool }: Session, id: string, message: string): Promise<void> {
  await inTransaction(pool, async (client) => {
    await client.query(
      `UPDATE press_jobs SET state = 'failed', message = $2, ended_at = now()
        WHERE id = $1 AND state IN ('waiting', 'tracing')`,
      [id, message],
    );
    await client.query('DELETE FROM press_films WHERE job_id = $1', [id]);
  });
}

/** Bytes of a film kept in one row. */
const CHUNK = 16 << 20;

/** Keeps the film of a picture as it stands after `samples`, in place of what was kept before. */
export async function keepFilm(
  { pool }: Session,
  id: string,
  frame: number,
  samples: number,
  film: Uint8Array,
): Promise<void> {
  await inTransaction(pool, async (client) => {
    await client.query('DELETE FROM press_films WHERE job_id = $1 AND frame = $2', [id, frame]);
    for (let n = 0; n * CHUNK < film.length; n++) {
      await client.query(
        'INSERT INTO press_films (job_id, frame, n, samples, data) VALUES ($1, $2, $3, $4, $5)',
        [id, frame, n, samples, Buffer.from(film.subarray(n * CHUNK, (n + 1) * CHUNK))],
      );
    }
  });
}

/** The kept film of a picture and its samples; null when none was kept. */
export async function keptFilm(
  { pool }: Session,
  id: string,
  frame: number,
): Promise<{ samples: number; film: Uint8Array } | null> {
  const { rows } = await pool.query(
    'SELECT samples, data FROM press_films WHERE job_id = $1 AND frame = $2 ORDER BY n',
    [id, frame],
  );
  if (rows.length === 0) return null;
  return { samples: rows[0].samples, film: new Uint8Array(Buffer.concat(rows.map((r) => r.data as Buffer))) };
}

/** Seconds of silence after which a node is taken for dead. */
const SILENCE = 12;
/** Seconds to which a job waits at most after it failed, whatever became of the clock. */
const LONGEST_WAIT = 120;

/** What one node has seen of the others, by its own watch. */
export type Vigil = Map<string, { beats: string; since: number }>;

/** Those whose sign has not changed for SILENCE seconds by the watch. */
function silentOf(vigil: Vigil, signs: Map<string, string>, now: number): string[] {
  for (const name of vigil.keys()) if (!signs.has(name)) vigil.delete(name);
  const silent: string[] = [];
  for (const [name, beats] of signs) {
    const seen = vigil.get(name);
    if (seen?.beats !== beats) vigil.set(name, { beats, since: now });
    else if (now - seen.since > SILENCE) silent.push(name);
  }
  return silent;
}

/**
 * A node says that it is alive, and frees the jobs held by workers that have fallen silent.
 * No clock is read but the node's own watch, so clocks may jump.
 * @param vigil what this node remembers of the others between its beats
 * @param now seconds of a clock that never jumps
 */
export async function sayAlive(
  { pool }: Session,
  workers: string[],
  vigil: Vigil,
  now: number,
): Promise<void> {
  await pool.query(
    `INSERT INTO render_nodes (worker_id) SELECT unnest($1::text[])
     ON CONFLICT (worker_id) DO UPDATE SET beats = render_nodes.beats + 1`,
    [workers],
  );
  // a worker that holds a job but never spoke is watched by the job it holds
  const { rows } = await pool.query(
    `SELECT worker_id AS name, beats::text AS sign FROM render_nodes WHERE worker_id <> ALL($1)
     UNION ALL
     SELECT locked_by, string_agg('job ' || id, ',' ORDER BY id) FROM graphile_worker.jobs
      WHERE locked_by IS NOT NULL AND locked_by <> ALL($1)
        AND locked_by NOT IN (SELECT worker_id FROM render_nodes) GROUP BY locked_by`,
    [workers],
  );
  const silent = silentOf(vigil, new Map(rows.map((r) => [r.name, r.sign])), now);
  if (silent.length > 0) {
    await pool.query('DELETE FROM render_nodes WHERE worker_id = ANY($1)', [silent]);
    await pool.query('SELECT graphile_worker.force_unlock_workers($1::text[])', [silent]);
  }
  // a clock put back leaves jobs due in a far future
  await pool.query(
    `SELECT graphile_worker.reschedule_jobs(array_agg(id), run_at := now()) FROM graphile_worker.jobs
      WHERE locked_at IS NULL AND attempts < max_attempts AND run_at > now() + make_interval(secs => $1)
     HAVING count(*) > 0`,
    [LONGEST_WAIT],
  );
}

/** A node that ends in order leaves nothing to wait for. */
export async function sayGoodbye({ pool }: Session, workers: string[]): Promise<void> {
  await pool.query('DELETE FROM render_nodes WHERE worker_id = ANY($1)', [workers]);
}
