/** Somebody saved first: both versions are kept, until the artist says which one to go on with here. */
import { useEffect, useMemo, useRef } from 'react';
import { useNavigate } from 'react-router';
import { differences, type Difference } from '@wemlox/core/document';
import { numberText } from '../state/language.ts';
import { attempt } from '../state/notices.ts';
import { settle, useSaving } from '../state/saving.ts';
import { useStudio } from '../state/studio.ts';

/** Differences that are shown; of more it is told how many. */
const SHOWN = 12;

/** A value in a few words. */
function inShort(value: unknown): string {
  if (value === undefined) return 'not there';
  if (value === null) return 'nothing';
  if (typeof value === 'number') return numberText(value, Math.abs(value) < 10 ? 3 : 1);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'string') return `“${value.length > 32 ? `${value.slice(0, 32)}…` : value}”`;
  if (Array.isArray(value))
    return value.every((v) => typeof v === 'number')
      ? value.map(inShort).join(', ')
      : `${value.length} entries`;
  return 'there';
}

const inWords = (key: string) =>
  key.replaceAll('_', ' ').replace(/([a-z])([A-Z])/g, (_, a, b) => `${a} ${b.toLowerCase()}`);

function Differences({ list }: { list: Difference[] }) {
  return (
    <table className="table table-xs mb-4">
      <thead>
        <tr>
          <th>What</th>
          <th>Here</th>
          <th>There</th>
        </tr>
      </thead>
      <tbody>
        {list.slice(0, SHOWN).map(({ where, mine, theirs }) => (
          <tr key={where.join('/')}>
            <td>{where.map(inWords).join(' › ')}</td>
            <td>{inShort(mine)}</td>
            <td>{inShort(theirs)}</td>
          </tr>
        ))}
        {list.length > SHOWN && (
          <tr>
            <td colSpan={3} className="quiet">
              and {list.length - SHOWN} more
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

export function ConflictDialog() {
  const conflict = useSaving((s) => s.conflict);
  const mine = useStudio((s) => s.project);
  const go = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (conflict) dialog.current?.showModal();
  }, [conflict]);
  const found = useMemo(() => (conflict ? differences(mine, conflict.document) : []), [mine, conflict]);
  if (!conflict) return null;
  const choose = async (keep: 'mine' | 'theirs' | 'both') => {
    const copy = await attempt('The copy was not made', () => settle(keep));
    if (copy) void go(`/p/${copy}`);
  };
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-labelledby="conflict-title"
      onCancel={(e) => e.preventDefault()}
    >
      <div className="modal-box max-w-160 rounded-box border border-(--line)">
        <h2 id="conflict-title" className="pb-2 text-[15px] font-semibold">
          This project was changed in another window
        </h2>
        <p className="pb-3">
          Version {conflict.version} was saved there before your last change here. Nothing is lost: the one
          you do not go on with stays among the revisions.
        </p>
        {found.length > 0 ? <Differences list={found} /> : <p className="pb-4">Both say the same.</p>}
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn btn-primary btn-sm" onClick={() => void choose('both')}>
            Keep mine as a copy
          </button>
          <button type="button" className="btn btn-sm" onClick={() => void choose('mine')}>
            Go on with mine
          </button>
          <button type="button" className="btn btn-sm" onClick={() => void choose('theirs')}>
            Take the other
          </button>
        </div>
      </div>
    </dialog>
  );
}
