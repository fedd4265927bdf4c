/** A project that cannot be opened: what is wrong with it, and the last state that can be. */
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ApiError } from '../state/api.ts';
import type { RevisionLine } from '@wemlox/wire';
import { whenText } from '../state/language.ts';
import { attempt } from '../state/notices.ts';

/** Problems that are shown. */
const SHOWN = 8;

export function Broken({ id, error, onMended }: { id: string; error: Error; onMended: () => void }) {
  const go = useNavigate();
  const [good, setGood] = useState<RevisionLine | null>(null);
  const problems =
    error instanceof ApiError && Array.isArray(error.body.problems) ? (error.body.problems as string[]) : [];
  const malformed = problems.length > 0;
  useEffect(() => {
    if (malformed)
      void api.goodRevision(id).then(setGood, () => {
        // none can be opened: the way to all projects is left
      });
  }, [id, malformed]);
  const back = async () => {
    const done = await attempt('Not brought back', () => api.goBackTo(id, good!.id));
    if (done) onMended();
  };
  return (
    <main className="grid min-h-dvh place-content-center gap-3 p-6">
      <h1 className="text-[15px] font-semibold">This project cannot be opened</h1>
      {malformed ? (
        <>
          <p>What is stored of it is not a valid project:</p>
          <ul className="max-w-160 list-disc pl-5">
            {problems.slice(0, SHOWN).map((p) => (
              <li key={p} className="break-words">
                {p}
              </li>
            ))}
            {problems.length > SHOWN && <li>and {problems.length - SHOWN} more</li>}
          </ul>
          {good && (
            <p>
              The last good revision is from {whenText(good.savedAt)}
              {good.label && ` (${good.label})`}. What is stored now stays among the revisions.
            </p>
          )}
        </>
      ) : (
        <p>{error.message}</p>
      )}
      <div className="flex gap-2">
        {good && (
          <button type="button" className="btn btn-primary btn-sm" onClick={() => void back()}>
            Go back to the last good revision
          </button>
        )}
        <button type="button" className="btn btn-sm" onClick={onMended}>
          Try again
        </button>
        <button type="button" className="btn btn-sm" onClick={() => void go('/')}>
          All projects
        </button>
      </div>
    </main>
  );
}
