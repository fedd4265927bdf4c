/** Wishing for light: strokes on the picture become a balance of its sources, to be taken over or discarded. */
import { newLight } from '@wemlox/core/document';
import { addLights } from '@wemlox/core/edits';
import { engine } from '../engine/engine.ts';
import { choose } from '../state/choice.ts';
import { sourcesOf, useBalance } from '../state/light.ts';
import { notify } from '../state/notices.ts';
import { useShown } from '../state/shown.ts';
import { perform, useStudio } from '../state/studio.ts';
import { unmet, useWishing } from '../state/wishing.ts';
import { catchAt } from './catch.ts';
import { currentLook } from './document.ts';
import { typeSize } from './type.ts';

/** Gains below this put a source out. */
const OUT = 1 / 512;
/** Channels that differ by less than this share are grey. */
const GREY = 0.03;

/** Finds the balance that grants what is painted, and shows it. */
export async function findBalance(): Promise<void> {
  const { strokes } = useWishing.getState();
  const { scene } = useShown.getState();
  const { seen: project } = useStudio.getState();
  const sources = sourcesOf(project, currentLook(project), scene);
  useWishing.setState({ asking: true });
  // the colour of what glows is its finish's own
  const tinted = sources.filter((s) => 'light' in s.source || 'surround' in s.source).map((s) => s.group);
  const wished = await engine()!.wish(strokes, (group) => tinted.includes(group));
  useWishing.setState({ asking: false, granted: wished?.granted ?? null });
  if (!wished) {
    notify('problem', 'The picture keeps no shares of its sources yet: let it be traced for a moment');
    return;
  }
  const stops: Record<string, number> = {};
  const out: Record<string, true> = {};
  const tints: Record<string, number[]> = {};
  for (const { key, group } of sources) {
    if (group === null || group * 3 >= wished.gains.length) continue;
    const rgb = wished.gains.slice(group * 3, group * 3 + 3);
    const most = Math.max(...rgb);
    if (most < OUT) out[key] = true;
    else {
      stops[key] = Math.round(Math.log2(most) * 100) / 100;
      if (Math.min(...rgb) < most * (1 - GREY)) tints[key] = rgb.map((v) => v / most);
    }
  }
  useBalance.setState({ stops, out, tints, only: null });
}

/** Puts a light where a wish could not be granted, caught at the middle of its stroke. */
export function placeWished(): void {
  const [stroke] = unmet(useWishing.getState());
  if (!stroke) return;
  const [x, y] = stroke.places[Math.floor(stroke.places.length / 2)];
  const hit = engine()!.pickInFrame(x, y);
  if (!hit?.letter) {
    notify('problem', 'That stroke is not on the type: a light can be caught on letters alone');
    return;
  }
  const size = typeSize();
  const light = newLight('area', 'Wished light', {
    distance: 1.6 * size,
    width: 0.4 * size,
    height: 0.4 * size,
  });
  if (!perform((p) => addLights(p, currentLook(p).id, [light]))) return;
  choose({ light: light.id, panel: null });
  catchAt(hit, engine()!.draft);
}
