/** Weighing the sources of the traced picture against each other. */
import { newId } from '@wemlox/core/document';
import { takeBalance } from '@wemlox/core/edits';
import { discardBalance, isBalanced, sourcesOf, useBalance, weighedOf } from '../state/light.ts';
import { endWishing } from '../state/wishing.ts';
import { notify } from '../state/notices.ts';
import { useShown } from '../state/shown.ts';
import { perform } from '../state/studio.ts';
import { currentLook } from './document.ts';

const without = <T>(all: Record<string, T>, key: string) =>
  Object.fromEntries(Object.entries(all).filter(([k]) => k !== key));

/** Makes a source so many stops brighter in the picture. */
export const weigh = (key: string, stops: number) =>
  useBalance.setState(({ stops: all }) => ({
    stops: stops === 0 ? without(all, key) : { ...all, [key]: stops },
  }));

/** Shows a source through a colour in the picture; white is its own. */
export const tint = (key: string, rgb: readonly number[]) =>
  useBalance.setState(({ tints }) => ({
    tints: rgb.every((v) => v === 1) ? without(tints, key) : { ...tints, [key]: rgb },
  }));

/** Puts a source out in the picture, or back. */
export const putOut = (key: string) =>
  useBalance.setState(({ out }) => ({ out: out[key] ? without(out, key) : { ...out, [key]: true } }));

/** Shows one source's light by itself, or all of it again. */
export const seeOnly = (key: string) =>
  useBalance.setState(({ only }) => ({ only: only === key ? null : key }));

/** Takes the balance over into the look. */
export function takeOver(): void {
  const balance = useBalance.getState();
  const { scene } = useShown.getState();
  const taken = perform((p) => {
    const look = currentLook(p);
    return takeBalance(p, look.id, weighedOf(balance, sourcesOf(p, look, scene)), newId());
  });
  if (!taken) return;
  discardBalance();
  endWishing();
}

/** Whether the picture is the document's; says what to do where it is weighed otherwise. */
export function isOfDocument(what: string): boolean {
  if (!isBalanced(useBalance.getState())) return true;
  notify('problem', `${what} is of the look as it stands: take the balance of the light over, or discard it`);
  return false;
}
