/** Somebody saved first: both versions are kept, until the artist says which one to go on with here. */
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { attempt } from '../state/notices.ts';
import { settle, useSaving } from '../state/saving.ts';

export function ConflictDialog() {
  const conflict = useSaving((s) => s.conflict);
  const go = useNavigate();
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (conflict) dialog.current?.showModal();
  }, [conflict]);
  if (!conflict) return null;
  const choose = async (keep: 'mine' | 'theirs' | 'both') => {
    const copy = await attempt('The copy was not made', () => settle(keep));
    if (copy) void go(`/p/${copy}`);
  };
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-label="Changed in another window"
      onCancel={(e) => e.preventDefault()}
    >
      <div className="modal-box rounded-box border border-(--line)">
        <h2 className="pb-2 text-[15px] font-semibold">This project was changed in another window</h2>
        <p className="pb-4">
          Version {conflict.version} was saved there before your last change here. If you go on with yours,
          the other stays in the project’s revisions; if you take the other, what you changed since is
          dropped.
        </p>
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
