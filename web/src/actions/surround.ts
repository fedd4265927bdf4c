/** What an artist does with the surround: panels of light on it, its sun, and keeping it as a file. */
import { newId, newLight, newPanel, type Panel, type PanelShape } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import type { SurroundFile } from '@wemlox/core/picture/files';
import { bearingOf, frameOf, type Vec } from '@wemlox/core/light/placing';
import { inPicture, intoPicture, outOfPicture } from '@wemlox/core/light/surround';
import { engine } from '../engine/engine.ts';
import { api } from '../state/api.ts';
import { choose } from '../state/choice.ts';
import { attempt, notify } from '../state/notices.ts';
import { perform } from '../state/studio.ts';
import { currentLook } from './document.ts';

const DEG = Math.PI / 180;
const white = { hue: 'colour' as const, colour: [1, 1, 1] };

/** Panels that lie ready to be added, by what an artist calls them. */
export const READY_PANELS: readonly { name: string; hint: string; make: () => Panel }[] = [
  {
    name: 'Soft box',
    hint: 'A large soft rectangle',
    make: () => newPanel('Soft box', { elevation: 0.5, width: 0.7, height: 0.5, edge: 0.06 }),
  },
  {
    name: 'Strip',
    hint: 'A long narrow rectangle with hard edges',
    make: () => newPanel('Strip', { azimuth: 0.9, elevation: 0.2, width: 0.08, height: 1.2, edge: 0.01 }),
  },
  {
    name: 'Sun',
    hint: 'A small disc, as bright as a low sun',
    make: () =>
      newPanel('Sun', {
        shape: 'disc',
        azimuth: -0.8,
        elevation: 0.5,
        width: 0.53 * DEG,
        height: 0.53 * DEG,
        edge: 0,
        level: 14,
        kelvin: 4200,
        laid: 'added',
      }),
  },
  {
    name: 'Ring',
    hint: 'A round line of light',
    make: () => newPanel('Ring', { shape: 'ring', elevation: 0.1, width: 0.6, height: 0.06, edge: 0.01 }),
  },
  {
    name: 'Band',
    hint: 'A line all around, level with the horizon or over it',
    make: () => newPanel('Band', { shape: 'band', elevation: 0.35, height: 0.14, edge: 0.02 }),
  },
  {
    name: 'Ramp',
    hint: 'A gradient from below to above, all around',
    make: () =>
      newPanel('Ramp', {
        shape: 'ramp',
        ...white,
        azimuth: 0,
        elevation: 0,
        level: 0,
        height: Math.PI,
        blend: 'eased',
        stops: [
          { at: 0, value: -6, colour: [0.5, 0.5, 0.6] },
          { at: 0.5, value: 0, colour: [1, 0.9, 0.8] },
          { at: 1, value: -2, colour: [0.5, 0.7, 1] },
        ],
      }),
  },
  {
    name: 'Picture',
    hint: 'A flat picture that shines, as large as is wanted',
    make: () =>
      newPanel('Picture', {
        shape: 'picture',
        ...white,
        azimuth: 0,
        elevation: 0.15,
        level: 1,
        width: 1.6,
        height: 1.1,
        edge: 0.01,
        picture: { source: 'painted', id: 'canvas', name: 'Canvas' },
      }),
  },
  {
    name: 'Horizon',
    hint: 'Dark below, bright above, with a hard line between: the banded look of chrome',
    make: () =>
      newPanel('Horizon', {
        shape: 'ramp',
        ...white,
        azimuth: 0,
        elevation: 0,
        level: 0,
        height: Math.PI,
        stops: [
          { at: 0, value: -1.2, colour: [0.85, 0.62, 0.4] },
          { at: 0.499, value: -6, colour: [0.9, 0.7, 0.6] },
          { at: 0.501, value: 1, colour: [1, 0.97, 0.92] },
          { at: 0.62, value: -0.6, colour: [0.45, 0.68, 1] },
          { at: 1, value: -3.2, colour: [0.12, 0.3, 0.9] },
        ],
      }),
  },
];

const isAround = (shape: PanelShape) => shape === 'band' || shape === 'ramp';

/** Adds a panel; where it stands is said as of the world, however the surround is turned. */
export function addPanel(made: Panel): void {
  const world = frameOf(made).away;
  const into = intoPicture(currentLook().surround);
  const panel = isAround(made.shape) ? made : { ...made, ...bearingOf(inPicture(into, ...world)) };
  if (perform((p) => edits.addPanels(p, currentLook(p).id, [panel])))
    choose({ panel: panel.id, light: null });
}

export function copyPanel(id: string): void {
  const copy = newId();
  if (perform((p) => edits.copyPanel(p, currentLook(p).id, id, copy))) choose({ panel: copy });
}

export function removePanel(id: string): void {
  perform((p) => edits.removePanel(p, currentLook(p).id, id));
  choose({ panel: null });
}

/** No surround at all. */
export const takeNone = () =>
  perform((p) =>
    edits.chooseSurround(p, currentLook(p).id, { source: 'none', id: 'none', name: 'No surround' }),
  );

/** Parts the sun of the surround from it: a directional light in its place, and sky over it. */
export async function partSun(): Promise<void> {
  const { surround } = currentLook();
  const sun = await attempt('The sun could not be parted', () => engine()!.ask({ ask: 'sun', surround }));
  if (sun === undefined) return;
  if (!sun) {
    notify('problem', `Nothing small stands out of ${surround.name} brightly enough to be a sun`);
    return;
  }
  const gain = 2 ** surround.stops;
  const lux = sun.lux.map((v, c) => v * gain * surround.tint[c]);
  const strongest = Math.max(...lux);
  const around = Math.max(...sun.around, 1e-6);
  const world = outOfPicture(intoPicture(surround), ...(sun.direction as Vec));
  const light = newLight('directional', 'Sun', {
    ...bearingOf(world),
    strength: strongest,
    hue: 'colour',
    colour: lux.map((v) => v / strongest),
    size: 2 * sun.radius,
  });
  const cover = newPanel('Sky over the sun', {
    shape: 'disc',
    ...bearingOf(sun.direction),
    width: 2 * sun.reach,
    height: 2 * sun.reach,
    edge: 0,
    level: Math.log2(around),
    hue: 'colour',
    colour: sun.around.map((v) => v / around),
  });
  if (perform((p) => edits.splitSun(p, currentLook(p).id, light, cover)))
    choose({ light: light.id, panel: null });
}

/** Keeps the surround with its panels as an environment of the library, and takes it. */
export async function keepSurround(kind: SurroundFile): Promise<void> {
  const { surround } = currentLook();
  const name = `${surround.name}${surround.panels.length > 0 ? ', painted' : ''}.${kind}`;
  const kept = await attempt(`${surround.name} could not be kept`, async () => {
    const bytes = await engine()!.ask({ ask: 'surroundFile', surround, kind });
    return api.upload('surround', name, new File([bytes], name), () => undefined);
  });
  if (!kept) return;
  perform((p) => edits.keptSurround(p, currentLook(p).id, { id: kept.hash, name: kept.name }));
  notify('done', `${kept.name} lies with the surrounds, and lights the type`);
}
