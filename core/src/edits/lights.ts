/** Edits of the rig and the surround of a look. */
import {
  type Camera,
  type Follow,
  MOST,
  newFollow,
  newLight,
  type Light,
  type LightOf,
  type Project,
  type Surround,
} from '../document/index.ts';
import { log } from '../maths/reproducible.ts';
import { followed, followedBy } from '../light/following.ts';
import { glowsIn } from '../finish/glow.ts';
import { bearingOf, frameOf, freePlace, standingOf, wrapped } from '../light/placing.ts';
import { EditRefused, found, named, room, within, givenName, type Edit } from './edit.ts';
import { copyMotion } from './motion.ts';

const lookOf = (p: Project, id: string) => found(p.looks, id, 'look');
const lightIn = (p: Project, look: string, id: string) => found(lookOf(p, look).rig, id, 'light');

/** A light where it stands in nobody's way, under a name of its own. */
const settled = <L extends Light>(light: L, rig: readonly Light[], apart?: number): L =>
  named({ ...light, ...freePlace(rig, light, apart) }, rig);

/** Adds lights, each where no other stands. */
export function addLights(project: Project, look: string, lights: readonly Light[], label?: string): Edit {
  room(lookOf(project, look).rig, MOST.lights, 'lights in a look', lights.length);
  return {
    label: label ?? `Add ${lights[0]?.name ?? 'light'}`,
    make: (p) => {
      const { rig } = lookOf(p, look);
      for (const light of lights) rig.push(settled(light, rig));
    },
  };
}

/** Key from the left, a weaker fill from the right, a cool rim from behind. @param size of the type, metres */
export function threePoint(size: number): Light[] {
  const at = (name: string, changes: Partial<LightOf<'area'>>) =>
    newLight('area', name, { distance: 1.6 * size, width: 0.5 * size, height: 0.3 * size, ...changes });
  return [
    at('Key', { azimuth: -0.7, elevation: 0.7, strength: 14, kelvin: 4300 }),
    at('Fill', {
      azimuth: 0.85,
      elevation: 0.25,
      strength: 3,
      kelvin: 5600,
      width: 0.7 * size,
      height: 0.5 * size,
    }),
    at('Rim', {
      azimuth: 2.6,
      elevation: 0.6,
      strength: 18,
      kelvin: 8000,
      height: 0.6 * size,
      width: 0.2 * size,
    }),
  ];
}

/**
 * Cards and strips for faces that mirror, which show lamps as threads of light and black between them: a card where the
 * fronts send the camera's look, strips and a card where bevels about them do.
 * @param size of the type, metres @param camera that looks at it
 */
export function cardsAndStrips(size: number, camera: Pick<Camera, 'azimuth' | 'elevation'>): Light[] {
  const at = (name: string, wide: number, high: number, changes: Partial<LightOf<'area'>>) =>
    newLight('area', name, { distance: 1.6 * size, width: wide * size, height: high * size, ...changes });
  // a front sends a look that comes from the left on to the right; a little higher, so that it fades over the letters
  const front = { azimuth: -camera.azimuth, elevation: within(0.35 - camera.elevation, -1.5, 1.5) };
  return [
    at('Front card', 2.2, 0.7, { ...front, strength: 3.2, kelvin: 5200 }),
    at('Left strip', 0.3, 1.8, { azimuth: front.azimuth - 1.35, elevation: 0.12, strength: 9, kelvin: 4600 }),
    at('Right strip', 0.3, 1.8, {
      azimuth: front.azimuth + 1.35,
      elevation: 0.12,
      strength: 7,
      kelvin: 7200,
    }),
    at('Top card', 2.4, 0.5, { azimuth: front.azimuth, elevation: 1.3, strength: 8, kelvin: 5600 }),
  ].map((light) => ({ ...light, azimuth: wrapped(light.azimuth) }));
}

/** A mirrored light goes where its twin is not, but no farther than it must, radians. */
const ON_TOP = 0.05;

/** The place of a copy: on the other side, or a hand's breadth to the right. */
const beside = ([x, y, z]: readonly number[], mirrored: boolean): number[] => [
  mirrored ? -(x ?? 0) : Math.min(1000, (x ?? 0) + 0.1),
  y ?? 0,
  z ?? 0,
];

/** Copies a light under an identifier; `mirrored` to the other side of the type. */
export function copyLight(project: Project, look: string, id: string, copy: string, mirrored: boolean): Edit {
  const light = lightIn(project, look, id);
  room(lookOf(project, look).rig, MOST.lights, 'lights in a look');
  return {
    label: `${mirrored ? 'Mirror' : 'Copy'} ${light.name}`,
    make: (p) => {
      const { rig } = lookOf(p, look);
      const made = {
        ...structuredClone(light),
        id: copy,
        azimuth: mirrored ? -light.azimuth : light.azimuth,
        ...('stands' in light ? { place: beside(light.place, mirrored) } : {}),
      };
      rig.push(settled(made, rig, mirrored ? ON_TOP : undefined));
      copyMotion(p, `looks/${look}/rig/${id}`, `looks/${look}/rig/${copy}`, true);
    },
  };
}

/** Removes lights. */
export function removeLights(project: Project, look: string, ids: readonly string[], label?: string): Edit {
  const gone = lookOf(project, look).rig.filter((l) => ids.includes(l.id));
  return {
    label: label ?? `Remove ${gone.map((l) => l.name).join(', ')}`,
    make: (p) => {
      const of = lookOf(p, look);
      of.rig = of.rig.filter((l) => !ids.includes(l.id));
    },
  };
}

export const renameLight = (_project: Project, look: string, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    lightIn(p, look, id).name = givenName(name);
  },
});

/** Moves a light around the type, radians. */
export const moveLight = (
  project: Project,
  look: string,
  id: string,
  { azimuth, elevation }: Pick<Light, 'azimuth' | 'elevation'>,
): Edit => ({
  label: `Move ${lightIn(project, look, id).name}`,
  make: (p) => {
    const light = lightIn(p, look, id);
    const to = {
      azimuth: within(wrapped(azimuth), -Math.PI, Math.PI),
      elevation: within(elevation, -Math.PI / 2, Math.PI / 2),
    };
    if ('stands' in light && light.stands !== 'around') {
      // it keeps its distance from what it looks at, and looks there
      const { at, distance } = standingOf(light);
      const { away } = frameOf(to);
      light.stands = 'free';
      light.aim = [...at];
      light.place = at.map((v, i) => within(v + (away[i] ?? 0) * distance, -1000, 1000));
    } else Object.assign(light, to);
  },
});

/**
 * Puts a light at a place, from the centre of the type, metres: one that stands around its aim goes there around it,
 * and one that is infinitely far away turns there.
 */
export const standLight = (project: Project, look: string, id: string, place: readonly number[]): Edit => ({
  label: `Move ${lightIn(project, look, id).name}`,
  make: (p) => {
    const light = lightIn(p, look, id);
    if ('stands' in light && light.stands !== 'around') {
      light.place = [0, 1, 2].map((i) => within(place[i] ?? 0, -1000, 1000));
      return;
    }
    const way = light.aim.map((v, i) => within(place[i] ?? 0, -1000, 1000) - v);
    const distance = Math.hypot(...way);
    if (distance < 1e-4) return;
    Object.assign(light, bearingOf(way.map((v) => v / distance)));
    if ('stands' in light) light.distance = within(distance, 0.001, 1000);
  },
});

/** Has a light look at the middle of the type from where it stands. */
export const aimAtType = (project: Project, look: string, id: string): Edit => ({
  label: `Aim ${lightIn(project, look, id).name} at the type`,
  make: (p) => {
    const light = lightIn(p, look, id);
    const { at, azimuth, elevation, distance } = standingOf(light);
    const { away } = frameOf({ azimuth, elevation });
    const place = at.map((v, i) => v + (away[i] ?? 0) * distance);
    light.aim = [0, 0, 0];
    if ('stands' in light && light.stands === 'facing') light.stands = 'free';
    if ('stands' in light) standLight(project, look, id, place).make(p);
  },
});

/** Moves lights together, each around what it looks at, radians. */
export function moveLights(
  project: Project,
  look: string,
  ids: readonly string[],
  by: Pick<Light, 'azimuth' | 'elevation'>,
): Edit {
  const moves = ids.map((id) => {
    const { azimuth, elevation } = standingOf(lightIn(project, look, id));
    return moveLight(project, look, id, {
      azimuth: azimuth + by.azimuth,
      elevation: elevation + by.elevation,
    });
  });
  return {
    label: moves.length === 1 ? moves[0]!.label : `Move ${moves.length} lights`,
    make: (p) => moves.forEach((move) => move.make(p)),
  };
}

/**
 * Stands a light straight before a face and has it look there.
 * @param at the face's middle, from the centre of the type @param normal away from the face @param distance metres
 */
export const standBefore = (
  project: Project,
  look: string,
  id: string,
  at: readonly number[],
  normal: readonly number[],
  distance: number,
): Edit => ({
  label: `Stand ${lightIn(project, look, id).name} before a face`,
  make: (p) => {
    const light = lightIn(p, look, id);
    if (!('stands' in light)) throw new EditRefused(`${light.name} is infinitely far away`);
    light.stands = 'free';
    light.aim = at.map((v) => within(v, -1000, 1000));
    light.place = at.map((v, i) => within(v + (normal[i] ?? 0) * distance, -1000, 1000));
  },
});

/** Has a light follow another, or what glows; it is as strong as it was until that changes. */
export function followLight(
  project: Project,
  look: string,
  id: string,
  what: Pick<Follow, 'source' | 'id'> | null,
): Edit {
  const light = lightIn(project, look, id);
  if (!what)
    return {
      label: `${light.name} follows nothing`,
      make: (p) => void (lightIn(p, look, id).follows = null),
    };
  const { rig } = lookOf(project, look);
  const follows = newFollow(what.source, what.id);
  const leads = followedBy({ ...light, follows }, rig, glowsIn(project.finishes));
  if (!leads) throw new EditRefused(`${light.name} cannot follow that: it is gone, or follows ${light.name}`);
  const { strength } = followed(rig, glowsIn(project.finishes)).find((l) => l.id === id) ?? light;
  const offset = leads.strength > 0 && strength > 0 ? log(strength / leads.strength) / Math.LN2 : 0;
  return {
    label: `${light.name} follows`,
    make: (p) => {
      lightIn(p, look, id).follows = { ...follows, offset: within(offset, -30, 30) };
    },
  };
}

/** Says which blocks and pieces a light falls on; on all when there are none. */
export const fallOn = (project: Project, look: string, id: string, things: readonly string[]): Edit => ({
  label: `What ${lightIn(project, look, id).name} falls on`,
  make: (p) => {
    room([], MOST.only, 'things a light falls on alone', things.length);
    lightIn(p, look, id).only = [...things];
  },
});

/** Turns the environment about its axes, radians. */
export const standSurround = (
  _project: Project,
  look: string,
  stance: Partial<Pick<Surround, 'turn' | 'tilt' | 'roll'>>,
): Edit => ({
  label: 'Turn the surround',
  joins: true,
  make: (p) => {
    const { surround } = lookOf(p, look);
    for (const [axis, angle] of Object.entries(stance))
      surround[axis as keyof typeof stance] = within(wrapped(angle), -Math.PI, Math.PI);
  },
});

/** Chooses the environment. */
export const chooseSurround = (
  _project: Project,
  look: string,
  { source, id, name, plays }: Pick<Surround, 'source' | 'id' | 'name' | 'plays'>,
): Edit => ({
  label: `Surround → ${name}`,
  make: (p) => {
    const { surround } = lookOf(p, look);
    Object.assign(surround, { source, id, name });
    if (plays) surround.plays = { ...plays };
    else delete surround.plays;
  },
});
