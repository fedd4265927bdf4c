/** The queue: what is being made, what is done. */
import { Download, X } from 'lucide-react';
import { useEffect } from 'react';
import { duration } from '../../stage/Status.tsx';
import { assetUrl, picturesUrl } from '../../state/api.ts';
import type { PressJob } from '@wemlox/wire';
import { useFilming, type Filming } from '../../state/filming.ts';
import { cancelJob, loadPress, underWay, usePress } from '../../state/press.ts';
import { useStudio } from '../../state/studio.ts';

const POLL = 1000;
const ROW =
  'grid grid-cols-[minmax(0,1fr)_220px_140px_150px_170px] items-center gap-4 border-b border-(--line) px-4 py-1.5';

const picturesOf = ({ first, last }: PressJob) => last - first + 1;

/** How much of a job is done, 0 … 1: its pictures, and the samples of those under way. */
function shareDone(job: PressJob): number {
  const all = picturesOf(job);
  if (all === 1) return job.samplesDone / job.samples;
  return Math.min(1, Math.max(job.framesDone / all, job.samplesDone / (job.samples * all)));
}

function stateOf(job: PressJob): string {
  if (job.state === 'waiting') return 'waiting for a render node';
  if (job.state === 'done') return `done in ${duration(job.seconds)}`;
  if (job.state === 'cancelled') return 'cancelled';
  if (job.state === 'failed') return job.message;
  if (job.samplesDone === 0) return 'starting';
  // by the pictures that are done, where there are some: they may stop before all their samples
  const share = shareDone(job);
  return `${duration((job.seconds / share) * (1 - share))} left`;
}

function Row({ job }: { job: PressJob }) {
  const busy = underWay(job);
  const id = useStudio((s) => s.id);
  return (
    <li className={ROW} data-job={job.state}>
      <span className="truncate">{job.name}</span>
      <span className="quiet">
        {job.width} × {job.height}, {job.format}
        {picturesOf(job) > 1 && `, ${picturesOf(job)} pictures`}
        {job.layers && ', layers'}
        {job.denoise > 0 && `, cleaned ${Math.round(job.denoise * 100)} %`}
        {job.noise > 0 && `, to a noise of ${Number((job.noise * 100).toFixed(1))} %`}
      </span>
      <progress
        className="progress w-full"
        aria-label={
          picturesOf(job) > 1
            ? `${job.framesDone} of ${picturesOf(job)} pictures`
            : `${job.samplesDone} of ${job.samples} samples`
        }
        max={1}
        value={job.state === 'done' ? 1 : shareDone(job)}
      />
      <span
        className={
          job.state === 'failed' ? 'truncate rounded-sm bg-warning px-1.5 text-warning-content' : 'quiet'
        }
        title={job.message}
      >
        {stateOf(job)}
      </span>
      <span className="text-right">
        {busy && (
          <button type="button" className="btn btn-xs" onClick={() => void cancelJob(job)}>
            <X size={12} /> Cancel
          </button>
        )}
        {picturesOf(job) > 1 && job.framesDone > 0 && (
          <a className="btn btn-xs" href={picturesUrl(id, job.id)} download>
            <Download size={12} /> {job.framesDone} as .zip
          </a>
        )}
        {job.result && (
          <a className="btn btn-xs" href={assetUrl(job.result)} download={job.name}>
            <Download size={12} /> File
          </a>
        )}
      </span>
    </li>
  );
}

/** The film that the page itself makes. */
function FilmRow({ film }: { film: Filming }) {
  const { name, width, height, done, all, began, stop } = film;
  const left = (((performance.now() - began) / 1000) * (all - done)) / Math.max(1, done);
  return (
    <li className={ROW} data-job="here">
      <span className="truncate">{name}</span>
      <span className="quiet">
        {width} × {height}, {all} pictures, made in this page
      </span>
      <progress
        className="progress w-full"
        aria-label={`${done} of ${all} pictures`}
        max={all}
        value={done}
      />
      <span className="quiet">{done === 0 ? 'starting' : `${duration(left)} left`}</span>
      <span className="text-right">
        <button type="button" className="btn btn-xs" onClick={stop}>
          <X size={12} /> Stop
        </button>
      </span>
    </li>
  );
}

export function PressBand() {
  const list = usePress((p) => p.list);
  const film = useFilming((f) => f.now);
  useEffect(() => {
    const load = () => void loadPress().catch(() => {});
    load();
    const timer = setInterval(load, POLL);
    return () => clearInterval(timer);
  }, []);
  if (list.length === 0 && !film) {
    return (
      <p className="quiet p-4">
        Nothing has been sent to the press. Pictures made there go on while the page is closed.
      </p>
    );
  }
  return (
    <ul className="h-full overflow-y-auto" aria-label="Press queue">
      {film && <FilmRow film={film} />}
      {list.map((job) => (
        <Row key={job.id} job={job} />
      ))}
    </ul>
  );
}
