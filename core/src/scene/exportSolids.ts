/** A scene's letters as files for other programs: GLB and OBJ with zones as named parts, outlines as SVG. */
import { cos, sin } from '../maths/reproducible.ts';
import { Document, WebIO } from '@gltf-transform/core';
import { ZONES, type Finish } from '../document/index.ts';
import type { BlockSolids } from '../solid/blockSolids.ts';
import type { BakedPart, ExportKind } from './exportKinds.ts';
import { GLTF_EXTENSIONS } from '../model/extensions.ts';
import { materialMaker, pictured } from './gltfMaterials.ts';
import { flattened } from './flatScene.ts';
import { BARE, NO_BYTE, type RenderScene } from './renderScene.ts';

export interface ExportInput {
  scene: RenderScene;
  solids: readonly BlockSolids[];
  finishes: readonly Finish[];
  /** Lays a part whose finish differs from place to place down as pictures; null for all others. */
  bake?: (part: number) => BakedPart | null | Promise<BakedPart | null>;
}

/** Parts of letters, by their numbers, letter by letter, with the letter's text. */
function* lettersOf({
  scene: { parts, things },
  solids,
}: ExportInput): Generator<{ name: string; block: number; parts: number[] }> {
  const byLetter = new Map<string, number[]>();
  for (let i = 0; i < parts.count; i++) {
    const { block, letter } = things[parts.thing[i]];
    if (letter === null) continue;
    const key = `${block}/${letter}`;
    byLetter.set(key, [...(byLetter.get(key) ?? []), i]);
  }
  for (const [b, block] of solids.entries()) {
    const seen = new Map<string, number>();
    const done = new Set<string>();
    for (const letter of block.letters) {
      const key = `${block.block}/${letter.letter}`;
      if (done.has(key)) continue;
      done.add(key);
      const count = (seen.get(letter.text) ?? 0) + 1;
      seen.set(letter.text, count);
      const name = count > 1 ? `${letter.text} ${count}` : letter.text;
      yield { name, block: b, parts: byLetter.get(key) ?? [] };
    }
  }
}

const zoneName = ({ parts }: RenderScene, part: number): string => {
  const zone = ZONES[parts.zone[part]];
  const colour = parts.colour[part];
  return colour === NO_BYTE ? zone : `${zone} ${colour + 1}`;
};

/** Least thickness a volume is given, metres: with none it would count as a thin wall. */
const THINNEST = 0.001;

/** Places in the plane of the letter, two for each corner. */
function planeOf(uv: Float32Array, first: number, triangles: number): Float32Array {
  const plane = new Float32Array(triangles * 6);
  for (let i = 0; i < triangles * 3; i++) {
    const from = first * 12 + i * 4;
    plane[i * 2] = uv[from + 2];
    plane[i * 2 + 1] = -uv[from + 3];
  }
  return plane;
}

async function toGlb(input: ExportInput): Promise<Uint8Array<ArrayBuffer>> {
  const { scene, finishes, solids, bake } = input;
  const { parts: all } = scene;
  const flat = flattened(scene);
  const document = new Document();
  const buffer = document.createBuffer();
  const root = document.createScene('Wemlox');
  const dress = materialMaker(document, Math.max(THINNEST, scene.typeBox.max[2] - scene.typeBox.min[2]));
  const materials = scene.finishes.map((optics, i) =>
    dress(finishes[i - 1]?.name ?? (i === BARE ? 'Bare' : 'Points'), optics),
  );
  const blocks = solids.map((_, i) => {
    const node = document.createNode(`Block ${i + 1}`);
    root.addChild(node);
    return node;
  });
  const slice = (data: Float32Array, part: number) =>
    data.slice(flat.first[part] * 9, (flat.first[part] + all.triangles[part]) * 9);
  for (const { name, block, parts } of lettersOf(input)) {
    const node = document.createNode(name);
    blocks[block].addChild(node);
    for (const part of parts) {
      const vectors = (data: Float32Array) =>
        document.createAccessor().setType('VEC3').setBuffer(buffer).setArray(slice(data, part));
      const baked = (await bake?.(part)) ?? null;
      const plain = materials[all.finish[part]];
      const primitive = document
        .createPrimitive()
        .setAttribute('POSITION', vectors(flat.positions))
        .setAttribute('NORMAL', vectors(flat.normals))
        .setAttribute(
          'TEXCOORD_0',
          document
            .createAccessor()
            .setType('VEC2')
            .setBuffer(buffer)
            .setArray(baked?.coordinates ?? planeOf(flat.uv, flat.first[part], all.triangles[part])),
        )
        .setMaterial(baked ? pictured(document, plain, `${name}, ${zoneName(scene, part)}`, baked) : plain);
      const mesh = document.createMesh(zoneName(scene, part)).addPrimitive(primitive);
      node.addChild(document.createNode(zoneName(scene, part)).setMesh(mesh));
    }
  }
  return (await new WebIO()
    .registerExtensions(GLTF_EXTENSIONS)
    .writeBinary(document)) as Uint8Array<ArrayBuffer>;
}

/** Wavefront OBJ: an object for each letter, a group for each zone; equal points share a number. */
function toObj(input: ExportInput): Uint8Array<ArrayBuffer> {
  const { scene, finishes } = input;
  const { parts: all } = scene;
  const flat = flattened(scene);
  const lines: string[] = ['# Wemlox solids, metres, y up'];
  let points = 0;
  let normals = 0;
  const numbered = () => {
    const known = new Map<string, number>();
    return (text: string, next: () => number) => {
      let number = known.get(text);
      if (number === undefined) known.set(text, (number = next()));
      return number;
    };
  };
  for (const { name, parts } of lettersOf(input)) {
    lines.push(`o ${name.replace(/\s+/g, '_')}`);
    const point = numbered();
    const normal = numbered();
    for (const part of parts) {
      lines.push(`g ${zoneName(scene, part).replace(/\s+/g, '_')}`);
      lines.push(`usemtl ${(finishes[all.finish[part] - 1]?.name ?? 'Bare').replace(/\s+/g, '_')}`);
      for (let t = flat.first[part]; t < flat.first[part] + all.triangles[part]; t++) {
        const corners = [0, 1, 2].map((k) => {
          const at = t * 9 + k * 3;
          const three = (data: Float32Array, digits: number) =>
            [0, 1, 2].map((i) => Number(data[at + i].toFixed(digits))).join(' ');
          const p = point(`v ${three(flat.positions, 7)}`, () => {
            lines.push(`v ${three(flat.positions, 7)}`);
            return ++points;
          });
          const n = normal(`vn ${three(flat.normals, 4)}`, () => {
            lines.push(`vn ${three(flat.normals, 4)}`);
            return ++normals;
          });
          return `${p}//${n}`;
        });
        lines.push(`f ${corners.join(' ')}`);
      }
    }
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** Outlines in millimetres, a group for each block. */
function toSvg({ solids }: ExportInput): Uint8Array<ArrayBuffer> {
  const mm = 1000;
  const groups: string[] = [];
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  let top = 0;
  for (const block of solids) {
    if (!block.bounds) continue;
    // blocks stand below each other, a little apart
    const shift = top + block.bounds[3];
    const paths = block.letters.map((letter) => {
      const [c, s] = [cos(letter.turn), sin(letter.turn)];
      const d = letter.outline
        .map((contour) => {
          const points: string[] = [];
          for (let i = 0; i < contour.length; i += 2) {
            const x = (letter.x + c * contour[i] - s * contour[i + 1]) * block.scale;
            const y = shift - (letter.y + s * contour[i] + c * contour[i + 1]) * block.scale;
            [x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
            points.push(`${(x * mm).toFixed(3)} ${(y * mm).toFixed(3)}`);
          }
          return `M${points.join('L')}Z`;
        })
        .join('');
      return `    <path d="${d}"><title>${escaped(letter.text)}</title></path>`;
    });
    groups.push(`  <g fill-rule="evenodd">\n${paths.join('\n')}\n  </g>`);
    top = shift - block.bounds[1] + 0.02;
  }
  const [w, h] = x1 > x0 ? [(x1 - x0) * mm, (y1 - y0) * mm] : [1, 1];
  const box = x1 > x0 ? [x0 * mm, y0 * mm, w, h] : [0, 0, 1, 1];
  return new TextEncoder().encode(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w.toFixed(3)}mm" height="${h.toFixed(3)}mm" viewBox="${box.map((v) => v.toFixed(3)).join(' ')}">\n${groups.join('\n')}\n</svg>\n`,
  );
}

/** A scene's letters as a file. */
export const exported = async (kind: ExportKind, input: ExportInput): Promise<Uint8Array<ArrayBuffer>> =>
  kind === 'glb' ? toGlb(input) : kind === 'obj' ? toObj(input) : toSvg(input);
