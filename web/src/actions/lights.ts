/** What an artist does with lights. */
import { LIGHT_NAMES, newId, newLight, type LightKind } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { choose } from '../state/choice.ts';
import { notify } from '../state/notices.ts';
import { perform } from '../state/studio.ts';
import { currentLook } from './document.ts';
import { typeSize } from './type.ts';

export function addLight(kind: LightKind): void {
  const light = newLight(kind, LIGHT_NAMES[kind]);
  if (perform((p) => edits.addLights(p, currentLook(p).id, [light]))) choose({ light: light.id });
}

export function removeLight(id: string): void {
  perform((p) => edits.removeLights(p, currentLook(p).id, [id]));
  choose({ light: null });
}

/** Three lights at once, beside what is there. */
export function addThreePoint(): void {
  const rig = edits.threePoint(typeSize());
  const others = currentLook().rig;
  if (!perform((p) => edits.addLights(p, currentLook(p).id, rig, 'Key, fill and rim'))) return;
  choose({ light: rig[0].id });
  if (others.length === 0) return;
  const ids = others.map((l) => l.id);
  notify('done', `Key, fill and rim stand beside ${others.map((l) => l.name).join(', ')}`, {
    label: 'Take those out',
    run: () => void perform((p) => edits.removeLights(p, currentLook(p).id, ids, 'Only key, fill and rim')),
  });
}

/** Copies a light; `mirrored` to the other side of the type. */
export function copyLight(id: string, mirrored: boolean): void {
  const copy = newId();
  if (perform((p) => edits.copyLight(p, currentLook(p).id, id, copy, mirrored))) choose({ light: copy });
}
