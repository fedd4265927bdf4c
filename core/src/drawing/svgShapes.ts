/** SVG attributes as geometry: lengths, transforms, and shapes as paths (SVG 1.1, 7, 8 and 9). */
import svgpath from 'svgpath';
import type { PathCommand } from '../plane/flatten.ts';

export type Attributes = Record<string, string>;
export interface Element {
  tag: string;
  attributes: Attributes;
  children: Element[];
  text: string;
}

/** x' = a x + c y + e, y' = b x + d y + f. */
export type Matrix = [number, number, number, number, number, number];
export const SAME: Matrix = [1, 0, 0, 1, 0, 0];
/** The transform that does n, then m. */
export const product = (m: Matrix, n: Matrix): Matrix => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

/** A transform attribute as a matrix, read off what it does to three points. */
export function matrixOf(transform: string | undefined): Matrix {
  if (!transform) return SAME;
  const at = (x: number, y: number): [number, number] => {
    let found: [number, number] = [x, y];
    svgpath(`M${x} ${y}`)
      .transform(transform)
      .iterate((segment) => {
        if (segment[0] === 'M') found = [segment[1], segment[2]];
      });
    return found;
  };
  const [o, p, q] = [at(0, 0), at(1, 0), at(0, 1)];
  return [p[0] - o[0], p[1] - o[1], q[0] - o[0], q[1] - o[1], o[0], o[1]];
}

const PER_UNIT: Record<string, number> = { px: 1, pt: 96 / 72, pc: 16, mm: 96 / 25.4, cm: 96 / 2.54, in: 96 };
/** A length in user units; `otherwise` where there is none. Percentages count as plain numbers. */
export function lengthOf(text: string | undefined, otherwise = 0): number {
  const found = /^\s*([-+]?[\d.]+(?:e[-+]?\d+)?)\s*([a-z%]*)/i.exec(text ?? '');
  if (!found) return otherwise;
  const value = Number(found[1]) * (PER_UNIT[found[2].toLowerCase()] ?? 1);
  return Number.isFinite(value) ? value : otherwise;
}

/** The declarations of a style attribute. */
export const declarations = (css: string): Attributes =>
  Object.fromEntries(
    css
      .split(';')
      .map((d) => d.split(':', 2).map((s) => s.trim()))
      .filter((d) => d.length === 2 && d[0] !== ''),
  );

/** Path data of a shape element; empty when it draws nothing. */
export function shapeData({ tag, attributes: a }: Element): string {
  const n = (name: string, otherwise = 0) => lengthOf(a[name], otherwise);
  const ellipse = (cx: number, cy: number, rx: number, ry: number) =>
    rx > 0 && ry > 0
      ? `M${cx - rx} ${cy}A${rx} ${ry} 0 1 0 ${cx + rx} ${cy}A${rx} ${ry} 0 1 0 ${cx - rx} ${cy}Z`
      : '';
  switch (tag) {
    case 'path':
      return a.d ?? '';
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (w <= 0 || h <= 0) return '';
      const rx = Math.min(w / 2, n('rx', n('ry')));
      const ry = Math.min(h / 2, n('ry', rx));
      if (rx <= 0 || ry <= 0) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
      const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
      return `M${x + rx} ${y}H${x + w - rx}${arc(rx, ry)}V${y + h - ry}${arc(-rx, ry)}H${x + rx}${arc(-rx, -ry)}V${y + ry}${arc(rx, -ry)}Z`;
    }
    case 'circle':
      return ellipse(n('cx'), n('cy'), n('r'), n('r'));
    case 'ellipse':
      return ellipse(n('cx'), n('cy'), n('rx', n('ry')), n('ry', n('rx')));
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
    case 'polygon': {
      const points = (a.points ?? '').match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? [];
      const whole = points.slice(0, points.length - (points.length % 2));
      return whole.length < 4 ? '' : `M${whole.join(' ')}${tag === 'polygon' ? 'Z' : ''}`;
    }
    default:
      return '';
  }
}

/** Path data as absolute M, L, Q, C, Z commands, as far as it can be read. */
export function commandsOf(data: string, matrix: Matrix): { commands: PathCommand[]; broken: boolean } {
  const commands: PathCommand[] = [];
  const path = svgpath(data);
  // the declared type leaves the parser's message out
  const broken = (path as unknown as { err: string }).err !== '';
  let start: [number, number] = [0, 0];
  path
    .abs()
    .unshort()
    .unarc()
    .matrix(matrix)
    .iterate((segment, _, x, y) => {
      const [type, ...values] = segment as [string, ...number[]];
      if (type === 'M') start = [values[0], values[1]];
      if (type === 'H') commands.push({ type: 'L', values: [values[0], y] });
      else if (type === 'V') commands.push({ type: 'L', values: [x, values[0]] });
      else if (type === 'Z' || type === 'z') commands.push({ type: 'Z', values: [] });
      else {
        // after closing, a path goes on from where it began
        if (type !== 'M' && commands.at(-1)?.type === 'Z') commands.push({ type: 'M', values: start });
        commands.push({ type, values });
      }
    });
  return { commands, broken };
}
