/** Ask the studio: finds commands, settings, finishes, lights, looks, proofs and help by typing. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Command } from './commands.ts';

/** Words typed must all begin a word of the command's group or name. */
function matches(query: string, { group, name }: Pick<Command, 'group' | 'name'>): boolean {
  const words = `${group} ${name}`.toLowerCase().split(/[\s,]+/);
  return query
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((q) => words.some((w) => w.startsWith(q)));
}

export function Palette({ all, onClose }: { all: Command[]; onClose: () => void }) {
  const [query, setQuery] = useState('');
  const [at, setAt] = useState(0);
  const dialog = useRef<HTMLDialogElement>(null);
  const list = useRef<HTMLUListElement>(null);
  const found = useMemo(() => all.filter((c) => matches(query, c)), [all, query]);
  useEffect(() => dialog.current?.showModal(), []);
  useEffect(() => {
    // what scrollIntoView returns is not a clean-up
    void list.current?.children[at]?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  const run = (command: Command | undefined) => {
    if (!command) return;
    onClose();
    command.run();
  };
  return (
    <dialog
      ref={dialog}
      className="modal modal-top items-start pt-20"
      aria-label="Ask the studio"
      onClose={onClose}
      onClick={(e) => e.target === dialog.current && onClose()}
    >
      <div className="modal-box mx-auto w-120 max-w-full rounded-box border border-(--line) p-0">
        <input
          role="combobox"
          aria-expanded
          aria-controls="palette-list"
          aria-label="Find a command, setting, finish, light, look or proof"
          className="w-full border-b border-(--line) bg-transparent px-4 py-3 text-[15px] outline-none"
          placeholder="Find a command, setting, finish, light, look or proof"
          value={query}
          autoFocus
          onChange={(e) => {
            setQuery(e.target.value);
            setAt(0);
          }}
          onKeyDown={(e) => {
            if (e.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
            else if (e.key === 'ArrowUp') setAt(Math.max(0, at - 1));
            else if (e.key === 'Enter') run(found[at]);
            else return;
            e.preventDefault();
          }}
        />
        <ul ref={list} id="palette-list" role="listbox" className="max-h-80 overflow-y-auto py-1">
          {found.map((c, i) => (
            <li
              key={c.id}
              role="option"
              aria-selected={i === at}
              className={`flex cursor-pointer justify-between px-4 py-1 ${i === at ? 'bg-primary text-primary-content' : ''}`}
              onPointerMove={() => setAt(i)}
              onClick={() => run(c)}
            >
              <span>{c.name}</span>
              <span className={i === at ? '' : 'quiet'}>
                {c.key && <kbd className="kbd kbd-xs mr-2 text-base-content">{c.key}</kbd>}
                {c.group}
              </span>
            </li>
          ))}
          {found.length === 0 && <li className="quiet px-4 py-2">Nothing goes by that name.</li>}
        </ul>
      </div>
    </dialog>
  );
}
