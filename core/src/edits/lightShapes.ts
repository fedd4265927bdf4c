/** Edits of what lights are shaped by: outlines, letters, patterns, profiles; and of whole rigs from the library. */
import {
  LONGEST_LIGHT,
  MOST,
  type Corner,
  type FontRef,
  type Light,
  type PictureRef,
  type ProfileRef,
  type Project,
} from '../document/index.ts';
import { cutTo } from '../document/text.ts';
import { EditRefused, found, named, room, within, type Edit } from './edit.ts';

const lightIn = (p: Project, look: string, id: string) =>
  found(found(p.looks, look, 'look').rig, id, 'light');

/** The light, if it is one of a kind. @throws EditRefused when it is of another */
function ofKind<K extends Light['kind']>(
  p: Project,
  look: string,
  id: string,
  ...kinds: K[]
): Light & { kind: K } {
  const light = lightIn(p, look, id);
  if (!(kinds as string[]).includes(light.kind)) throw new EditRefused(`${light.name} has no such thing`);
  return light as Light & { kind: K };
}

/** Gives an area light corners of its own. @param joins whether it goes on with the change before */
export function outlineLight(
  project: Project,
  look: string,
  id: string,
  corners: readonly Corner[],
  joins = false,
): Edit {
  const light = ofKind(project, look, id, 'area');
  room([], MOST.corners, 'corners of a light', corners.length);
  if (corners.length < 3) throw new EditRefused('an outline has at least three corners');
  return {
    label: `Outline of ${light.name}`,
    joins,
    make: (p) => {
      ofKind(p, look, id, 'area').outline = corners.map(({ x, y }) => ({
        x: within(x, -0.5, 0.5),
        y: within(y, -0.5, 0.5),
      }));
    },
  };
}

/** Gives an area light letters to have the shape of. */
export const letterLight = (
  project: Project,
  look: string,
  id: string,
  { text, font }: { text?: string; font?: FontRef },
): Edit => ({
  label: `Letters of ${ofKind(project, look, id, 'area').name}`,
  joins: text !== undefined,
  make: (p) => {
    const light = ofKind(p, look, id, 'area');
    if (text !== undefined) light.text = cutTo(text, LONGEST_LIGHT);
    if (font) light.font = { ...font };
  },
});

/** Puts a picture before a spot, or takes it away. */
export const patternLight = (
  project: Project,
  look: string,
  id: string,
  pattern: PictureRef | null,
): Edit => ({
  label: `Pattern of ${ofKind(project, look, id, 'spot').name} → ${pattern?.name ?? 'none'}`,
  make: (p) => {
    ofKind(p, look, id, 'spot').pattern = pattern && { ...pattern };
  },
});

/** Gives a spot or point a photometric profile, or takes it away; its strength stays. */
export const profileLight = (
  project: Project,
  look: string,
  id: string,
  profile: ProfileRef | null,
): Edit => ({
  label: `Profile of ${ofKind(project, look, id, 'spot', 'point').name} → ${profile?.name ?? 'none'}`,
  make: (p) => {
    ofKind(p, look, id, 'spot', 'point').profile = profile && { ...profile };
  },
});

/** Puts the lights of a rig in the place of those there, or beside them. */
export function takeRig(
  project: Project,
  look: string,
  name: string,
  lights: readonly Light[],
  instead: boolean,
): Edit {
  const { rig } = found(project.looks, look, 'look');
  room(instead ? [] : rig, MOST.lights, 'lights in a look', lights.length);
  return {
    label: `Rig → ${name}`,
    make: (p) => {
      const of = found(p.looks, look, 'look');
      if (instead) of.rig = [];
      for (const light of lights) of.rig.push(named(structuredClone(light), of.rig));
    },
  };
}
