/** The project's finishes, each on the chosen letter in the present light; drag one onto the chart. */
import { useDraggable } from '@dnd-kit/core';
import { Plus, X } from 'lucide-react';
import { usePopup } from '../desk/usePopup.ts';
import { useEffect, useState } from 'react';
import type { Finish } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { want } from '../engine/cells.ts';
import { useShown } from '../state/shown.ts';
import { addFinish, dressFaces } from '../actions/finishes.ts';
import { choose, useChoice } from '../state/choice.ts';
import { loadLibrary, takeOut, useLibrary } from '../state/library.ts';
import { useStudio } from '../state/studio.ts';
import { CellPicture, useSeen } from './FinishChart.tsx';

const TILE = { width: 88, height: 56 };

function Tile({
  finish,
  letter,
  chosen,
}: {
  finish: Finish;
  letter: { block: string; letter: string } | undefined;
  chosen: boolean;
}) {
  const drag = useDraggable({ id: `finish/${finish.id}`, data: { finish: finish.id } });
  const [box, seen] = useSeen<HTMLButtonElement>();
  const key = `rack/${finish.id}`;
  const { surface } = finish;
  useEffect(() => {
    // a finish just added, or chosen elsewhere, comes into sight
    if (chosen) box.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen, box]);
  useEffect(() => {
    if (seen && letter) return want({ key, ...letter, zone: null, finish: finish.id, ...TILE });
    // a changed surface is a new scene, which retraces all that is wanted
  }, [key, letter, finish.id, surface, seen]);
  return (
    <button
      ref={(node) => {
        box.current = node;
        drag.setNodeRef(node);
      }}
      type="button"
      {...drag.attributes}
      {...drag.listeners}
      role="option"
      aria-selected={chosen}
      data-finish={finish.id}
      className={`flex cursor-grab touch-none flex-col items-stretch gap-0.5 rounded-xs text-left ${drag.isDragging ? 'opacity-40' : ''}`}
      onClick={() => choose(chosen ? { finish: null } : { finish: finish.id, brush: finish.id })}
      onKeyDown={(e) => {
        const { face } = useChoice.getState();
        if (e.key !== 'Enter' || !face) return;
        e.preventDefault();
        e.stopPropagation();
        choose({ brush: finish.id });
        dressFaces(face, finish.id);
      }}
    >
      <CellPicture
        cellKey={key}
        className={`h-14 w-full bg-base-200 object-cover ${chosen ? 'outline-2 outline-primary' : ''}`}
      />
      <span className={`truncate text-xs ${chosen ? 'text-primary' : ''}`}>{finish.name}</span>
    </button>
  );
}

/** Whether a finish has all that is typed in its name, its family, or those of its coats. */
function isLike({ name, family, coats }: Finish, typed: string): boolean {
  const text = [name, family, ...coats.map((c) => c.name)].join(' ').toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** Ready finishes and those of the library to start from; using one makes the project's own copy. */
function MakeMenu() {
  const { open, setOpen, box } = usePopup();
  const [typed, setTyped] = useState('');
  const kept = useLibrary((l) => l.finishes);
  useEffect(() => {
    if (open) void loadLibrary();
  }, [open]);
  const sought = kept.filter((f) => isLike(f, typed));
  const made = READY_FINISHES.filter((f) => isLike(f, typed));
  const add = (finish: Finish | null) => {
    addFinish(finish);
    setOpen(false);
  };
  return (
    <div ref={box} className="relative">
      <button
        type="button"
        className="btn btn-xs"
        aria-haspopup="menu"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <Plus size={12} /> Add
      </button>
      {open && (
        <div className="absolute right-0 bottom-7 z-30 w-64 rounded-box border border-(--line) bg-base-100 p-1">
          <input
            ref={(field) => field?.focus()}
            type="search"
            aria-label="Find a finish"
            placeholder="Name or family"
            className="input input-xs w-full"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={(event) => {
              const first = sought[0] ?? made[0];
              if (event.key === 'Enter' && first) add(first);
            }}
          />
          <ul
            className="menu max-h-80 w-full flex-nowrap overflow-y-auto p-0"
            role="menu"
            aria-label="Finishes to add"
          >
            {sought.length > 0 && (
              <li role="presentation" className="menu-title">
                Library
              </li>
            )}
            {sought.map((f) => (
              <li key={f.id} role="none" className="flex-row flex-nowrap">
                <button
                  type="button"
                  role="menuitem"
                  className="flex grow justify-between"
                  onClick={() => add(f)}
                >
                  {f.name} <span className="quiet text-xs">{f.family}</span>
                </button>
                <button
                  type="button"
                  role="menuitem"
                  className="px-2"
                  aria-label={`Take ${f.name} out of the library`}
                  onClick={() => void takeOut(f)}
                >
                  <X size={12} />
                </button>
              </li>
            ))}
            {sought.length > 0 && (
              <li role="presentation" className="menu-title">
                Ready made
              </li>
            )}
            {made.map((f) => (
              <li key={f.id} role="none">
                <button type="button" role="menuitem" className="flex justify-between" onClick={() => add(f)}>
                  {f.name} <span className="quiet text-xs">{f.family}</span>
                </button>
              </li>
            ))}
            <li role="none">
              <button type="button" role="menuitem" onClick={() => add(null)}>
                New finish
              </button>
            </li>
          </ul>
        </div>
      )}
    </div>
  );
}

export function FinishRack() {
  const finishes = useStudio((s) => s.project.finishes);
  const face = useChoice((c) => c.face);
  const chosen = useChoice((c) => c.finish);
  const letter = useShown((v) => {
    const all = v.blocks.flatMap((b) => b.letters);
    return all.find((l) => l.letter === face?.letter && l.block === face.block) ?? all[0];
  });
  const block = letter?.block;
  const id = letter?.letter;
  const [shown, setShown] = useState<{ block: string; letter: string }>();
  useEffect(() => setShown(block && id ? { block, letter: id } : undefined), [block, id]);
  return (
    <div className="flex h-full flex-col px-4 py-2">
      <div className="quiet flex items-center justify-between pb-1.5 text-xs">
        Finishes in this project <MakeMenu />
      </div>
      <div
        role="listbox"
        aria-label="Finishes in this project"
        className="grid min-h-0 grid-cols-3 gap-x-2.5 gap-y-1.5 overflow-y-auto p-0.5"
      >
        {finishes.map((f) => (
          <Tile key={f.id} finish={f} letter={shown} chosen={f.id === chosen} />
        ))}
      </div>
      {finishes.length === 0 && <p className="quiet">Add a finish to dress the letters.</p>}
    </div>
  );
}
