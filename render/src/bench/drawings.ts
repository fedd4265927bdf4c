/** Reading drawings: what four times the shapes take, over four times what a quarter takes. 1 grows evenly. */
import { openDrawing } from '@wemlox/core/drawing/drawing';
import { loadRegions } from '@wemlox/core/plane/region';
import { compared, type Report } from './report.ts';

const svg = (inner: string) =>
  new TextEncoder().encode(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000">${inner}</svg>`);
const grid = (count: number, shape: (x: number, y: number) => string) => {
  const side = Math.ceil(Math.sqrt(count));
  return svg(
    Array.from({ length: count }, (_, i) => shape((i % side) * 10, Math.floor(i / side) * 10)).join(''),
  );
};
const ring = Array.from({ length: 400 }, (_, i) => {
  const [a, r] = [(i / 400) * 2 * Math.PI, i % 2 ? 480 : 400];
  return `${500 + r * Math.cos(a)},${500 + r * Math.sin(a)}`;
}).join(' ');

const CASES: [string, number, (count: number) => Uint8Array][] = [
  ['disjoint squares', 1600, (n) => grid(n, (x, y) => `<rect x="${x}" y="${y}" width="8" height="8"/>`)],
  [
    'squares over their neighbours',
    1600,
    (n) => grid(n, (x, y) => `<rect x="${x}" y="${y}" width="13" height="13"/>`),
  ],
  [
    'circles under one clip',
    160,
    (n) =>
      svg(
        `<clipPath id="c"><polygon points="${ring}"/></clipPath><g clip-path="url(#c)">${Array.from({ length: n }, (_, i) => `<circle cx="${(i * 37) % 1000}" cy="${(i * 91) % 1000}" r="12"/>`).join('')}</g>`,
      ),
  ],
];

export async function benchDrawings(): Promise<Report> {
  await loadRegions();
  const rows = CASES.map(([name, count, file]) => {
    const [many, few] = [file(count), file(count / 4)];
    const read = (bytes: Uint8Array) => () => void openDrawing(bytes, 'vector');
    return compared(
      `${count} ${name}`,
      'shapes/s',
      count,
      read(many),
      `${count / 4} of them`,
      read(few),
      count / 4,
    );
  });
  return { bench: 'drawings, shapes read a second', rows };
}
