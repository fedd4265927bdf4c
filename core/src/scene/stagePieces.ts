/** What pieces of the stage come to in a scene: where they stand, what they leave, what plates wear. */
import { newFeed, plainFinish, plainSurface, type Feed, type Finish, type Piece } from '../document/index.ts';
import { pow } from '../maths/reproducible.ts';
import type { Model } from '../model/model.ts';
import type { Box } from '../stage/camera.ts';
import { footOf, turnOf } from '../stage/pieces.ts';

/** A model with the middle of its underside at the origin, its unit so large. */
export function footedAt({ box: { min, max } }: Model, size: number): number[] {
  const [x, z] = [0, 2].map((i) => -((min[i] + max[i]) / 2) * size);
  return [size, 0, 0, x, 0, size, 0, -min[1] * size, 0, 0, size, z];
}

/** Where a piece stands whose foot is at its origin. */
export function standingTransform(piece: Piece, typeBox: Box): number[] {
  const foot = footOf(piece, typeBox);
  return turnOf(piece).flatMap((row, i) => [...row, foot[i] + piece.move[i]]);
}

export const ORIGIN: Box = { min: [0, 0, 0], max: [0, 0, 0] };

/** Whether a piece stands elsewhere than its triangles. */
export const isMoved = ({ move, turn, tilt, roll }: Piece) =>
  turn !== 0 || tilt !== 0 || roll !== 0 || move.some((v) => v !== 0);

/** Whether a piece leaves only shadow and reflection. */
export const catching = ({ catches, kind }: Piece) => catches && CATCHING.has(kind);
const CATCHING: ReadonlySet<Piece['kind']> = new Set(['floor', 'wall', 'backdrop', 'table', 'niche']);

/** Sides of a plate that fills the frame, in sides of its picture: what blurs at its edges finds it mirrored there. */
export const BEYOND_FRAME = 1.25;

/**
 * What a plate wears: its picture as paint that takes light, or as light by itself, and nothing where it is open.
 * @param sides of it in sides of the picture
 * @param isOpen whether its picture has opacity
 */
export function plateFinish({ picture, lit, stops }: Piece, sides: number, isOpen: boolean): Finish {
  const gain = pow(2, stops);
  const fed = (parameter: string, full: number | number[], take: Feed['take']): Feed[] =>
    picture
      ? [
          {
            ...newFeed('plate', parameter, full),
            source: 'picture',
            take,
            lay: 'block',
            zoom: 1 / sides,
            edges: 'mirror',
            picture,
          },
        ]
      : [];
  const base = { specular_weight: 0, base_weight: lit ? Math.min(1, gain) : 0 };
  return plainFinish({
    id: 'plate',
    name: 'Plate',
    surface: plainSurface(lit ? base : { ...base, emission_luminance: gain }),
    feeds: [
      ...fed(lit ? 'base_color' : 'emission_color', [1, 1, 1], 'colour'),
      ...(isOpen ? fed('geometry_opacity', 0, 'cover') : []),
    ],
  });
}
