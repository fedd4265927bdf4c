/** Voronoi diagrams of outlines, kept as long as the outline, and found again slightly bent where rounding fails. */
import type { Contour } from './font.ts';
import { DiagramError, voronoiOf, type Voronoi } from './voronoi.ts';

/** How far vertices are bent, thousandths of an em, and how often before giving up. */
const BEND = 2e-3;
const TRIES = 4;

const known = new WeakMap<Contour[], Voronoi | null>();

/** Moves every vertex a little, each its own way. */
const bent = (region: Contour[], round: number): Contour[] =>
  region.map((contour, c) =>
    contour.map((v, i) => v + BEND * round * Math.sin(12.9898 * (i + 1) + 78.233 * (c + 1) + 37.719 * round)),
  );

/** The diagram of an outline; null when it has too many vertices or no bending helps. */
export function diagramOf(region: Contour[]): Voronoi | null {
  let diagram = known.get(region);
  for (let round = 0; diagram === undefined; round++) {
    try {
      diagram = voronoiOf(round === 0 ? region : bent(region, round));
    } catch (error) {
      if (!(error instanceof DiagramError)) throw error;
      if (round === TRIES) diagram = null;
    }
  }
  known.set(region, diagram);
  return diagram;
}
