/** The project's finishes, each on the chosen letter in the present light; drag one onto the chart. */
import { useDraggable } from '@dnd-kit/core';
import { Plus, Upload, X } from 'lucide-react';
import { usePopup } from '../desk/usePopup.ts';
import { useEffect, useRef, useState } from 'react';
import type { Finish } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { want } from '../engine/cells.ts';
import { useShown } from '../state/shown.ts';
import { addFinish, dressFaces } from '../actions/finishes.ts';
import { takeMaterials } from '../actions/materials.ts';
import { choose, useChoice } from '../state/choice.ts';
import { loadLibrary, takeOut, useLibrary } from '../state/library.ts';
import { useStudio } from '../state/studio.ts';
import { endTrial, tryFinish } from '../state/trial.ts';
import { fromColour, fromFinish } from '@wemlox/core/finish/likeness';
import { toHex } from '@wemlox/core/maths/colour';
import { useChosenFinish } from '../state/chosen.ts';
import { CellPicture, useSeen } from './CellPicture.tsx';

const TILE = { width: 88, height: 56 };
const OFFER = { width: 120, height: 56 };

interface Place {
  block: string;
  letter: string;
}

function Tile({ finish, letter, chosen }: { finish: Finish; letter: Place | undefined; chosen: boolean }) {
  const drag = useDraggable({ id: `finish/${finish.id}`, data: { finish: finish.id } });
  const [box, seen] = useSeen<HTMLButtonElement>();
  const key = `rack/${finish.id}`;
  const { surface } = finish;
  useEffect(() => {
    // a finish just added, or chosen elsewhere, comes into sight
    if (chosen) box.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen, box]);
  useEffect(() => {
    if (seen && letter) return want({ key, ...letter, finish: finish.id, unfolded: null, ...TILE });
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

/** Whether a finish has all that is typed in its name, its family, its tags, or the names of its coats. */
function isLike({ name, family, tags, coats }: Finish, typed: string): boolean {
  const text = [name, family, ...tags, ...coats.map((c) => c.name)].join(' ').toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** What finishes are ordered by, nearest first. */
interface Near {
  name: string;
  apart: (finish: Finish) => number;
}

const ordered = (all: readonly Finish[], near: Near | null): readonly Finish[] =>
  near ? [...all].sort((a, b) => near.apart(a) - near.apart(b)) : all;

/** Colours a finish is sought by, linear. */
const COLOURS = [
  { name: 'White', colour: [0.8, 0.8, 0.8] },
  { name: 'Black', colour: [0.01, 0.01, 0.01] },
  { name: 'Red', colour: [0.5, 0.02, 0.03] },
  { name: 'Gold', colour: [0.85, 0.55, 0.15] },
  { name: 'Green', colour: [0.03, 0.3, 0.06] },
  { name: 'Blue', colour: [0.02, 0.07, 0.45] },
  { name: 'Violet', colour: [0.25, 0.03, 0.4] },
] as const;

/** The name a finish goes by while it is only tried: its own may be taken in the project. */
const tried = (id: string) => `try:${id}`;

/** A finish to start from, on the artist's own letter in the present light. */
function Offer({
  finish,
  letter,
  onPick,
}: {
  finish: Finish;
  letter: Place | undefined;
  onPick: () => void;
}) {
  const [box, seen] = useSeen<HTMLButtonElement>();
  const id = tried(finish.id);
  const key = letter ? `${id}/${letter.letter}` : id;
  useEffect(() => {
    if (!seen || !letter) return;
    tryFinish({ ...finish, id, within: null });
    return want({ key, ...letter, finish: id, unfolded: null, ...OFFER });
  }, [key, letter, id, seen, finish]);
  return (
    <button
      ref={box}
      type="button"
      role="menuitem"
      className="flex min-w-0 flex-col items-stretch gap-0 px-1 py-1 text-left"
      onClick={onPick}
    >
      <CellPicture cellKey={key} className="h-14 w-full bg-base-200 object-cover" />
      <span className="truncate text-xs">{finish.name}</span>
      <span className="quiet truncate text-[11px]">{finish.family}</span>
    </button>
  );
}

/** Finishes of one origin to start from. */
function Offers({
  name,
  finishes,
  letter,
  onPick,
  onTakeOut,
}: {
  name: string;
  finishes: readonly Finish[];
  letter: Place | undefined;
  onPick: (finish: Finish) => void;
  onTakeOut?: (finish: Finish) => unknown;
}) {
  return (
    <div role="group" aria-label={name}>
      <p className="quiet px-2 py-1 text-xs" aria-hidden>
        {name}
      </p>
      <ul role="none" className="grid grid-cols-3 content-start gap-0.5">
        {finishes.map((f) => (
          <li key={f.id} role="none" className="relative min-w-0">
            <Offer finish={f} letter={letter} onPick={() => onPick(f)} />
            {onTakeOut && (
              <button
                type="button"
                role="menuitem"
                className="absolute top-0 right-0 w-auto bg-base-100 px-1 py-0.5"
                aria-label={`Take ${f.name} out of the library`}
                onClick={() => onTakeOut(f)}
              >
                <X size={12} />
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Ready finishes and those of the library to start from; using one makes the project's own copy. */
function MakeMenu({ letter }: { letter: Place | undefined }) {
  const { open, setOpen, box } = usePopup();
  const [typed, setTyped] = useState('');
  const { finishes: kept, known } = useLibrary();
  useEffect(() => {
    if (open) void loadLibrary();
  }, [open]);
  useEffect(() => (open ? endTrial : undefined), [open]);
  const inDesk = useChosenFinish();
  /** What the lists are in the order of; the rack's own when null. */
  const [near, setNear] = useState<Near | null>(null);
  const [sought, made] = [kept, READY_FINISHES].map((all) =>
    ordered(
      all.filter((f) => isLike(f, typed)),
      near,
    ),
  );
  const add = (finish: Finish | null) => {
    addFinish(finish);
    setOpen(false);
  };
  const first = sought[0] ?? made[0];
  /** Enter was pressed before it was known what there is. */
  const [entered, setEntered] = useState(false);
  useEffect(() => {
    if (!entered || (open && !known)) return;
    setEntered(false);
    if (open && first) add(first);
    // what is first, and how it is added, follows from these
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [entered, open, known]);
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
        <div className="absolute right-0 bottom-7 z-30 w-100 rounded-box border border-(--line) bg-base-100 p-1">
          <input
            ref={(field) => field?.focus()}
            type="search"
            aria-label="Find a finish"
            placeholder="Name, family or tag"
            className="input input-xs w-full"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              setEntered(false);
            }}
            onKeyDown={(event) => event.key === 'Enter' && setEntered(true)}
          />
          <div className="flex items-center gap-1 px-1 py-1.5">
            {COLOURS.map(({ name, colour }) => (
              <button
                key={name}
                type="button"
                className={`h-4 w-4 rounded-full border border-(--line) ${near?.name === name ? 'outline-2 outline-primary' : ''}`}
                style={{ background: toHex(colour) }}
                aria-label={`${name} first`}
                aria-pressed={near?.name === name}
                title={`${name} first`}
                onClick={() =>
                  setNear(near?.name === name ? null : { name, apart: (f) => fromColour(f, colour) })
                }
              />
            ))}
            {inDesk && (
              <button
                type="button"
                className={`btn btn-xs ml-auto max-w-28 px-1.5 ${near?.name === inDesk.id ? 'btn-primary' : ''}`}
                aria-pressed={near?.name === inDesk.id}
                title={`Those most like ${inDesk.name} first`}
                onClick={() =>
                  setNear(
                    near?.name === inDesk.id
                      ? null
                      : { name: inDesk.id, apart: (f) => fromFinish(f, inDesk) },
                  )
                }
              >
                <span className="truncate">Like {inDesk.name}</span>
              </button>
            )}
          </div>
          {/* what is offered comes whole: tiles that move under the pointer are picked by mistake */}
          {known && (
            <div
              className="menu max-h-96 w-full flex-nowrap overflow-y-auto p-0"
              role="menu"
              aria-label="Finishes to add"
            >
              {sought.length > 0 && (
                <Offers name="Library" letter={letter} finishes={sought} onPick={add} onTakeOut={takeOut} />
              )}
              <Offers name="Ready made" letter={letter} finishes={made} onPick={add} />
              <button type="button" role="menuitem" className="px-1 py-1 text-left" onClick={() => add(null)}>
                New finish
              </button>
            </div>
          )}
        </div>
      )}
    </div>
  );
}

/** Takes materials of other programs in. */
function TakeFile() {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className="btn btn-xs"
        title="MaterialX: .mtlx, or a zip of one with its pictures"
        onClick={() => input.current?.click()}
      >
        <Upload size={12} /> MaterialX
      </button>
      <input
        ref={input}
        type="file"
        accept=".mtlx,.zip"
        hidden
        data-testid="material-file"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          if (file) void takeMaterials(file);
          e.target.value = '';
        }}
      />
    </>
  );
}

export function FinishRack() {
  const finishes = useStudio((s) => s.seen.finishes);
  const face = useChoice((c) => c.face);
  const chosen = useChoice((c) => c.finish);
  const letter = useShown((v) => {
    const all = v.blocks.flatMap((b) => b.letters);
    return all.find((l) => l.letter === face?.letter && l.block === face.block) ?? all[0];
  });
  const block = letter?.block;
  const id = letter?.letter;
  const [shown, setShown] = useState<Place>();
  useEffect(() => setShown(block && id ? { block, letter: id } : undefined), [block, id]);
  return (
    <div className="flex h-full flex-col px-4 py-2">
      <div className="quiet flex items-center justify-between pb-1.5 text-xs">
        Finishes in this project
        <span className="flex gap-1.5">
          <TakeFile /> <MakeMenu letter={shown} />
        </span>
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
