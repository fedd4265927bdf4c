/** Edits of what stands around the type, and of the camera. */
import {
  fitting,
  MOST,
  newFeed,
  newId,
  newPiece,
  PIECE_NAMES,
  pieceInWords,
  plainFinish,
  plainSurface,
  type Camera,
  type Finish,
  type ModelRef,
  type Move,
  type PictureRef,
  type Piece,
  type PieceKind,
  type Project,
  type Track,
} from '../document/index.ts';
import { wrapped } from '../light/placing.ts';
import { CAMERA, PIECE } from '../document/parameters.ts';
import { EditRefused, found, freeName, named, room, within, givenName, type Edit } from './edit.ts';

/** What a piece comes in: a grey that leaves the picture to the type. */
const quietMatte = (id: string, name: string): Finish =>
  plainFinish({
    id,
    name,
    surface: plainSurface({
      base_color: [0.22, 0.22, 0.22],
      base_diffuse_roughness: 0.6,
      specular_roughness: 0.7,
      specular_weight: 0.4,
    }),
  });

/** Height of a table over the floor, in thicknesses of its top. */
const LEGS = 15;
/** How far from the type a grid's lines have faded, in widths of theirs. */
const GRID_FADES = 1;

/** What a grid comes in: light that fades with the distance from the type. @param reach where it is gone, metres */
function glowingLines(id: string, name: string, reach: number): Finish {
  const fed = newFeed(newId(), 'emission_luminance', 0);
  const stops = [1, 0].map((value, at) => ({ at, value, colour: [1, 1, 1] }));
  return plainFinish({
    id,
    name,
    surface: plainSurface({
      base_color: [0, 0, 0],
      specular_weight: 0,
      emission_color: [0.35, 0.75, 1],
      emission_luminance: 1,
    }),
    feeds: [{ ...fed, source: 'near', toward: 'type', scale: within(reach, 0.00001, 100), stops }],
  });
}

/** A piece under a name that no other has. */
const namedPiece = (p: Project, kind: PieceKind, changes: Partial<Piece>): Piece =>
  named(newPiece(kind, changes), p.pieces);

export const renamePiece = (_project: Project, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    found(p.pieces, id, 'piece').name = givenName(name);
  },
});

type Sizes = Partial<Pick<Piece, 'width' | 'height' | 'depth' | 'radius' | 'spacing' | 'thickness'>>;

/** Sizes brought into their ranges. */
const fitSizes = (sizes: Sizes): Sizes =>
  Object.fromEntries(
    (Object.keys(sizes) as (keyof Sizes)[]).map((key) => [
      key,
      fitting(PIECE[key], sizes[key]) ?? PIECE[key].default,
    ]),
  );

/** Puts a piece on the stage, in a finish of its own. @param at its place, metres */
export function addPiece(
  project: Project,
  kind: Exclude<PieceKind, 'plate' | 'model'>,
  at: number,
  { piece, finish }: { piece: string; finish: string },
  sizes: Sizes = {},
): Edit {
  room(project.pieces, MOST.pieces, 'pieces');
  room(project.finishes, MOST.finishes, 'finishes');
  const name = PIECE_NAMES[kind];
  return {
    label: `Add ${name.toLowerCase()}`,
    make: (p) => {
      const taken = p.finishes.map((f) => f.name);
      const worn =
        kind === 'grid'
          ? glowingLines(finish, freeName('Grid light', taken), (sizes.width ?? 2) * GRID_FADES)
          : quietMatte(finish, freeName(`${name} matte`, taken));
      p.finishes.push(worn);
      // what stood on the floor stands on the table now, and the floor beneath it
      const under = at - (sizes.thickness ?? PIECE.thickness.default);
      if (kind === 'table')
        for (const floor of p.pieces)
          if (floor.kind === 'floor' && floor.at > under && floor.at <= at)
            floor.at = within(at - LEGS * (at - under), -1000, 1000);
      p.pieces.push(
        namedPiece(p, kind, { ...fitSizes(sizes), id: piece, at: within(at, -1000, 1000), finish }),
      );
    },
  };
}

/** Puts a picture on the stage, at its place in space. @param at behind the type, metres */
export function addPlate(project: Project, picture: PictureRef, at: number, id: string): Edit {
  room(project.pieces, MOST.pieces, 'pieces');
  return {
    label: `Add ${picture.name}`,
    make: (p) => {
      const place = { at: within(at, -1000, 1000), stands: 'frame' as const };
      p.pieces.push(namedPiece(p, 'plate', { ...place, id, name: picture.name, picture: { ...picture } }));
    },
  };
}

/** Moves, turns or sizes a piece; what is beyond the ranges is brought into them. */
export function placePiece(
  project: Project,
  id: string,
  label: string,
  to: Partial<Pick<Piece, 'move' | 'turn' | 'size'>>,
): Edit {
  const { name } = found(project.pieces, id, 'piece');
  return {
    label: `${label} ${name}`,
    joins: true,
    make: (p) => {
      const piece = found(p.pieces, id, 'piece');
      const turn = to.turn === undefined ? piece.turn : wrapped(to.turn);
      const near = <K extends 'move' | 'turn' | 'size'>(key: K, value: Piece[K]) =>
        (fitting(PIECE[key], value) as Piece[K] | null) ?? piece[key];
      Object.assign(piece, {
        move: near('move', to.move ?? piece.move),
        turn: near('turn', turn),
        size: near('size', to.size ?? piece.size),
      });
    },
  };
}

/** Has a plate show another picture. */
export const showOnPlate = (project: Project, id: string, picture: PictureRef): Edit => ({
  label: `Picture of ${pieceInWords(found(project.pieces, id, 'piece'))} → ${picture.name}`,
  make: (p) => {
    const piece = found(p.pieces, id, 'piece');
    if (piece.kind !== 'plate') throw new EditRefused('only a plate shows a picture');
    piece.picture = { ...picture };
  },
});

/** Puts a model on the stage. @param size of what its file says @param move from its foot beneath the type, metres */
export function addModel(
  project: Project,
  model: ModelRef,
  { id, at, size, move }: { id: string; at: number; size: number; move: readonly number[] },
): Edit {
  room(project.pieces, MOST.pieces, 'pieces');
  return {
    label: `Add ${model.name}`,
    make: (p) => {
      p.pieces.push(
        namedPiece(p, 'model', {
          id,
          at: within(at, -1000, 1000),
          name: model.name,
          model: { ...model },
          size: within(size, PIECE.size.min, PIECE.size.max),
          move: move.map((v) => within(v, -1000, 1000)),
        }),
      );
    },
  };
}

/** Gives a part of a model a finish of the project; null gives it its own back. */
export const dressPart = (_project: Project, id: string, part: string, finish: string | null): Edit => ({
  label: `Finish of ${part}`,
  make: (p) => {
    const piece = found(p.pieces, id, 'piece');
    if (piece.kind !== 'model') throw new EditRefused('only a model has parts');
    const others = piece.dressings.filter((d) => d.part !== part);
    if (finish === null) {
      piece.dressings = others;
      return;
    }
    found(p.finishes, finish, 'finish');
    room(others, MOST.dressings, 'parts with finishes of their own');
    piece.dressings = [...others, { part, finish }];
  },
});

export const removePiece = (project: Project, id: string): Edit => ({
  label: `Remove ${pieceInWords(found(project.pieces, id, 'piece'))}`,
  make: (p) => {
    p.pieces = p.pieces.filter((x) => x.id !== id);
  },
});

/** Gives a piece another finish; null leaves it bare. */
export const dressPiece = (project: Project, id: string, finish: string | null): Edit => ({
  label: `Finish of ${pieceInWords(found(project.pieces, id, 'piece'))}`,
  make: (p) => {
    if (finish !== null) found(p.finishes, finish, 'finish');
    found(p.pieces, id, 'piece').finish = finish;
  },
});

/** Adds a shot under an identifier: another's camera, frame and time, and what moves in it. */
export function addShot(project: Project, source: string, id: string): Edit {
  room(project.shots, MOST.shots, 'shots');
  const shot = found(project.shots, source, 'shot');
  const [from, to] = [`shots/${source}/`, `shots/${id}/`];
  const taken = <T extends Track | Move>(all: readonly T[]): T[] =>
    all.map((m) => ({
      ...structuredClone(m),
      id: newId(),
      address: m.address.startsWith(from) ? `${to}${m.address.slice(from.length)}` : m.address,
    }));
  return {
    label: 'New shot',
    make: (p) => {
      const made = { ...structuredClone(shot), id, tracks: taken(shot.tracks), moves: taken(shot.moves) };
      p.shots.push(named(made, p.shots));
    },
  };
}

export const renameShot = (_project: Project, id: string, name: string): Edit => ({
  label: `Name → ${name}`,
  make: (p) => {
    found(p.shots, id, 'shot').name = givenName(name);
  },
});

/** Removes a shot. @throws EditRefused for the last */
export function removeShot(project: Project, id: string): Edit {
  const shot = found(project.shots, id, 'shot');
  if (project.shots.length < 2) throw new EditRefused('a project keeps at least one shot');
  return {
    label: `Remove ${shot.name}`,
    make: (p) => {
      p.shots = p.shots.filter((s) => s.id !== id);
    },
  };
}

/** Moves a shot's camera; what is beyond its parameters' ranges is brought into them. */
export const moveCamera = (
  _project: Project,
  shot: string,
  label: string,
  camera: Camera,
  joins = false,
): Edit => ({
  label,
  joins,
  make: (p) => {
    const of = found(p.shots, shot, 'shot');
    const near = (key: keyof Camera) => fitting(CAMERA[key], camera[key]) ?? of.camera[key];
    of.camera = {
      ...of.camera,
      ...Object.fromEntries((Object.keys(CAMERA) as (keyof Camera)[]).map((key) => [key, near(key)])),
    };
  },
});
