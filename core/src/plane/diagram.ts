/** Voronoi diagrams of outlines, kept as long as the outline, and found again slightly bent where rounding fails. */
import { sin } from '../maths/reproducible.ts';
import type { Contour } from '../plane/flatten.ts';
import { DiagramError, voronoiOf, type Voronoi } from './voronoi.ts';

/** How far vertices are bent, thousandths of an em, and how often before giving up. */
const BEND = 2e-3;
const TRIES = 4;
/** Outlines of more vertices are tried once: each try takes time with their square. */
const TRIED_AGAIN = 1500;

const known = new WeakMap<Contour[], Voronoi | null>();

/** Moves every vertex a little, each its own way. */
const bent = (region: Contour[], round: number): Contour[] =>
  region.map((contour, c) =>
    contour.map((v, i) => v + BEND * round * sin(12.9898 * (i + 1) + 78.233 * (c + 1) + 37.719 * round)),
  );

/** The diagram of an outline; null when it has too many vertices or no bending helps. */
export function diagramOf(region: Contour[]): Voronoi | null {
  let diagram = known.get(region);
  const tries = region.reduce((sum, c) => sum + c.length / 2, 0) > TRIED_AGAIN ? 0 : TRIES;
  for (let round = 0; diagram === undefined; round++) {
    try {
      diagram = voronoiOf(round === 0 ? region : bent(region, round));
    } catch (error) {
      if (!(error instanceof DiagramError)) throw error;
      if (round === tries) diagram = null;
    }
  }
  known.set(region, diagram);
  return diagram;
}
