/** The keyboard, outside of fields. */
import { useEffect } from 'react';
import type { NavigateFunction } from 'react-router';
import { dressFaces } from '../actions/finishes.ts';
import { choose, toggleAlone, useAlone, useChoice } from '../state/choice.ts';
import { keepProof } from '../actions/proofs.ts';
import { redo } from '../state/studio.ts';
import { stepFrames, togglePlay } from '../state/time.ts';
import { goBackOne } from '../state/travel.ts';
import { STEPS } from '../state/words.ts';
import { moveFace, stepExposure, toggleClean, toggleMode } from './commands.ts';

interface Hands {
  go: NavigateFunction;
  base: string;
  lookId: string;
  onPalette: () => void;
  onKeys: () => void;
}

const within = (event: KeyboardEvent, selector: string) =>
  event.target instanceof HTMLElement && event.target.closest(selector) !== null;
/** What is typed into, or picks by letters, keeps its keys. */
const FIELDS =
  'input:not([type=checkbox], [type=range]), textarea, select, dialog, [contenteditable], [role=menu]';
/** What is walked through with arrows, or acts on Enter, keeps those too. */
const WALKED = `${FIELDS}, input, [role=grid], [role=listbox], [role=button], [role=slider], button, a, summary`;

/**
 * The key by its meaning, wherever it lies on the keyboard: punctuation counts as it is written, with whatever
 * Shift or AltGr it takes; digits count by their place too, where they are written with Shift.
 */
export function meaningOf(event: Pick<KeyboardEvent, 'key' | 'code' | 'shiftKey'>): string {
  const { key, code, shiftKey } = event;
  const digit = /^Digit([1-6])$/.exec(code)?.[1];
  if (digit && !shiftKey && !/^[/?[\],.]$/.test(key)) return digit;
  if (/^[a-z]$/i.test(key)) return shiftKey ? `Shift+${key.toUpperCase()}` : key.toLowerCase();
  return key;
}

export function useKeys({ go, base, lookId, onPalette, onKeys }: Hands): void {
  useEffect(() => {
    const anywhere: Record<string, () => void> = {
      ...Object.fromEntries(STEPS.map((s, i) => [String(i + 1), () => void go(`${base}/${lookId}/${s}`)])),
      d: toggleMode,
      n: toggleClean,
      k: () => void keepProof(),
      p: togglePlay,
      f: toggleAlone,
      h: () => choose({ handles: !useChoice.getState().handles }),
      '[': () => stepExposure(-1),
      ']': () => stepExposure(1),
      u: goBackOne,
      'Shift+U': redo,
      '/': onPalette,
      '?': onKeys,
    };
    const lay = (finish: string | null) => () => {
      const { face } = useChoice.getState();
      if (face) dressFaces(face, finish);
    };
    const atRest: Record<string, () => void> = {
      ',': () => moveFace(-1, 0),
      '.': () => moveFace(1, 0),
      ArrowLeft: () => stepFrames(-1),
      ArrowRight: () => stepFrames(1),
      ArrowUp: () => moveFace(0, -1),
      ArrowDown: () => moveFace(0, 1),
      Delete: lay(null),
      Backspace: lay(null),
      Enter: () => {
        const { finish, brush } = useChoice.getState();
        const laid = finish ?? brush;
        if (laid) lay(laid)();
      },
    };
    const withCtrl: Record<string, () => void> = { z: goBackOne, y: redo, 'Shift+Z': redo };
    const press = (event: KeyboardEvent) => {
      // a window over the studio has all keys to itself, wherever the focus went
      if (event.defaultPrevented || event.isComposing || document.querySelector('dialog[open]')) return;
      const altGr = event.getModifierState('AltGraph') || (event.ctrlKey && event.altKey);
      const ctrl = !altGr && (event.ctrlKey || event.metaKey);
      if ((event.altKey && !altGr) || within(event, FIELDS)) return;
      const meaning = meaningOf(event);
      const run = ctrl
        ? withCtrl[meaning]
        : meaning === 'Escape' && useAlone.getState().alone
          ? toggleAlone
          : (anywhere[meaning] ?? (within(event, WALKED) ? undefined : atRest[meaning]));
      if (!run) return;
      event.preventDefault();
      run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [go, base, lookId, onPalette, onKeys]);
}
