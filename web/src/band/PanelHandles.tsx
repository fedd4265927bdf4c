/** Handles of the chosen panel on a view of the surround: its width, its height, and its turn about its middle. */
import type { Panel } from '@wemlox/core/document';
import { sizePanel } from '@wemlox/core/edits';
import { frameOf, type Vec } from '@wemlox/core/light/placing';
import { currentLook } from '../actions/document.ts';
import { perform } from '../state/studio.ts';

/** How a view shows directions of the picture. */
export interface ViewOfPicture {
  /** Where a direction stands in the view, shares from its upper left; null where the view does not reach. */
  placeOf: (direction: Vec) => { across: number; down: number } | null;
  /** The direction under the pointer. */
  directionUnder: (event: React.PointerEvent) => readonly number[];
}

type Handle = 'width' | 'height' | 'turn';

/** How far beyond its edge a panel is turned by, radians, and what the arrow keys change. */
const BEYOND = 0.16;
const STEP = Math.PI / 180;
const SAYS: Record<Handle, string> = {
  width: 'drag to stretch it sideways',
  height: 'drag to stretch it up and down',
  turn: 'drag to turn it',
};

const dot = (a: Vec, b: readonly number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** The direction of a handle, in the picture. */
function directionOf(panel: Panel, handle: Handle): Vec {
  const { away, right, up } = frameOf(panel);
  const angle = handle === 'width' ? panel.width / 2 : panel.height / 2 + (handle === 'turn' ? BEYOND : 0);
  const [c, s] = [Math.cos(Math.min(3, angle)), Math.sin(Math.min(3, angle))];
  const side = handle === 'width' ? right : up;
  return away.map((v, i) => v * c + side[i] * s) as Vec;
}

/** What a handle makes of a panel where it is dragged to, a direction in the picture. */
function dragged(panel: Panel, handle: Handle, to: readonly number[]): Parameters<typeof sizePanel>[3] {
  const { away, right, up } = frameOf(handle === 'turn' ? { ...panel, turn: 0 } : panel);
  const [a, r, u] = [dot(away, to), dot(right, to), dot(up, to)];
  if (handle === 'turn') return { turn: Math.atan2(-r, u) };
  const across = handle === 'width' ? r : u;
  return { [handle]: 2 * Math.max(0.002, Math.atan2(Math.abs(across), a)) };
}

/** Which handles a panel has. */
const handlesOf = ({ shape }: Panel): readonly Handle[] =>
  shape === 'band' || shape === 'ramp' ? [] : shape === 'ring' ? ['width'] : ['width', 'height', 'turn'];

export function PanelHandles({ panel, placeOf, directionUnder }: ViewOfPicture & { panel: Panel }) {
  const size = (to: Parameters<typeof sizePanel>[3]) =>
    perform((p) => sizePanel(p, currentLook(p).id, panel.id, to));
  return handlesOf(panel).map((handle) => {
    const at = placeOf(directionOf(panel, handle));
    return (
      at && (
        <button
          key={handle}
          type="button"
          aria-label={`${handle === 'turn' ? 'Turn' : handle === 'width' ? 'Width' : 'Height'} of ${panel.name}: ${SAYS[handle]}`}
          className={`absolute size-2.5 -translate-1/2 border border-primary bg-black/70 ${
            handle === 'turn' ? 'cursor-grab rounded-full' : 'cursor-crosshair'
          }`}
          style={{ left: `${at.across * 100}%`, top: `${at.down * 100}%` }}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            event.stopPropagation();
            size(dragged(panel, handle, directionUnder(event)));
          }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: 1, ArrowDown: -1 }[event.key];
            if (!by) return;
            event.preventDefault();
            event.stopPropagation();
            size({ [handle]: panel[handle] + by * STEP });
          }}
        />
      )
    );
  });
}
