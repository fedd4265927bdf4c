/** What an artist does with looks. */
import { newId } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { perform } from '../state/studio.ts';
import { currentLook } from './document.ts';

/** A copy of the look in use; the identifier of the look to go to is returned. */
export function addLook(): string {
  const id = newId();
  return perform((p) => edits.addLook(p, currentLook(p).id, id)) ? id : currentLook().id;
}

export const removeLook = (id: string) => perform((p) => edits.removeLook(p, id));
