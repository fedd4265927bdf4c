/** A window over the studio that Escape, a click beside it or its button closes. */
import { useEffect, useId, useRef, type ReactNode } from 'react';

export function Dialog({
  title,
  wide = false,
  onClose,
  children,
}: {
  title: string;
  wide?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  const id = useId();
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-labelledby={id}
      onClose={onClose}
      onClick={(e) => e.target === dialog.current && onClose()}
    >
      <div className={`modal-box max-w-full rounded-box border border-(--line) ${wide ? 'w-160' : 'w-120'}`}>
        <h2 id={id} className="pb-2 text-[15px] font-semibold">
          {title}
        </h2>
        {children}
      </div>
    </dialog>
  );
}
