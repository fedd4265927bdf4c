/** A brush moved by keys over what is painted on: arrows move it, and while Space is held it paints. */

/** Pixels that an arrow moves it, and with Shift. */
const STEP = 6;
const STRIDE = 30;
const WAYS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** What the brush does at a place of the element, pixels from its corner. */
interface KeyBrush {
  /** It stands somewhere else, or is wanted for the first time. */
  moved(x: number, y: number): void;
  /** A stroke begins, or goes on. @param takesAway Alt is held */
  paints(x: number, y: number, begins: boolean, takesAway: boolean): void;
  ended(): void;
}

/** Gives an element that takes the focus a brush by keys. @returns what takes it away again */
export function keyBrush(element: HTMLElement | SVGElement, brush: KeyBrush): () => void {
  let at: [number, number] | null = null;
  let painting = false;
  const middle = (): [number, number] => {
    const { width, height } = element.getBoundingClientRect();
    return [width / 2, height / 2];
  };
  const end = () => {
    if (!painting) return;
    painting = false;
    brush.ended();
  };
  const down = (event: Event) => {
    const { key, shiftKey, altKey, ctrlKey, metaKey } = event as KeyboardEvent;
    const way = WAYS[key];
    if (ctrlKey || metaKey || (!way && key !== ' ')) return;
    event.preventDefault();
    event.stopPropagation();
    const begins = !way && !painting;
    at ??= middle();
    if (way) {
      const { width, height } = element.getBoundingClientRect();
      const step = shiftKey ? STRIDE : STEP;
      at = [
        Math.min(width, Math.max(0, at[0] + way[0] * step)),
        Math.min(height, Math.max(0, at[1] + way[1] * step)),
      ];
      brush.moved(...at);
    }
    if (begins) painting = true;
    if (painting && (way || begins)) brush.paints(...at, begins, altKey);
  };
  const up = (event: Event) => {
    if ((event as KeyboardEvent).key === ' ') end();
  };
  const focus = () => {
    at ??= middle();
    brush.moved(...at);
  };
  element.addEventListener('keydown', down);
  element.addEventListener('keyup', up);
  element.addEventListener('focus', focus);
  element.addEventListener('blur', end);
  return () => {
    element.removeEventListener('keydown', down);
    element.removeEventListener('keyup', up);
    element.removeEventListener('focus', focus);
    element.removeEventListener('blur', end);
  };
}
