/** What an artist does with coats and feeds. */
import { newId, type Finish, type PictureRef, type Stop } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { perform } from '../state/studio.ts';

/** A coat of a finish; null for the lowest, which is the finish itself. */
export interface WornCoat {
  finish: string;
  coat: string | null;
}

/** Lays a coat over a finish; its identifier is returned, or null when it could not be. */
export function addCoat(finish: string, of: Finish | null): string | null {
  const id = newId();
  return perform((p) => edits.addCoat(p, finish, of, id)) ? id : null;
}

export const renameCoat = (finish: string, coat: string, name: string) =>
  perform((p) => edits.renameCoat(p, finish, coat, name));
export const removeCoat = (finish: string, coat: string) => perform((p) => edits.removeCoat(p, finish, coat));
export const soloCoat = (finish: string, coat: string) => perform((p) => edits.soloCoat(p, finish, coat));
export const moveCoat = (finish: string, coat: string, to: number) =>
  perform((p) => edits.moveCoat(p, finish, coat, to));

export const feedParameter = ({ finish, coat }: WornCoat, parameter: string) =>
  perform((p) => edits.feedParameter(p, finish, coat, parameter, newId()));
export const removeFeed = ({ finish, coat }: WornCoat, feed: string) =>
  perform((p) => edits.removeFeed(p, finish, coat, feed));
export const setStops = ({ finish, coat }: WornCoat, feed: string, stops: readonly Stop[], joins = false) =>
  perform((p) => edits.setStops(p, finish, coat, feed, stops, joins));

export const feedPicture = ({ finish, coat }: WornCoat, feed: string, picture: PictureRef) =>
  perform((p) => edits.feedPicture(p, finish, coat, feed, picture));
export const layPicture = ({ finish, coat }: WornCoat, feed: string, place: edits.PicturePlace) =>
  perform((p) => edits.layPicture(p, finish, coat, feed, place));

/** Where a parameter of a finish belongs, and its key; null for all others. */
export function wornAt(address: string): (WornCoat & { key: string }) | null {
  const [, finish, coat, key] =
    /^finishes\/([^/]+)\/(?:coats\/([^/]+)\/)?(?:surface\/)?(\w+)$/.exec(address) ?? [];
  return finish !== undefined && key !== undefined ? { finish, coat: coat ?? null, key } : null;
}

export const coatAddress = ({ finish, coat }: WornCoat) =>
  coat === null ? `finishes/${finish}` : `finishes/${finish}/coats/${coat}`;
