/** Edits of what stands around the type, and of the camera. */
import {
  cutName,
  fitting,
  MOST,
  newId,
  newPiece,
  PIECE_NAMES,
  plainFinish,
  plainSurface,
  type Camera,
  type Finish,
  type Move,
  type PieceKind,
  type Project,
  type Track,
} from '../document/index.ts';
import { CAMERA } from '../document/parameters.ts';
import { EditRefused, found, freeName, named, room, within, type Edit } from './edit.ts';

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

/** Puts a piece on the stage, in a matte finish of its own. @param at its place, metres */
export function addPiece(
  project: Project,
  kind: PieceKind,
  at: number,
  { piece, finish }: { piece: string; finish: string },
): Edit {
  room(project.pieces, MOST.pieces, 'pieces');
  room(project.finishes, MOST.finishes, 'finishes');
  const name = PIECE_NAMES[kind];
  return {
    label: `Add ${name.toLowerCase()}`,
    make: (p) => {
      const taken = p.finishes.map((f) => f.name);
      p.finishes.push(quietMatte(finish, freeName(`${name} matte`, taken)));
      p.pieces.push(newPiece(kind, { id: piece, at: within(at, -1000, 1000), finish }));
    },
  };
}

export const removePiece = (project: Project, id: string): Edit => ({
  label: `Remove ${PIECE_NAMES[found(project.pieces, id, 'piece').kind].toLowerCase()}`,
  make: (p) => {
    p.pieces = p.pieces.filter((x) => x.id !== id);
  },
});

/** Gives a piece another finish; null leaves it bare. */
export const dressPiece = (project: Project, id: string, finish: string | null): Edit => ({
  label: `Finish of the ${PIECE_NAMES[found(project.pieces, id, 'piece').kind].toLowerCase()}`,
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
    found(p.shots, id, 'shot').name = cutName(name);
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
