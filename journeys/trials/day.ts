/** A day of dragging: eight hours, a drag every four seconds, each saved three times. How much the database grows. */
import type { Project } from '@wemlox/core/document';
import { newId } from '@wemlox/core/document';
import { artistAt, createProject, listRevisions, saveProject } from '@wemlox/store';
import { freshDatabase } from '../../store/test/freshDatabase.ts';
import type { Outcome } from './table.ts';

const HOURS = 8;
const SECONDS_A_DRAG = 4;
const SAVES_A_DRAG = 3;
const MOST_MB = 100;

export async function dayOfDragging(document: Project, deadline: number): Promise<Outcome> {
  const { pool, end } = await freshDatabase();
  const size = async () =>
    Number((await pool.query('SELECT pg_database_size(current_database()) AS n')).rows[0].n) / 1e6;
  const before = await size();
  const { id } = await createProject(artistAt(pool), document);
  let version = 1;
  let most = 0;
  const drags = (HOURS * 3600) / SECONDS_A_DRAG;
  const dragsAMinute = 60 / SECONDS_A_DRAG;
  let done = 0;
  for (; done < drags && performance.now() < deadline; done++) {
    const step = newId();
    for (let k = 0; k < SAVES_A_DRAG; k++) {
      const looks = document.looks.map((l) => ({
        ...l,
        surround: { ...l.surround, turn: Math.sin(version) },
      }));
      const save = { id: newId(), step, label: 'Turn of the surround' };
      version = (await saveProject(artistAt(pool), id, version, { ...document, looks }, save)).version;
    }
    // ten minutes pass at once, so that what fell into one span of the thinning stays in one
    if (done % (10 * dragsAMinute) === 10 * dragsAMinute - 1)
      await pool.query(
        "UPDATE revisions SET saved_at = saved_at - interval '10 minutes' WHERE project_id = $1",
        [id],
      );
    if (done % dragsAMinute !== dragsAMinute - 1) continue;
    // every minute the database tidies up by itself
    await pool.query('VACUUM projects');
    await pool.query('VACUUM revisions');
    most = Math.max(most, (await size()) - before);
  }
  const kept = (await listRevisions(artistAt(pool), id)).length;
  await end();
  const came = `${done} drags, ${version - 1} saves, ${kept} revisions kept, ${most.toFixed(1)} MB at most`;
  const note = done < drags ? `time was up at ${done} of ${drags} drags: ${came}` : came;
  const lost = most < MOST_MB ? [] : [came];
  // a part of a day says nothing, unless it is too much already
  const days = done === drags || lost.length > 0 ? 1 : 0;
  return { trial: 'a day of dragging under 100 MB', done: days, held: days - lost.length, lost, note };
}
