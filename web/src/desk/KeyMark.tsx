/** The peg beside a parameter's row: whether it changes over time, and the ways to let it. */
import { useEffect } from 'react';
import type { MoveKind, Parameter } from '@wemlox/core/document';
import { keyHere, keyNow, moveBy, standStill, trackOf, unkeyHere } from '../actions/motion.ts';
import { useStudio } from '../state/studio.ts';
import { useShot, useTime } from '../state/time.ts';
import { usePopup } from './usePopup.ts';

/** What can move a parameter by itself, by its kind; those of lights and glows may flicker. */
const MOVES: readonly (readonly [MoveKind, string, (p: Parameter, address: string) => boolean])[] = [
  ['turn', 'Turns on', (p) => p.kind === 'number'],
  ['swing', 'Swings', () => true],
  ['drift', 'Drifts', () => true],
  ['wander', 'Wanders', () => true],
  ['breathe', 'Breathes', (p) => p.kind !== 'point'],
  [
    'pass',
    'Passes along the word',
    (p, address) => p.kind === 'point' && /\/place$|\/target$|\/aim$/.test(address),
  ],
  ['flicker', 'Flickers', (p) => p.kind === 'number' && p.min >= 0],
];

/** Opens the peg of the row that the keyboard is in. */
export function openPeg(event: React.KeyboardEvent<HTMLElement>): void {
  if (!event.altKey || event.code !== 'KeyP') return;
  event.preventDefault();
  event.currentTarget.querySelector<HTMLElement>('[data-peg]')?.click();
}

export function KeyMark({ address, parameter }: { address: string; parameter: Parameter }) {
  const { open, setOpen, box } = usePopup();
  useEffect(() => {
    if (open) box.current?.querySelector<HTMLElement>('[role=menuitem]')?.focus();
  }, [open, box]);
  const shot = useShot();
  // whether a key is here goes with the time
  useStudio((s) => s.frame);
  const track = trackOf(address);
  const key = track && keyNow(track);
  const moves = shot.moves.some((m) => m.address === address);
  const state = key ? 'a key here' : track ? 'keyed' : moves ? 'moves by itself' : 'still';
  const act = (run: () => void) => () => {
    setOpen(false);
    useTime.setState({ row: address });
    run();
  };
  const items: [string, () => void][] = [
    key ? ['Take the key out', () => unkeyHere(address)] : ['Key here', () => keyHere(address)],
    ...(track ? [['Stand still', () => standStill(track.id)] as [string, () => void]] : []),
    ...(parameter.kind === 'switch'
      ? []
      : MOVES.filter(([, , suits]) => suits(parameter, address)).map(([kind, name]): [string, () => void] => [
          name,
          () => moveBy(kind, address),
        ])),
  ];
  return (
    <div ref={box} className="absolute top-1 -right-3.5">
      <button
        type="button"
        className={`flex h-4 w-3 cursor-pointer items-center justify-center focus-visible:opacity-100 ${
          track || moves ? '' : 'opacity-25 group-hover:opacity-100'
        }`}
        data-peg={address}
        // Tab goes from number to number; Alt-P in a row opens its peg
        tabIndex={-1}
        aria-label={`${parameter.name} over time: ${state}`}
        aria-haspopup="menu"
        aria-expanded={open}
        title={`${parameter.name} over time: ${state}`}
        onClick={() => setOpen(!open)}
      >
        <span className={`peg ${track || moves ? 'peg-moves' : ''} ${key ? 'peg-set' : ''}`} />
      </button>
      {open && (
        <ul
          className="menu absolute top-5 right-0 z-30 w-48 flex-nowrap rounded-box border border-(--line) bg-base-100 p-1"
          role="menu"
          aria-label={`${parameter.name} over time`}
        >
          {items.map(([name, run]) => (
            <li key={name} role="none">
              <button type="button" role="menuitem" onClick={act(run)}>
                {name}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
