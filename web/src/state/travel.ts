/** Undo that does not end with this page: beyond its own history it goes on through the revisions. */
import { attempt } from './notices.ts';
import { reachBack, reachesBack, useRevisions } from './revisions.ts';
import { history, undo } from './studio.ts';

/** Takes the last edit back, of this page or of an earlier one. */
export async function undoAnywhere(): Promise<void> {
  if (history().pastStates.length === 0 && reachesBack(useRevisions.getState()))
    await attempt('Earlier states could not be read', reachBack);
  if (history().pastStates.length > 0) undo();
}

export const goBackOne = () => void undoAnywhere();
