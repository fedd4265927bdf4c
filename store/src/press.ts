/** Press jobs and the films they are made on. */
import type { PressJob, PressOrder } from '@wemlox/wire';
import { newId, type Project } from '@wemlox/core/document';
import { useAssets } from './assets.ts';
import { inTransaction, MissingError } from './database.ts';
import type { Session } from './session.ts';

/** Name of the task in the queue. */
export const PRESS_TASK = 'press';
/** Times a job is taken up again after what may pass. */
export const PRESS_ATTEMPTS = 25;

const LINE = `id, name, look, shot, width, height, samples, seed, format, alpha, layers, denoise, noise, state, samples_done, seconds,
  message, result, asked_at, actor`;

const jobOf = (r: Record<string, unknown> & { asked_at: Date }): PressJob => {
  const { samples_done, asked_at, seed, ...rest } = r;
  return {
    ...(rest as unknown as PressJob),
    seed: Number(seed),
    samplesDone: samples_done as number,
    askedAt: asked_at.toISOString(),
  };
};

/** Records an order and puts it into the queue, in one transaction. */
export async function askPress(
  { pool, actor }: Session,
  project: string,
  document: Project,
  order: PressOrder,
): Promise<PressJob> {
  return inTransaction(pool, async (client) => {
    const { rows } = await client.query(
      `INSERT INTO press_jobs (id, project_id, name, look, shot, document, width, height, samples, seed, format, alpha,
              layers, denoise, noise, actor)
       SELECT $1, p.id, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16 FROM projects p WHERE p.id = $2
       RETURNING ${LINE}`,
      [
        newId(),
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
      ],
    );
    if (rows.length === 0) throw new MissingError(`no project ${project}`);
    const job = jobOf(rows[0]);
    await useAssets(client, project, document);
    // due whatever the clock says now or later
    await client.query(
      `SELECT graphile_worker.add_job($1, json_build_object('id', $2::text), job_key := $2::text,
              run_at := to_timestamp(0), max_attempts := $3)`,
      [PRESS_TASK, job.id, PRESS_ATTEMPTS],
    );
    return job;
  });
}

/** Newest first. */
export async function listPress({ pool }: Session, project: string): Promise<PressJob[]> {
  const { rows } = await pool.query(
    `SELECT ${LINE} FROM press_jobs WHERE project_id = $1 ORDER BY n DESC LIMIT 100`,
    [project],
  );
  return rows.map(jobOf);
}

/** A job with the document it is made from, as it is kept. @throws MissingError */
export async function readPress({ pool }: Session, id: string): Promise<PressJob & { document: unknown }> {
  const { rows } = await pool.query(`SELECT ${LINE}, document FROM press_jobs WHERE id = $1`, [id]);
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

/** Reports how far a job is; false when it has been cancelled meanwhile. */
export async function reportPress(
  { pool }: Session,
  id: string,
  samplesDone: number,
  seconds: number,
): Promise<boolean> {
  const { rowCount } = await pool.query(
    `UPDATE press_jobs SET state = 'tracing', samples_done = $2, seconds = $3
      WHERE id = $1 AND state IN ('waiting', 'tracing')`,
    [id, samplesDone, seconds],
  );
  return rowCount === 1;
}

export async function endPress(
  { pool }: Session,
  id: string,
  end: { result: string; samples: number } | { failed: string },
): Promise<void> {
  await inTransaction(pool, async (client) => {
    const [state, result, message, done] =
      'failed' in end ? ['failed', null, end.failed, null] : ['done', end.result, '', end.samples];
    await client.query(
      `UPDATE press_jobs SET state = $2, result = $3, message = $4, samples_done = coalesce($5, samples_done), ended_at = now()
        WHERE id = $1 AND state <> 'cancelled'`,
      [id, state, result, message, done],
    );
    await client.query('DELETE FROM press_films WHERE job_id = $1', [id]);
  });
}

/** Bytes of a film kept in one row. */
const CHUNK = 16 << 20;

/** Keeps the film as it stands after `samples`, in place of what was kept before. */
export async function keepFilm(
  { pool }: Session,
  id: string,
  samples: number,
  film: Uint8Array,
): Promise<void> {
  await inTransaction(pool, async (client) => {
    await client.query('DELETE FROM press_films WHERE job_id = $1', [id]);
    for (let n = 0; n * CHUNK < film.length; n++) {
      await client.query('INSERT INTO press_films (job_id, n, samples, data) VALUES ($1, $2, $3, $4)', [
        id,
        n,
        samples,
        Buffer.from(film.subarray(n * CHUNK, (n + 1) * CHUNK)),
      ]);
    }
  });
}

/** The kept film and its samples; null when none was kept. */
export async function keptFilm(
  { pool }: Session,
  id: string,
): Promise<{ samples: number; film: Uint8Array } | null> {
  const { rows } = await pool.query('SELECT samples, data FROM press_films WHERE job_id = $1 ORDER BY n', [
    id,
  ]);
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
