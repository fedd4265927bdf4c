/** The panels of a surround over a view of it: each a mark that moves it, the chosen one with its handles. */
import { movePanel } from '@wemlox/core/edits';
import { bearingOf, frameOf } from '@wemlox/core/light/placing';
import { currentLook } from '../actions/document.ts';
import { choose, useChoice } from '../state/choice.ts';
import { useLook } from '../state/chosen.ts';
import { perform } from '../state/studio.ts';
import { PanelHandles, type ViewOfPicture } from './PanelHandles.tsx';

const STEP = (2 * Math.PI) / 180;

export function PanelMarks(view: ViewOfPicture) {
  const { panels } = useLook().surround;
  const chosen = useChoice((c) => c.panel);
  const moveTo = (id: string, place: { azimuth: number; elevation: number }) =>
    perform((p) => movePanel(p, currentLook(p).id, id, place));
  return panels.map((panel) => {
    const at = view.placeOf(frameOf(panel).away);
    return [
      at && (
        <button
          key={panel.id}
          type="button"
          aria-label={`${panel.name}: drag or use arrow keys to move`}
          aria-pressed={panel.id === chosen}
          title={panel.name}
          className={`absolute size-3 -translate-1/2 cursor-move rounded-full border-2 ${
            panel.id === chosen ? 'border-primary' : 'border-white'
          } ${panel.on ? 'bg-black/60' : 'bg-transparent'}`}
          style={{ left: `${at.across * 100}%`, top: `${at.down * 100}%` }}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            choose({ panel: panel.id, light: null });
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            moveTo(panel.id, bearingOf(view.directionUnder(event)));
          }}
          onFocus={() => choose({ panel: panel.id, light: null })}
          onKeyDown={(event) => {
            const by = {
              ArrowLeft: [-STEP, 0],
              ArrowRight: [STEP, 0],
              ArrowUp: [0, STEP],
              ArrowDown: [0, -STEP],
            }[event.key];
            if (!by) return;
            event.preventDefault();
            event.stopPropagation();
            moveTo(panel.id, { azimuth: panel.azimuth - by[0], elevation: panel.elevation + by[1] });
          }}
        />
      ),
      panel.id === chosen && <PanelHandles key={`${panel.id}/handles`} panel={panel} {...view} />,
    ];
  });
}
