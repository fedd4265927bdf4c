/** What an artist does with lights. */
import {
  LIGHT_NAMES,
  newId,
  newLight,
  ZONES,
  type Light,
  type LightKind,
  type Rig,
  type Zone,
} from '@wemlox/core/document';
import { isMirror } from '@wemlox/core/finish/highlight';
import { lightsOf, rigOf } from '@wemlox/core/light/rigs';
import * as edits from '@wemlox/core/edits';
import { axisOf } from '@wemlox/core/stage/blockPlace';
import { centreOf } from '@wemlox/core/stage/camera';
import { engine } from '../engine/engine.ts';
import { choose } from '../state/choice.ts';
import { notify } from '../state/notices.ts';
import { keepRig } from '../state/rigs.ts';
import { useShown } from '../state/shown.ts';
import { perform, shotOf, useStudio } from '../state/studio.ts';
import { currentLook, set } from './document.ts';
import { faceSize, shapedBlock, typeSize } from './type.ts';

export function addLight(kind: LightKind): void {
  const light = newLight(kind, LIGHT_NAMES[kind]);
  if (perform((p) => edits.addLights(p, currentLook(p).id, [light]))) choose({ light: light.id });
}

export function removeLight(id: string): void {
  perform((p) => edits.removeLights(p, currentLook(p).id, [id]));
  choose({ light: null });
}

/** Adds several lights beside what is there. @param why they suit, in words */
function addRig(rig: Light[], name: string, why = ''): void {
  const others = currentLook().rig;
  if (!perform((p) => edits.addLights(p, currentLook(p).id, rig, name))) return;
  choose({ light: rig[0].id });
  if (others.length === 0) {
    if (why) notify('done', why);
    return;
  }
  const ids = others.map((l) => l.id);
  notify('done', `${why ? `${why} ` : ''}${name} stand beside ${others.map((l) => l.name).join(', ')}`, {
    label: 'Take those out',
    run: () =>
      void perform((p) => edits.removeLights(p, currentLook(p).id, ids, `Only ${name.toLowerCase()}`)),
  });
}

export const addThreePoint = () => addRig(edits.threePoint(typeSize()), 'Key, fill and rim');

/** Share of the type's faces that mirror, at which cards suit better than lamps. */
const MOSTLY = 0.5;

export const addCards = (why = '') =>
  addRig(edits.cardsAndStrips(typeSize(), shotOf(useStudio.getState().seen).camera), 'Cards and strips', why);

/** The rig that suits the faces: cards and strips for those that mirror, lamps for those that scatter. */
export function addSuitedRig(): void {
  const { scene } = useShown.getState();
  if (!scene) return;
  const { parts, things, finishes } = scene;
  const ofType = [...parts.finish.subarray(0, parts.count)].filter(
    (_, p) => things[parts.thing[p]].block !== null && SEEN_ZONES.includes(ZONES[parts.zone[p]]),
  );
  const mirroring = ofType.filter((f) => isMirror(finishes[f])).length;
  if (ofType.length > 0 && mirroring >= MOSTLY * ofType.length)
    addCards('Most faces mirror: lamps would be threads of light on them.');
  else
    addRig(
      edits.threePoint(typeSize()),
      'Key, fill and rim',
      'Most faces scatter light: lamps from left, right and behind shape them.',
    );
}

/** Zones a camera sees first. */
const SEEN_ZONES: readonly Zone[] = ['front', 'frontBevel', 'side'];

/** Fill for the side that no light reaches, a quarter as strong as lamps are. */
export function addFill({ azimuth, elevation }: Pick<Light, 'azimuth' | 'elevation'>): void {
  const size = typeSize();
  const light = newLight('area', 'Fill', {
    azimuth,
    elevation,
    strength: 3,
    distance: 1.6 * size,
    width: 0.7 * size,
    height: 0.5 * size,
  });
  if (perform((p) => edits.addLights(p, currentLook(p).id, [light]))) choose({ light: light.id });
}

/** Moves a light out of the type, the way it looks at it. */
export function bringOut(id: string): void {
  const light = currentLook().rig.find((l) => l.id === id);
  if (!light || !('stands' in light)) return;
  const address = `looks/${currentLook().id}/rig/${id}`;
  const out = 1.6 * typeSize();
  if (light.stands === 'around') set(`${address}/distance`, out);
  else set(`${address}/place`, [light.place[0], light.place[1], out]);
}

/** Copies a light; `mirrored` to the other side of the type. */
export function copyLight(id: string, mirrored: boolean): void {
  const copy = newId();
  if (perform((p) => edits.copyLight(p, currentLook(p).id, id, copy, mirrored))) choose({ light: copy });
}

/** Keeps the look's lights in the library. */
export const keepLights = (name: string) => keepRig(rigOf(name, faceSize(), currentLook().rig));

/** Puts the lights of a rig around this type. @param instead in the place of those that are there */
export function putRig(rig: Rig, instead: boolean): void {
  const lights = lightsOf(rig, faceSize(), newId);
  if (!perform((p) => edits.takeRig(p, currentLook(p).id, rig.name, lights, instead))) return;
  choose({ light: lights[0].id, panel: null });
  notify('done', `${rig.name} lights the type, fitted to its size`);
}

/** Stands a light straight before a letter's front. @param distance metres from it */
export function standBeforeLetter(id: string, block: string, letter: string, distance: number): void {
  const of = useStudio.getState().seen.blocks.find((b) => b.id === block);
  const box = engine()?.draft.boxOf(block, letter);
  const { scene } = useShown.getState();
  const shaped = shapedBlock(block);
  if (!of || !box || !scene || !shaped) return;
  const { position } = of.place;
  const normal = axisOf(of.place, 2);
  const middle = box.min.map((v, i) => (v + box.max[i]) / 2);
  const along = (v: readonly number[]) => v.reduce((sum, x, i) => sum + x * normal[i], 0);
  // the letter's middle, brought to the height of its block's front
  const out = along(position) + shaped.reach[1] - along(middle);
  const centre = centreOf(scene.typeBox);
  const at = middle.map((v, i) => v + normal[i] * out - centre[i]);
  perform((p) => edits.standBefore(p, currentLook(p).id, id, at, normal, distance));
}
