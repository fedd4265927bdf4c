import { X } from 'lucide-react';
import { dismiss, useNotices } from '../state/notices.ts';

/** Messages at the foot of the stage. */
export function Notices() {
  const list = useNotices((n) => n.list);
  return (
    <div className="absolute right-3 bottom-3 flex flex-col items-end gap-1.5" role="status">
      {list.map((n) => (
        <div
          key={n.id}
          className={`flex max-w-md items-center gap-3 rounded-sm px-3 py-2 ${n.kind === 'problem' ? 'bg-warning text-warning-content' : 'bg-neutral text-neutral-content'}`}
        >
          <span>{n.text}</span>
          {n.action && (
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => {
                n.action!.run();
                dismiss(n.id);
              }}
            >
              {n.action.label}
            </button>
          )}
          <button type="button" aria-label="Dismiss" className="cursor-pointer" onClick={() => dismiss(n.id)}>
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}
