/** Edits of a finish's coats, and of what feeds their parameters. */
import {
  cutName,
  FED_KEYS,
  MOST,
  newCoat,
  newFeed,
  plainSurface,
  type Coat,
  type Feed,
  type Finish,
  type PictureRef,
  type Project,
  type Stop,
} from '../document/index.ts';
import { COAT, FEED, SURFACE } from '../document/parameters.ts';
import { EditRefused, found, named, room, within, type Edit } from './edit.ts';

const finishIn = (p: Project, id: string) => found(p.finishes, id, 'finish');

/** The lowest coat of a finish, which is the finish itself, or one that lies over it. */
const wornIn = (p: Project, finish: string, coat: string | null): Finish | Coat =>
  coat === null ? finishIn(p, finish) : found(finishIn(p, finish).coats, coat, 'coat');

const parameterName = (key: string) => ({ ...SURFACE, ...COAT })[key as keyof typeof SURFACE]?.name ?? key;

/**
 * Lays a coat over a finish.
 * @param of what it is made of; plain when null
 * @throws EditRefused when there is no room
 */
export function addCoat(project: Project, finish: string, of: Finish | null, id: string): Edit {
  const { coats, name } = finishIn(project, finish);
  room(coats, MOST.coats, 'coats on a finish');
  return {
    label: `${of?.name ?? 'Coat'} over ${name}`,
    make: (p) => {
      const all = finishIn(p, finish).coats;
      const made = of
        ? { surface: structuredClone(of.surface), feeds: structuredClone(of.feeds) }
        : { surface: plainSurface({ specular_roughness: 0.2 }) };
      all.push(named(newCoat({ id, name: of?.name ?? 'Coat', cover: 0.5, ...made }), all));
    },
  };
}

export const renameCoat = (_project: Project, finish: string, coat: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    found(finishIn(p, finish).coats, coat, 'coat').name = cutName(name);
  },
});

export function removeCoat(project: Project, finish: string, coat: string): Edit {
  const { name } = found(finishIn(project, finish).coats, coat, 'coat');
  return {
    label: `Remove ${name}`,
    make: (p) => {
      const of = finishIn(p, finish);
      of.coats = of.coats.filter((c) => c.id !== coat);
    },
  };
}

/** Shows one coat alone over the lowest, or all again when it is alone already. */
export function soloCoat(project: Project, finish: string, coat: string): Edit {
  const { coats } = finishIn(project, finish);
  const { name, on } = found(coats, coat, 'coat');
  const alone = on && coats.every((c) => c.id === coat || !c.on);
  return {
    label: alone ? `All coats of ${finishIn(project, finish).name}` : `${name} alone`,
    make: (p) => {
      for (const c of finishIn(p, finish).coats) c.on = alone || c.id === coat;
    },
  };
}

/** Puts a coat elsewhere among the others. @param to its place from the lowest, from 0 */
export function moveCoat(project: Project, finish: string, coat: string, to: number): Edit {
  const { name } = found(finishIn(project, finish).coats, coat, 'coat');
  return {
    label: `Move ${name}`,
    make: (p) => {
      const { coats } = finishIn(p, finish);
      const from = coats.findIndex((c) => c.id === coat);
      const [moved] = coats.splice(from, 1);
      if (moved) coats.splice(Math.round(within(to, 0, coats.length)), 0, moved);
    },
  };
}

/**
 * Feeds a parameter, from the value it has.
 * @param coat null for the lowest
 * @throws EditRefused when it cannot be fed, is fed already, or there is no room
 */
export function feedParameter(
  project: Project,
  finish: string,
  coat: string | null,
  parameter: string,
  id: string,
): Edit {
  const worn = wornIn(project, finish, coat);
  const value = { ...worn, ...worn.surface }[parameter as keyof Finish['surface']] as unknown;
  if (
    !FED_KEYS.includes(parameter) ||
    value === undefined ||
    (coat === null && !Object.hasOwn(SURFACE, parameter))
  )
    throw new EditRefused(`${parameterName(parameter)} cannot be fed`);
  if (worn.feeds.some((f) => f.parameter === parameter))
    throw new EditRefused(`${parameterName(parameter)} is fed already`);
  room(worn.feeds, MOST.feeds, 'feeds in a coat');
  return {
    label: `Feed ${parameterName(parameter)} of ${worn.name}`,
    make: (p) => {
      wornIn(p, finish, coat).feeds.push(newFeed(id, parameter, value as number | number[]));
    },
  };
}

const feedIn = (p: Project, finish: string, coat: string | null, feed: string): Feed =>
  found(wornIn(p, finish, coat).feeds, feed, 'feed');

/** Takes a feed away: its parameter has the value it had. */
export function removeFeed(project: Project, finish: string, coat: string | null, feed: string): Edit {
  const { parameter } = feedIn(project, finish, coat, feed);
  return {
    label: `No feed for ${parameterName(parameter)}`,
    make: (p) => {
      const worn = wornIn(p, finish, coat);
      worn.feeds = worn.feeds.filter((f) => f.id !== feed);
    },
  };
}

/** Lays another picture in a feed's picture's place: size, turn and shift stay. */
export function feedPicture(
  project: Project,
  finish: string,
  coat: string | null,
  feed: string,
  picture: PictureRef,
): Edit {
  const { parameter } = feedIn(project, finish, coat, feed);
  return {
    label: `${picture.name} for ${parameterName(parameter)}`,
    make: (p) => {
      feedIn(p, finish, coat, feed).picture = { ...picture };
    },
  };
}

/** How a feed's picture lies. */
export type PicturePlace = Partial<Pick<Feed, 'tile' | 'shift_x' | 'shift_y' | 'zoom' | 'turn'>>;

/** What goes beyond its range stops at its end. */
function placePicture(feed: Feed, place: PicturePlace): void {
  for (const key of Object.keys(place) as (keyof PicturePlace)[])
    feed[key] = within(place[key]!, FEED[key].min, FEED[key].max);
}

/** Moves, sizes or turns a feed's picture: what goes beyond its range stops at its end. */
export function layPicture(
  project: Project,
  finish: string,
  coat: string | null,
  feed: string,
  place: PicturePlace,
): Edit {
  const { parameter } = feedIn(project, finish, coat, feed);
  return {
    label: `Picture of ${parameterName(parameter)}`,
    joins: true,
    make: (p) => {
      placePicture(feedIn(p, finish, coat, feed), place);
    },
  };
}

/**
 * Feeds a parameter from a picture to paint on, dark all over: bright where it is painted.
 * @param coat null for the lowest
 * @param id of the feed where there is none yet
 * @throws EditRefused when it cannot be fed, or there is no room
 */
export function paintParameter(
  project: Project,
  finish: string,
  coat: string | null,
  parameter: string,
  id: string,
  picture: PictureRef,
  place: PicturePlace,
): Edit {
  const worn = wornIn(project, finish, coat);
  const fed = worn.feeds.find((f) => f.parameter === parameter);
  const first = fed ? null : feedParameter(project, finish, coat, parameter, id);
  return {
    label: `Paint ${parameterName(parameter)} of ${worn.name}`,
    make: (p) => {
      first?.make(p);
      const feed = feedIn(p, finish, coat, fed?.id ?? id);
      const laidOnce = {
        take: 'light',
        coding: 'numbers',
        lay: 'tiles',
        edges: 'once',
      } satisfies Partial<Feed>;
      Object.assign(feed, {
        source: 'picture',
        picture: { ...picture },
        ...laidOnce,
        from: 0,
        to: 1,
        breakup: 0,
      });
      placePicture(feed, { zoom: 1, turn: 0, ...place });
      // a coat lies where it is painted, and nowhere else
      if (first && parameter === 'cover') for (const [k, stop] of feed.stops.entries()) stop.value = k;
    },
  };
}

const stopsOf = (stops: readonly Stop[]): Stop[] =>
  stops
    .map(({ at, value, colour }) => ({
      at: within(at, 0, 1),
      value: within(value, -100_000, 100_000),
      colour: colour.map((v) => within(v, 0, 1)),
    }))
    .sort((a, b) => a.at - b.at);

/** Sets the stops of a feed, in the order of their places. @throws EditRefused when there are none, or too many */
export function setStops(
  project: Project,
  finish: string,
  coat: string | null,
  feed: string,
  stops: readonly Stop[],
  joins = false,
): Edit {
  const { parameter } = feedIn(project, finish, coat, feed);
  if (stops.length === 0) throw new EditRefused('a feed keeps at least one stop');
  room([], MOST.stops, 'stops in a feed', stops.length);
  const made = stopsOf(stops);
  return {
    label: `Stops of ${parameterName(parameter)}`,
    joins,
    make: (p) => {
      feedIn(p, finish, coat, feed).stops = made;
    },
  };
}
