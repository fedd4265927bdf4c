/** The sheet of keys under "?". */
import { Dialog } from '../desk/Dialog.tsx';

const KEYS: readonly (readonly [string, string])[] = [
  ['1 … 6', 'steps'],
  [', .', 'previous and next letter'],
  ['↑ ↓', 'zone'],
  ['Tab', 'next number'],
  ['Alt-P in a row', 'what it does over time'],
  ['D', 'draft or traced'],
  ['N', 'traced without its noise, or as it is'],
  ['Space, held', 'compare with the last proof'],
  ['K', 'keep a proof'],
  ['P', 'play the shot, and stop'],
  ['← →', 'the picture before, the next'],
  ['[ ]', 'exposure by a third of a stop'],
  ['H', 'handles'],
  ['F', 'the picture alone in the window, and back'],
  ['U, Shift-U', 'undo and redo; Ctrl-Z and Ctrl-Y too'],
  ['/', 'ask the studio'],
  ['Delete', 'clear the chosen face'],
  ['Enter', 'lay the finish last chosen in the rack on the chosen face'],
  ['arrows in the chart', 'cells, and beyond the first ones rows, columns and all faces'],
  [
    'arrows, Space',
    'on the picture, in painting, wishing and catching: lead there, and paint or catch while held',
  ],
  ['drag, Shift-drag, wheel', 'orbit, pan, dolly'],
  ['double click', 'frame a letter'],
];

/** The studio's own words. */
const WORDS: readonly (readonly [string, string])[] = [
  ['block', 'one piece of type: its text, font, solid and place'],
  ['zone', 'a named part of a letter’s surface: front, bevel, side, back; of a tube: glass, gas, electrode'],
  ['finish', 'everything about how a zone looks'],
  ['rack', 'what lies ready beside the band: finishes, surrounds, fonts'],
  ['finish chart', 'letters by zones: which finish is where'],
  ['look', 'one complete answer: finishes, surround, lights and grade'],
  ['surround', 'the environment sphere that lights and is mirrored'],
  ['panel', 'light painted on the surround'],
  ['card', 'a plane that only mirrors see, black or glowing'],
  ['wish', 'what is painted on the picture to be brighter, darker, warmer or cooler'],
  ['piece', 'what stands around the type: floor, wall, backdrop, table, niche, grid, plate, model'],
  ['plate', 'a picture, still or moving, at its place in space'],
  ['flip-book', 'the shot’s pictures traced small, to be played'],
  ['shot', 'camera, frame, and the time in which things move'],
  ['peg', 'beside a row: whether it is keyed, and the ways to let it move'],
  ['proof', 'a traced picture kept with the state that made it'],
];

export function KeysSheet({ onClose }: { onClose: () => void }) {
  return (
    <Dialog title="Keys and words" onClose={onClose}>
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
      <h3 className="pt-4 pb-2 font-semibold">Words</h3>
      <dl className="grid grid-cols-[max-content_1fr] gap-x-5 gap-y-1">
        {WORDS.map(([word, what]) => (
          <div key={word} className="contents">
            <dt>{word}</dt>
            <dd className="quiet">{what}</dd>
          </div>
        ))}
      </dl>
      <button type="button" className="btn btn-sm mt-4" onClick={onClose}>
        Close
      </button>
    </Dialog>
  );
}
