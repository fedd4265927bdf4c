/** What the project has been, by time: look at a state, go back to it, or open it as a copy. */
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { cutName } from '@wemlox/core/document';
import { goBackTo } from '@wemlox/core/edits';
import { perform } from '../state/studio.ts';
import { api, assetUrl } from '../state/api.ts';
import type { RevisionLine } from '@wemlox/wire';
import { whenText } from '../state/language.ts';
import { attempt, notify } from '../state/notices.ts';
import { saveNow } from '../state/saving.ts';
import { useStudio } from '../state/studio.ts';
import { Dialog } from '../desk/Dialog.tsx';

const nameOf = ({ label, version }: RevisionLine) =>
  label || (version === null ? 'Kept beside another window’s save' : `Version ${version}`);

export function Revisions({ onClose }: { onClose: () => void }) {
  const id = useStudio((s) => s.id);
  const [list, setList] = useState<RevisionLine[]>([]);
  const go = useNavigate();
  useEffect(() => {
    void attempt('The revisions could not be listed', async () => {
      await saveNow();
      setList(await api.revisions(id));
    });
  }, [id]);
  const back = async (line: RevisionLine) => {
    const document = await attempt('The revision could not be read', () => api.revision(id, line.id));
    if (!document) return;
    perform((p) => goBackTo(p, `${nameOf(line)}, ${whenText(line.savedAt)}`, document));
    onClose();
  };
  const copy = async (line: RevisionLine) => {
    const made = await attempt('No copy was made', async () => {
      const document = await api.revision(id, line.id);
      const name = cutName(`${document.name}, ${whenText(line.savedAt)}`);
      return api.create({ ...document, name }, `Copy of ${nameOf(line)}`);
    });
    if (!made) return;
    notify('done', `Opened ${made.document.name}`);
    void go(`/p/${made.id}`);
  };
  return (
    <Dialog title="Revisions" wide onClose={onClose}>
      <p className="quiet pb-2">
        Every change is kept by its name. Older ones are thinned out; those a proof was kept at stay.
      </p>
      <ol className="max-h-[60vh] overflow-y-auto" aria-label="Revisions, newest first">
        {list.map((line, i) => (
          <li
            key={line.id}
            className="flex items-center gap-3 border-t border-(--line) py-1.5"
            data-revision={line.id}
          >
            {line.picture ? (
              <img
                src={assetUrl(line.picture)}
                alt=""
                loading="lazy"
                className="h-9 w-16 shrink-0 bg-base-200 object-contain"
              />
            ) : (
              <span className="h-9 w-16 shrink-0" />
            )}
            <span className="min-w-0 grow">
              <span className="block truncate">{nameOf(line)}</span>
              <span className="quiet text-xs">
                {whenText(line.savedAt)}
                {line.version === null && ', lost a race and was kept'}
              </span>
            </span>
            {i === 0 && line.version !== null ? (
              <span className="quiet text-xs">as it is now</span>
            ) : (
              <button type="button" className="btn btn-xs" onClick={() => void back(line)}>
                Go back
              </button>
            )}
            <button type="button" className="btn btn-xs" onClick={() => void copy(line)}>
              Open as a copy
            </button>
          </li>
        ))}
      </ol>
      <button type="button" className="btn btn-sm mt-3" onClick={onClose}>
        Close
      </button>
    </Dialog>
  );
}
