/** Solids of 24 letters in five faces against three's ExtrudeGeometry on the same outlines. */
import { ExtrudeGeometry, Path, Shape, Vector2 } from 'three';
import { newBevel } from '@wemlox/core/document';
import type { Contour } from '@wemlox/core/plane/flatten';
import { OpenFont } from '@wemlox/core/type/font';
import { loadRegions, merged, signedArea } from '@wemlox/core/plane/region';
import { buildSolid, type SolidShape } from '@wemlox/core/solid/solid';
import { SHIPPED_FONTS } from '@wemlox/core/type/shippedFonts';
import { diskSources } from '../sources.ts';
import { alone, compared, type Report } from './report.ts';
import { soundShare } from './truths.ts';

const LETTERS = 'ABCDEGHKMORSabcdeghkmors';
const FACES = ['alfa-slab-one', 'abril-fatface', 'lobster', 'pirata-one', 'varela-round'];
const BEVEL = newBevel({ width: 18, height: 24, profile: 'round', segments: 6 });
const SHAPE: SolidShape = {
  depth: 150,
  front: BEVEL,
  back: newBevel({ width: 0, height: 0, profile: 'straight', segments: 1 }),
};

const pointsOf = (contour: Contour) =>
  Array.from({ length: contour.length / 2 }, (_, i) => new Vector2(contour[i * 2], contour[i * 2 + 1]));

/** Outlines with their holes, as three wants them: a hole belongs to the outline it lies in. */
function shapesOf(region: Contour[]): Shape[] {
  const inside = (hole: Contour, outer: Contour) => {
    let odd = false;
    for (let i = 0, j = outer.length - 2; i < outer.length; j = i, i += 2) {
      const [xi, yi, xj, yj] = [outer[i], outer[i + 1], outer[j], outer[j + 1]];
      if (yi > hole[1] !== yj > hole[1] && hole[0] < ((xj - xi) * (hole[1] - yi)) / (yj - yi) + xi)
        odd = !odd;
    }
    return odd;
  };
  return region
    .filter((c) => signedArea(c) > 0)
    .map((outer) => {
      const shape = new Shape(pointsOf(outer));
      for (const hole of region) {
        if (signedArea(hole) < 0 && inside(hole, outer)) shape.holes.push(new Path(pointsOf(hole)));
      }
      return shape;
    });
}

export async function benchType(): Promise<Report> {
  await loadRegions();
  const sources = diskSources(() => Promise.reject(new Error('no assets')));
  const rows = [];
  for (const id of FACES) {
    const font = await OpenFont.open(await sources.shippedFont(SHIPPED_FONTS.find((f) => f.id === id)!.file));
    const regions = font.shape(LETTERS).map(({ glyph }) => merged(font.outline(glyph)));
    const shapes = regions.map(shapesOf);
    let triangles = 0;
    let peerTriangles = 0;
    // a copy of the outlines each time: nothing is known of them from the last round
    const ours = () => {
      triangles = 0;
      for (const region of regions) triangles += buildSolid([...region], SHAPE).positions.length / 9;
    };
    const peer = () => {
      peerTriangles = 0;
      for (const list of shapes) {
        const geometry = new ExtrudeGeometry(list, {
          depth: SHAPE.depth - BEVEL.height,
          bevelEnabled: true,
          bevelSize: BEVEL.width,
          bevelThickness: BEVEL.height,
          bevelOffset: -BEVEL.width,
          bevelSegments: BEVEL.segments,
        });
        peerTriangles += geometry.getAttribute('position').count / 3;
      }
    };
    rows.push(compared(`${id}, letters`, 'letters/s', LETTERS.length, ours, 'ExtrudeGeometry', peer));
    rows.push(alone(`${id}, triangles (ExtrudeGeometry ${peerTriangles})`, 'triangles', [triangles]));
    const known = () => {
      for (const region of regions) buildSolid(region, SHAPE);
    };
    rows.push(
      compared(
        `${id}, letters with known outlines`,
        'letters/s',
        LETTERS.length,
        known,
        'ExtrudeGeometry',
        peer,
      ),
    );
  }
  rows.push(
    ...(await soundShare(
      FACES,
      [...LETTERS].map((c) => c.codePointAt(0)!),
    )),
  );
  return { bench: 'type, 24 letters with a round bevel of 6 segments', rows };
}
