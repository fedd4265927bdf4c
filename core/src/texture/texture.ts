/**
 * Pictures laid over faces, with smaller ones of themselves for what is far away: level by level until one pixel is
 * left (Williams, "Pyramidal parametrics", 1983). Each pixel of a level is the mean of the area it stands for, taken in
 * light for colours and in the numbers themselves for data, whatever the sides divide by.
 */
import type { PictureRef } from '../document/index.ts';
import { Float16Array } from '@petamoriken/float16';
import { encodeSrgb, luminance } from '../maths/colour.ts';
import { pow } from '../maths/reproducible.ts';

/** How the numbers of a file are meant: as colours of a screen (sRGB), or as they stand. */
export type Coding = 'colour' | 'numbers';

/** A picture of Wemlox's own, by the name it is asked for. */
export interface PaintedTexture {
  id: string;
  name: string;
}

/** Pixels row by row from the top, r g b a each: bytes as they stand in the file, or floats in linear light. */
export interface Pixels {
  width: number;
  height: number;
  data: Uint8Array | Uint8ClampedArray | Float32Array;
}

export interface Texture {
  /** Alike keys, alike pixels. */
  key: string;
  coding: Coding;
  width: number;
  height: number;
  /** Four bytes a pixel, or four half floats. */
  deep: boolean;
  /** All levels one after the other, the picture first. */
  data: Uint8Array;
  /** Where each level begins in `data`, bytes. */
  levels: number[];
  /** Mean red, green, blue and alpha over the picture, linear, and the brightest channel of any pixel. */
  mean: number[];
  peak: number;
}

/** A texture's key. */
export const textureKey = ({ source, id }: Pick<PictureRef, 'source' | 'id'>, coding: Coding) =>
  `${source}:${id}:${coding}`;

/** Sides of the level below. */
export const halved = (side: number) => Math.max(1, side >> 1);

const BYTES = 256;
/** Steps in which linear light is looked up for its byte. */
const ENCODED = 1 << 16;

/** Linear light of an sRGB value, alike in every engine (IEC 61966-2-1). */
export const srgbStep = (v: number) => (v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4));

/** What each byte stands for, linear. */
export const byteTable = (coding: Coding): Float32Array =>
  Float32Array.from({ length: BYTES }, (_, i) => (coding === 'colour' ? srgbStep(i / 255) : i / 255));

let encoded: Uint8Array | null = null;
/** Bytes of linear light in even steps. */
const encodeTable = () =>
  (encoded ??= Uint8Array.from({ length: ENCODED }, (_, i) =>
    Math.round(encodeSrgb(i / (ENCODED - 1)) * 255),
  ));

/** Shares in which a side's pixels make up the next level's: for each of its places the first, and their weights. */
function shares(from: number, to: number): { first: number; weights: number[] }[] {
  const width = from / to;
  return Array.from({ length: to }, (_, i) => {
    const [a, b] = [i * width, (i + 1) * width];
    const first = Math.floor(a);
    const last = Math.min(from - 1, Math.ceil(b) - 1);
    const weights = [];
    for (let k = first; k <= last; k++) weights.push((Math.min(b, k + 1) - Math.max(a, k)) / width);
    return { first, weights };
  });
}

/** Reads and writes one level's channels as linear numbers. */
interface Channels {
  read: (i: number) => number;
  write: (i: number, v: number) => void;
}

function byteChannels(data: Uint8Array, coding: Coding): Channels {
  const table = byteTable(coding);
  const back = encodeTable();
  const plain = (v: number) => Math.round(v * 255);
  return {
    read: (i) => ((i & 3) === 3 ? data[i] / 255 : table[data[i]]),
    write: (i, v) => {
      data[i] = (i & 3) === 3 || coding === 'numbers' ? plain(v) : back[Math.round(v * (ENCODED - 1))];
    },
  };
}

function smaller(from: Channels, width: number, height: number, to: Channels): void {
  const [w, h] = [halved(width), halved(height)];
  const across = shares(width, w);
  const rows = shares(height, h);
  rows.forEach(({ first: top, weights: down }, y) =>
    across.forEach(({ first: left, weights }, x) => {
      for (let c = 0; c < 4; c++) {
        let sum = 0;
        for (let j = 0; j < down.length; j++)
          for (let i = 0; i < weights.length; i++)
            sum += down[j] * weights[i] * from.read(((top + j) * width + left + i) * 4 + c);
        to.write((y * w + x) * 4 + c, sum);
      }
    }),
  );
}

/** The same for bytes with even sides, where each is the mean of four: most of all work on large pictures. */
function smallerBytes(from: Uint8Array, width: number, height: number, to: Uint8Array, coding: Coding): void {
  const table = byteTable(coding);
  const back = coding === 'colour' ? encodeTable() : null;
  const steps = back ? (ENCODED - 1) / 4 : 255 / 4;
  const row = width * 4;
  let at = 0;
  const mean = (a: number, b: number, c: number, d: number) => {
    const step = ((table[a] + table[b] + table[c] + table[d]) * steps + 0.5) | 0;
    return back ? back[step] : step;
  };
  for (let y = 0; y < height; y += 2)
    for (let i = y * row, end = i + row; i < end; i += 8, at += 4) {
      const j = i + row;
      to[at] = mean(from[i], from[i + 4], from[j], from[j + 4]);
      to[at + 1] = mean(from[i + 1], from[i + 5], from[j + 1], from[j + 5]);
      to[at + 2] = mean(from[i + 2], from[i + 6], from[j + 2], from[j + 6]);
      to[at + 3] = (from[i + 3] + from[i + 7] + from[i + row + 3] + from[i + row + 7] + 2) >> 2;
    }
}

/**
 * Builds a picture's levels.
 * @param room gives memory for that many bytes
 */
export function textureOf(
  key: string,
  { width, height, data }: Pixels,
  coding: Coding,
  room: (bytes: number) => ArrayBufferLike = (bytes) => new ArrayBuffer(bytes),
): Texture {
  const deep = data instanceof Float32Array;
  const pixel = deep ? 8 : 4;
  const levels: number[] = [];
  let bytes = 0;
  for (let [w, h] = [width, height]; ; [w, h] = [halved(w), halved(h)]) {
    levels.push(bytes);
    bytes += w * h * pixel;
    if (w === 1 && h === 1) break;
  }
  const all = room(bytes);
  const channelsAt = (level: number, count: number): Channels => {
    if (!deep) return byteChannels(new Uint8Array(all, levels[level], count * 4), coding);
    const halves = new Float16Array(all as ArrayBuffer, levels[level], count * 4);
    return { read: (i) => halves[i], write: (i, v) => (halves[i] = v) };
  };
  if (deep) new Float16Array(all as ArrayBuffer, 0, data.length).set(data);
  else new Uint8Array(all, 0, data.length).set(data);
  let from = channelsAt(0, width * height);
  let [w, h] = [width, height];
  for (let level = 1; level < levels.length; level++) {
    const to = channelsAt(level, halved(w) * halved(h));
    if (!deep && w % 2 === 0 && h % 2 === 0)
      smallerBytes(
        new Uint8Array(all, levels[level - 1], w * h * 4),
        w,
        h,
        new Uint8Array(all, levels[level], w * h),
        coding,
      );
    else smaller(from, w, h, to);
    [w, h, from] = [halved(w), halved(h), to];
  }
  return {
    key,
    coding,
    width,
    height,
    deep,
    data: new Uint8Array(all),
    levels,
    mean: [0, 1, 2, 3].map((c) => from.read(c)),
    peak: peakOf(data, coding),
  };
}

function peakOf(data: Pixels['data'], coding: Coding): number {
  const most = data instanceof Float32Array ? Infinity : BYTES - 1;
  let peak = 0;
  for (let i = 0; i < data.length && peak < most; i += 4)
    peak = Math.max(peak, data[i], data[i + 1], data[i + 2]);
  return data instanceof Float32Array ? peak : byteTable(coding)[peak];
}

/** Mean of one of a picture's channels, linear. */
const meanChannel = ({ mean }: Texture, channel: Channel): number =>
  // a normal map’s mean leans nothing
  channel === 'normals'
    ? 0
    : channel === 'light'
      ? luminance(mean[0], mean[1], mean[2])
      : mean[CHANNELS.indexOf(channel) - 1];

/** Mean of a picture's channel as a feed takes it, at most 1. @param toPeak counted by its brightest pixel */
export function shownMean(texture: Texture, channel: Channel, toPeak: boolean): number {
  const mean = meanChannel(texture, channel);
  return Math.min(1, toPeak && texture.peak > 0 ? mean / texture.peak : mean);
}

/** A picture small enough to be shown beside its parameters. */
export interface TexturePreview {
  /** Of the picture itself. */
  width: number;
  height: number;
  /** Bytes of sRGB and opacity. */
  small: { width: number; height: number; data: Uint8ClampedArray<ArrayBuffer> };
}

/** Widest preview, pixels. */
const PREVIEW = 128;

/** The largest level that is small enough. @param most pixels of its longer side */
function levelWithin({ width, height, levels }: Texture, most: number) {
  let level = 0;
  let [w, h] = [width, height];
  for (; Math.max(w, h) > most && level < levels.length - 1; level++) [w, h] = [halved(w), halved(h)];
  return { level, w, h };
}

/**
 * The largest level that is small enough, in linear light.
 * @param most pixels of its longer side
 * @returns red, green, blue and cover of each pixel, row by row from the top
 */
export function levelInLight(
  texture: Texture,
  most: number,
): { width: number; height: number; data: Float32Array } {
  const { level, w, h } = levelWithin(texture, most);
  const { coding, deep, data, levels } = texture;
  const out = new Float32Array(w * h * 4);
  const at = data.byteOffset + levels[level];
  if (deep) out.set(new Float16Array(data.buffer as ArrayBuffer, at, out.length));
  else {
    const { read } = byteChannels(new Uint8Array(data.buffer, at, out.length), coding);
    for (let i = 0; i < out.length; i++) out[i] = read(i);
  }
  return { width: w, height: h, data: out };
}

/**
 * The largest level that is small enough, as a screen shows it; brighter than white is white.
 * @param most pixels of its longer side
 */
export function previewOf(texture: Texture, most = PREVIEW): TexturePreview {
  const { level, w, h } = levelWithin(texture, most);
  const { width, height, coding, deep, data, levels } = texture;
  const small = new Uint8ClampedArray(w * h * 4);
  const at = data.byteOffset + levels[level];
  if (deep) {
    const halves = new Float16Array(data.buffer as ArrayBuffer, at, small.length);
    const shown = (v: number) => (coding === 'colour' ? encodeSrgb(Math.min(1, v)) : v) * 255;
    for (let i = 0; i < small.length; i++) small[i] = (i & 3) === 3 ? halves[i] * 255 : shown(halves[i]);
  } else small.set(new Uint8Array(data.buffer, at, small.length));
  return { width, height, small: { width: w, height: h, data: small } };
}

/** Which of a picture's numbers is asked for, in the order the kernel counts them. */
export const CHANNELS = ['light', 'red', 'green', 'blue', 'cover', 'normals'] as const;
export type Channel = (typeof CHANNELS)[number];
