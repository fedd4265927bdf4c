/**
 * A finish as the draft's shader draws it: code for its coats and feeds, and the numbers the code reads. Finishes that
 * differ in numbers alone have the same code, so that a moved slider compiles nothing.
 */
import type { FeedSource } from '@wemlox/core/document';
import { opticsOf, type Optics } from '@wemlox/core/finish/optics';
import {
  surfacesOf,
  type Axis,
  type Course,
  type LaidPicture,
  type Recipe,
} from '@wemlox/core/finish/recipe';
import { textureKey, type Texture } from '@wemlox/core/texture/texture';
import { NOISE } from './noise.ts';
import { boxOf, planeOf, placesNeeded, type PlaceName } from './places.ts';
import { FILM_ENTRIES, FILM_TEXELS, isFilmed, ROW_TEXELS, surfaceRow } from './rows.ts';

export interface DraftFinish {
  /** Alike keys, alike finishes. */
  key: string;
  /** GLSL that declares `void fed(float facing, vec3 up)`; alike codes, alike programs. */
  code: string;
  /** Attributes that the code reads. */
  places: PlaceName[];
  /** Four floats a texel, DATA_WIDTH texels a row. */
  data: Float32Array<ArrayBuffer>;
  /** Pictures the code reads, in order. */
  pictures: Pick<LaidPicture, 'picture' | 'coding' | 'edges'>[];
  /** Whether it is fed by distances, to boxes that are handed to it. */
  near: boolean;
  /** Not all of it is there. */
  holes: boolean;
  relief: boolean;
}

/** Texels in a row of the numbers' texture. */
export const DATA_WIDTH = 256;
/** Pictures one finish can show in the draft: further ones lie as the last. */
const MOST_PICTURES = 4;
const NARROWEST = 1e-6;

/** What the code of a shader reads, in texels. */
class Data {
  readonly values: number[] = [];

  /** @returns the number of its first texel */
  put(values: readonly number[]): number {
    const at = this.values.length / 4;
    this.values.push(...values);
    while (this.values.length % 4) this.values.push(0);
    return at;
  }

  course({ at, values }: Pick<Course, 'at' | 'values'>): number {
    return this.put(at.flatMap((place, i) => [place, values[i]?.[0] ?? 0, 0, 0]));
  }

  texels(): Float32Array<ArrayBuffer> {
    const row = DATA_WIDTH * 4;
    const out = new Float32Array(Math.max(1, Math.ceil(this.values.length / row)) * row);
    out.set(this.values);
    return out;
  }
}

const PATTERNS: Partial<Record<FeedSource, (at: string) => string>> = {
  noise: (at) => `.5 + fedNoise(${at}, octaves, seed) * contrast`,
  turbulence: (at) => `fedTurbulence(${at}, octaves, seed) * contrast`,
  cells: (at) => `fedCells(${at}, seed).x * contrast`,
  cracks: (at) => `dot(fedCells(${at}, seed), vec3(-1, 1, 0)) * contrast`,
  grain: (at) => `.5 + (fedCells(${at}, seed).z - .5) * contrast`,
};
const COURSES: Partial<Record<FeedSource, string>> = {
  weave: 'fedWeave(p)',
  bricks: 'fedBricks(p, seed)',
  tiles: 'fedCourse(p, 1., seed)',
};
const ALONG: Partial<Record<FeedSource, string>> = { along: 'x', up: 'y', through: 'z' };

/** A channel of a picture. @param look where it is looked up @param n first texel of its axis */
function channelCode({ channel, edges, toPeak }: LaidPicture, look: number, n: number): string {
  // the draft leans faces by heights alone
  if (channel === 'normals') return 'u = 0.;';
  const [texel, at] = [`texel${look}`, `at${look}`];
  const channels = { light: `dot(${texel}.rgb, vec3(.2126, .7152, .0722))`, cover: `${texel}.a` };
  const value =
    channels[channel as 'light'] ?? `${texel}.${{ red: 'r', green: 'g', blue: 'b' }[channel as 'red']}`;
  const off =
    channel === 'cover' && edges === 'once' ? `any(notEqual(${at}, clamp(${at}, 0., 1.))) ? 0. : ` : '';
  return `u = ${off}${value}${toPeak ? ` * fedTexel(${n + 3}).w` : ''};`;
}

/** Looks a picture up where a place lies on it. @param n first texel of an axis that is laid so */
function lookCode({ lay }: LaidPicture, look: number, n: number, sampler: string): string {
  const width = lay === 'tiles' ? 'e.x' : 'max(1e-9, max(q.z, q.w * e.y))';
  return `vec2 at${look}; vec4 texel${look};
  { vec4 a = fedTexel(${n}), d = fedTexel(${n + 3}), e = fedTexel(${n + 4}), q = ${planeOf(lay)};
    float width = ${width} * d.x;
    at${look} = vec2((q.x * a.z + q.y * a.w) / width + .5 - d.y, (q.y * a.z - q.x * a.w) / width * e.y + .5 - d.z);
    texel${look} = texture(${sampler}, vec2(at${look}.x, 1. - at${look}.y)); }`;
}

/** Boxes that distances are told to, at most. */
export const MOST_BOXES = 24;
const NEAR = /* glsl */ `
uniform vec3 fedType[${2 * MOST_BOXES}], fedStage[${2 * MOST_BOXES}];
uniform int fedTypeCount, fedStageCount;
`;

/** Sets `u` to where a place lies on an axis, before its window. @param n number of its first texel @param look where its picture is looked up */
function sourceCode(axis: Axis, n: number, look: number): string {
  const { source, of, laid } = axis;
  const pattern = PATTERNS[source];
  const head = `vec4 a = fedTexel(${n}), b = fedTexel(${n + 1}), c = fedTexel(${n + 2});
    int seed = int(c.y), octaves = int(c.z); float contrast = b.x;`;
  if (source === 'angle') return axis.late ? 'u = pow(1. - facing, 5.);' : 'u = 1. - facing;';
  if (ALONG[source]) return `u = ${boxOf(of)}.${ALONG[source]};`;
  if (source === 'outline') return `u = fract(fedOutline.x * fedTexel(${n}).x);`;
  if (source === 'rim') return `u = fedOutline.y * fedTexel(${n}).x;`;
  if (source === 'upward') return 'u = .5 + .5 * up.y;';
  if (pattern)
    return `${head} vec3 q = vec3((fedPlace.x * a.z + fedPlace.y * a.w) / a.y, fedPlace.y * a.z - fedPlace.x * a.w, fedPlace.z);
    u = ${pattern('q * a.x')};`;
  if (COURSES[source])
    return `${head} vec2 q = (abs(normalize(fedNormal).z) > .7 ? fedPlace.xy : fedOutline) * a.x;
    vec2 p = vec2((q.x * a.z + q.y * a.w) / a.y, q.y * a.z - q.x * a.w);
    u = ${COURSES[source]};`;
  if (source === 'picture' && laid) return channelCode(laid, look, n);
  // distances to others, by the boxes they fill
  const boxes = axis.toward === 'type' ? 'fedType' : 'fedStage';
  return `u = 1.; for (int k = 0; k < ${boxes}Count; k++) {
      vec3 away = max(max(${boxes}[k * 2] - vFedWorld, vFedWorld - ${boxes}[k * 2 + 1]), 0.);
      u = min(u, length(away) * fedTexel(${n}).x); }`;
}

/** The numbers of an axis, as the code reads them. */
function axisTexels(axis: Axis, texture: Texture | undefined): number[] {
  const { laid } = axis;
  const width = axis.to - axis.from;
  const per = Math.abs(width) < NARROWEST ? 1 / NARROWEST : 1 / width;
  const plain = [
    ...[1 / axis.scale, axis.stretch, Math.cos(axis.turn), Math.sin(axis.turn)],
    ...[axis.contrast, axis.from, per, axis.breakup],
    ...[1 / axis.breakupScale, axis.seed, axis.octaves, 0],
  ];
  if (!laid) return plain;
  return [
    ...plain,
    ...[laid.zoom, ...laid.shift, texture && texture.peak > 0 ? 1 / texture.peak : 1],
    ...[laid.tile, texture ? texture.width / texture.height : 1, 0, 0],
  ];
}

/** Surfaces of a coat, as the code has them. */
interface Family {
  /** Number of the first. */
  first: number;
  /** Texels in which they differ. */
  differ: number[];
  filmed: boolean;
}

/** Texels of rows that are not alike in all of them. */
const differing = (rows: readonly number[][]): number[] =>
  Array.from({ length: ROW_TEXELS }, (_, k) => k).filter((k) =>
    rows.some((row) => [0, 1, 2, 3].some((c) => row[4 * k + c] !== rows[0][4 * k + c])),
  );

/** A coat: its share, its relief, and the mean of its surfaces about the place. */
function coatCode(coat: Recipe['coats'][number], { first, differ, filmed }: Family, data: Data): string {
  const { cover, relief, grid } = coat;
  const share =
    typeof cover === 'number'
      ? `fedTexel(${data.put([cover])}).x`
      : `fedValue(${data.course(cover)}, ${cover.at.length}, u${cover.axis})`;
  const height = relief
    ? `fedHeight += share * fedValue(${data.course(relief)}, ${relief.at.length}, u${relief.axis});`
    : '';
  if (coat.nothing) return `{ float share = rest * ${share}; rest -= share; fedNothing += share; }`;
  let stride = 1;
  const dims = grid.map(({ axis, at }, d) => {
    const places = data.put(at.flatMap((place) => [place, 0, 0, 0]));
    const found = `vec2 d${d} = fedBetween(${places}, ${at.length}, u${axis});`;
    const step = `w *= (c & ${1 << d}) != 0 ? d${d}.y : 1. - d${d}.y; row += (int(d${d}.x) + ((c >> ${d}) & 1)) * ${stride};`;
    stride *= at.length;
    return { found, step };
  });
  const texels = Array.from({ length: ROW_TEXELS }, (_, k) => k);
  const add = (k: number, weight: string) => `fedRow[${k}] += ${weight} * fedTexel(at + ${k});`;
  const alike = texels.filter((k) => !differ.includes(k)).map((k) => add(k, 'share'));
  const mixed = [...differ.map((k) => add(k, 'w')), ...(filmed ? ['fedFilm(at, w, facing);'] : [])];
  return `{ float share = rest * ${share}; rest -= share; ${height}
    { int at = fedSurface(${first}); ${alike.join(' ')} }
    ${dims.map((d) => d.found).join(' ')}
    for (int c = 0; c < ${mixed.length > 0 ? 1 << grid.length : 0}; c++) {
      float w = share; int row = ${first}; ${dims.map((d) => d.step).join(' ')}
      if (w > 0.) { int at = fedSurface(row); ${mixed.join(' ')} }
    } }`;
}

/** What the code needs beside the finish's own: reading numbers, courses and surfaces. */
const reading = (rows: number, filmed: boolean) => /* glsl */ `
vec4 fedRow[${ROW_TEXELS}];
vec4 fedMetal, fedOther;
float fedNothing, fedHeight;
uniform highp sampler2D fedData;
vec4 fedTexel(int i) { return texelFetch(fedData, ivec2(i % ${DATA_WIDTH}, i / ${DATA_WIDTH}), 0); }
vec2 fedBetween(int at, int count, float u) {
  int i = 0;
  for (int k = 1; k < count; k++) {
    if (fedTexel(at + k).x > u) break;
    i = k;
  }
  if (i + 1 >= count) return vec2(i, 0);
  float a = fedTexel(at + i).x, b = fedTexel(at + i + 1).x;
  return vec2(i, b > a ? clamp((u - a) / (b - a), 0., 1.) : 0.);
}
float fedValue(int at, int count, float u) {
  vec2 found = fedBetween(at, count, u);
  float value = fedTexel(at + int(found.x)).y;
  return found.y > 0. ? mix(value, fedTexel(at + int(found.x) + 1).y, found.y) : value;
}
int fedSurface(int row) { return ${rows} + row * ${ROW_TEXELS + (filmed ? FILM_TEXELS : 0)}; }
${
  filmed
    ? `void fedFilm(int at, float share, float facing) {
  float over = sqrt(clamp(facing, 0., 1.)) * ${(FILM_ENTRIES - 1).toFixed(1)};
  int i = min(int(over), ${FILM_ENTRIES - 2});
  at += ${ROW_TEXELS} + i;
  fedMetal += share * mix(fedTexel(at), fedTexel(at + 1), over - float(i));
  at += ${FILM_ENTRIES};
  fedOther += share * mix(fedTexel(at), fedTexel(at + 1), over - float(i));
}`
    : ''
}
`;

/** Where and how a place lies on the axes, and what all coats come to there. */
function bodyOf(recipe: Recipe, families: readonly Family[], axes: readonly string[], data: Data): string {
  return /* glsl */ `
void fed(float facing, vec3 up) {
  for (int k = 0; k < ${ROW_TEXELS}; k++) fedRow[k] = vec4(0);
  fedMetal = fedOther = vec4(0);
  fedNothing = fedHeight = 0.;
  ${axes.join('\n  ')}
  float rest = 1.;
  ${recipe.coats.map((coat, i) => coatCode(coat, families[i], data)).join('\n  ')}
  float there = max(1e-3, 1. - fedNothing);
  for (int k = 0; k < ${ROW_TEXELS}; k++) fedRow[k] /= there;
  fedMetal /= there;
  fedOther /= there;
}
`;
}

/** One plain surface as a recipe of it alone. */
const ALONE: Recipe = {
  axes: [],
  coats: [{ cover: 1, relief: null, surface: null as never, fed: [], added: [], grid: [] }],
};

/** Compiles a finish. @param textures of the scene */
export function draftFinish(optics: Optics, textures: readonly Texture[]): DraftFinish {
  const recipe = optics.recipe ?? ALONE;
  const families = optics.recipe
    ? recipe.coats.map((coat) => (coat.nothing ? [] : surfacesOf(coat).map(opticsOf)))
    : [[optics]];
  const data = new Data();
  const pictures: DraftFinish['pictures'] = [];
  const looks: string[] = [];
  const axes = recipe.axes.map((axis, i) => {
    const { laid } = axis;
    const key = laid && textureKey(laid.picture, laid.coding);
    const texture = textures.find((t) => t.key === key);
    const n = data.put(axisTexels(axis, texture));
    let sampler = 0;
    if (laid && texture) {
      const known = pictures.findIndex(
        (p) => textureKey(p.picture, p.coding) === key && p.edges === laid.edges,
      );
      sampler = known >= 0 ? known : Math.min(MOST_PICTURES - 1, pictures.length);
      if (sampler === pictures.length)
        pictures.push({ picture: laid.picture, coding: laid.coding, edges: laid.edges });
    }
    // channels of one picture that is laid in one way are looked up once
    const way =
      laid &&
      JSON.stringify([sampler, { ...laid, channel: '', toPeak: false }, axis.scale, axis.stretch, axis.turn]);
    let look = way === null ? -1 : looks.indexOf(way);
    let found = '';
    if (laid && texture && look < 0) {
      look = looks.push(way!) - 1;
      found = lookCode(laid, look, n, `fedPicture${sampler}`);
    }
    const sourced = laid && !texture ? 'u = 0.;' : sourceCode(axis, n, look);
    const breakup =
      axis.breakup > 0 && axis.source !== 'near'
        ? `{ vec4 b = fedTexel(${n + 1}), c = fedTexel(${n + 2}); u += b.w * fedNoise(fedPlace * c.x, 3, int(c.y) + 7919); }`
        : '';
    return `${found} float u${i}; { float u; { ${sourced} } u = clamp(u, 0., 1.); ${breakup}
    vec4 w = fedTexel(${n + 1}); u${i} = clamp((clamp(u, 0., 1.) - w.y) * w.z, 0., 1.); }`;
  });
  const filmed = families.flat().some(isFilmed);
  let first = 0;
  const surfaces = families.map((family) => family.map((surface) => surfaceRow(surface, filmed)));
  const coats = surfaces.map((rows): Family => {
    const differ = differing(rows);
    first += rows.length;
    return { first: first - rows.length, differ, filmed };
  });
  const body = bodyOf(recipe, coats, axes, data);
  const rows = data.values.length / 4;
  for (const row of surfaces.flat()) data.put(row);
  const places = placesNeeded(recipe);
  const near = recipe.axes.some((a) => a.source === 'near');
  const samplers = pictures.map((_, i) => `uniform sampler2D fedPicture${i};`).join('\n');
  return {
    key: optics.key,
    code: `${samplers}\n${near ? NEAR : ''}${recipe.axes.length > 0 ? NOISE : ''}${reading(rows, filmed)}${
      filmed ? '#define FED_FILM' : ''
    }${body}`,
    places,
    data: data.texels(),
    pictures,
    near,
    holes: optics.opacity < 1,
    relief: recipe.coats.some((c) => c.relief !== null),
  };
}
