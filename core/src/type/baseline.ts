/** Where letters stand on a baseline that is not straight. */
import { cos, sin } from '../maths/reproducible.ts';
import type { Baseline } from '../document/index.ts';
import { courseOf, lengthOf, placeAt } from '../plane/curve.ts';

interface Stand {
  x: number;
  y: number;
  turn: number;
}

/** Flatness of free baselines, thousandths of an em. */
const FLATNESS = 0.5;

/**
 * Places letters by the arc length of their middles.
 * @param width of the widest line; lengths are thousandths of an em
 * @param scale metres per thousandth of an em
 * @returns for a length along the line of text and a height above it, the place and the turn
 */
export function standOn(
  baseline: Baseline,
  width: number,
  scale: number,
): (along: number, above: number) => Stand {
  const [offset, shift] = [baseline.offset / scale, baseline.shift / scale];
  const stand = (x: number, y: number, angle: number, above: number): Stand => ({
    x: x - sin(angle) * above,
    y: y + cos(angle) * above,
    turn: baseline.upright ? 0 : angle,
  });
  const round = (radius: number) => (along: number, above: number) => {
    const angle = (along + shift - width / 2) / radius;
    return stand(radius * sin(angle), radius * cos(angle) - radius, -angle, above + offset);
  };
  switch (baseline.kind) {
    case 'line': {
      const [c, s] = [cos(baseline.slope), sin(baseline.slope)];
      return (along, above) => {
        const at = along + shift - width / 2;
        return stand(at * c, at * s, baseline.slope, above + offset);
      };
    }
    case 'arc':
      // an arc too flat to tell from a line is one
      return round(Math.abs(baseline.bend) < 1e-4 ? 1e9 : width / baseline.bend);
    case 'circle':
      return round(((baseline.inside ? -1 : 1) * baseline.radius) / scale);
    case 'free': {
      const nodes = baseline.nodes.map((n) => ({
        x: n.x / scale,
        y: n.y / scale,
        inX: n.inX / scale,
        inY: n.inY / scale,
        outX: n.outX / scale,
        outY: n.outY / scale,
      }));
      const course = courseOf(nodes, false, FLATNESS);
      const start = (lengthOf(course) - width) / 2;
      return (along, above) => {
        const { x, y, angle } = placeAt(course, start + along + shift);
        return stand(x, y, angle, above + offset);
      };
    }
    case 'straight':
      return (along, above) => ({ x: along, y: above, turn: 0 });
  }
}
