/** The sheet of keys under "?". */
import { useEffect, useRef } from 'react';

const KEYS: readonly (readonly [string, string])[] = [
  ['1 … 6', 'steps'],
  [', .', 'previous and next letter'],
  ['↑ ↓', 'zone'],
  ['Tab', 'next number'],
  ['D', 'draft or traced'],
  ['Space, held', 'compare with the last proof'],
  ['K', 'keep a proof'],
  ['[ ]', 'exposure by a third of a stop'],
  ['H', 'handles'],
  ['U, Shift-U', 'undo and redo; Ctrl-Z and Ctrl-Y too'],
  ['/', 'ask the studio'],
  ['Delete', 'clear the chosen face'],
  ['Enter', 'lay the finish from the rack on the chosen face'],
  ['drag, Shift-drag, wheel', 'orbit, pan, dolly'],
  ['double click', 'frame a letter'],
];

export function KeysSheet({ onClose }: { onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-label="Keys"
      onClose={onClose}
      onClick={(e) => e.target === dialog.current && onClose()}
    >
      <div className="modal-box w-120 max-w-full rounded-box border border-(--line)">
        <h2 className="pb-2 text-[15px] font-semibold">Keys</h2>
        <dl className="grid grid-cols-[max-content_1fr] gap-x-5 gap-y-1.5">
          {KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <kbd className="kbd kbd-sm">{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <button type="button" className="btn btn-sm mt-4" onClick={onClose}>
          Close
        </button>
      </div>
    </dialog>
  );
}
