/** The keyboard, outside of fields. */
import { useEffect } from 'react';
import type { NavigateFunction } from 'react-router';
import { tinykeys } from 'tinykeys';
import { choose, useChoice } from '../state/choice.ts';
import { keepProof } from '../state/keep.ts';
import { redo, undo } from '../state/studio.ts';
import { STEPS } from '../state/words.ts';
import { moveFace, stepExposure, toggleMode } from './commands.ts';

interface Hands {
  go: NavigateFunction;
  base: string;
  lookId: string;
  onPalette: () => void;
  onKeys: () => void;
}

/** Keys belong to what has the focus when that is typed into or walked through. */
const inField = (event: KeyboardEvent) =>
  event.target instanceof HTMLElement &&
  event.target.closest('input, textarea, select, dialog, [role=grid]') !== null;
const inText = (event: KeyboardEvent) =>
  event.target instanceof HTMLElement && event.target.closest('input, textarea, dialog') !== null;

export function useKeys({ go, base, lookId, onPalette, onKeys }: Hands): void {
  useEffect(() => {
    const free =
      (run: () => void, taken = inField) =>
      (event: KeyboardEvent) => {
        if (taken(event)) return;
        event.preventDefault();
        run();
      };
    const steps = Object.fromEntries(
      STEPS.map((s, i) => [String(i + 1), free(() => void go(`${base}/${lookId}/${s}`), inText)]),
    );
    return tinykeys(window, {
      ...steps,
      ',': free(() => moveFace(-1, 0)),
      '.': free(() => moveFace(1, 0)),
      ArrowUp: free(() => moveFace(0, -1)),
      ArrowDown: free(() => moveFace(0, 1)),
      d: free(toggleMode, inText),
      k: free(() => void keepProof(), inText),
      h: free(() => choose({ handles: !useChoice.getState().handles }), inText),
      '[': free(() => stepExposure(-1), inText),
      ']': free(() => stepExposure(1), inText),
      u: free(undo, inText),
      'Shift+U': free(redo, inText),
      '$mod+z': free(undo, inText),
      '$mod+y': free(redo, inText),
      '$mod+Shift+Z': free(redo, inText),
      '/': free(onPalette, inText),
      'Shift+?': free(onKeys, inText),
    });
  }, [go, base, lookId, onPalette, onKeys]);
}
