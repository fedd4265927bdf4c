/** A row whose value is picked from a menu of named things. */
import { ChevronDown } from 'lucide-react';
import { usePopup } from './usePopup.ts';

interface Item {
  id: string;
  name: string;
}

export function PickMenu({
  label,
  text,
  items,
  onPick,
}: {
  label: string;
  /** What is picked, in words. */
  text: string;
  items: readonly Item[];
  onPick: (id: string) => void;
}) {
  const { open, setOpen, box } = usePopup();
  return (
    <div ref={box} className="relative min-w-0 grow">
      <button
        type="button"
        className="flex h-6 w-full cursor-pointer items-center justify-between gap-2 rounded-xs border border-(--line) px-2 text-left text-xs"
        aria-haspopup="menu"
        aria-expanded={open}
        aria-label={`${label}: ${text}`}
        onClick={() => setOpen(!open)}
      >
        <span className="truncate">{text}</span> <ChevronDown size={12} />
      </button>
      {open && (
        <ul
          className="menu absolute right-0 z-30 max-h-64 w-full flex-nowrap overflow-y-auto rounded-box border border-(--line) bg-base-100 p-1"
          role="menu"
          aria-label={label}
        >
          {items.map(({ id, name }) => (
            <li key={id} role="none">
              <button
                type="button"
                role="menuitem"
                onClick={() => {
                  setOpen(false);
                  onPick(id);
                }}
              >
                {name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
