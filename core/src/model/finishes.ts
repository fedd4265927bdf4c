/** What a model's parts wear by themselves: its materials as finishes, fed from its own pictures. */
import { newFeed, plainFinish, type Finish } from '../document/index.ts';
import { decodeSrgb, encodeSrgb } from '../maths/colour.ts';
import { textureKey, type Coding, type Pixels } from '../texture/texture.ts';
import type { Channel, Model, ModelFeed } from './model.ts';

/** A picture of a model as one of its feeds takes it. */
export interface ModelPicture {
  /** As textures are known by. */
  key: string;
  coding: Coding;
  picture: number;
  channel: Channel;
  factor: readonly number[];
}

const codingOf = ({ channel }: Pick<ModelFeed, 'channel'>): Coding =>
  channel === 'colour' ? 'colour' : 'numbers';

const refOf = (hash: string, { picture, channel, factor }: ModelFeed) => ({
  source: 'asset' as const,
  id: `${hash}/${picture}/${channel}/${factor.map((f) => f.toPrecision(4)).join(',')}`,
  name: 'a model’s picture',
});

/** All pictures that a model's materials are fed from, each once. @param hash of its file */
export function modelPictures(hash: string, { materials }: Model): ModelPicture[] {
  const all = new Map<string, ModelPicture>();
  for (const feed of materials.flatMap((m) => m.feeds)) {
    const coding = codingOf(feed);
    const key = textureKey(refOf(hash, feed), coding);
    all.set(key, { key, coding, picture: feed.picture, channel: feed.channel, factor: feed.factor });
  }
  return [...all.values()];
}

/** A normal leant more or less: across and up times a factor, and of length one again (glTF 2.0, "normalTexture.scale"). */
function leant(rgb: readonly number[], factor: number): number[] {
  const [x, y, z] = [(2 * rgb[0] - 1) * factor, (2 * rgb[1] - 1) * factor, 2 * rgb[2] - 1];
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  return [x, y, z].map((v) => v / length / 2 + 0.5);
}

const CHANNELS: Readonly<Record<Exclude<Channel, 'normal'>, number>> = {
  colour: 0,
  green: 1,
  blue: 2,
  alpha: 3,
};

/** What a feed takes of a picture: its colours dimmed by a factor, or one channel of it as numbers. */
export function takenPixels(
  { width, height, data }: Pixels,
  { channel, factor }: Pick<ModelPicture, 'channel' | 'factor'>,
): Pixels {
  const deep = data instanceof Float32Array;
  const full = deep ? 1 : 255;
  const out = deep ? new Float32Array(data.length) : new Uint8Array(data.length);
  const dimmed = (v: number, by: number) => {
    if (by === 1) return v;
    return deep ? v * by : Math.round(255 * encodeSrgb(Math.min(1, decodeSrgb(v / 255) * by)));
  };
  for (let i = 0; i < data.length; i += 4) {
    if (channel === 'normal') {
      const normal = leant([data[i] / full, data[i + 1] / full, data[i + 2] / full], factor[0]);
      for (let c = 0; c < 3; c++) out[i + c] = deep ? normal[c] : Math.round(normal[c] * full);
      out[i + 3] = full;
      continue;
    }
    const from = data[i + CHANNELS[channel]];
    for (let c = 0; c < 3; c++)
      out[i + c] =
        channel === 'colour'
          ? dimmed(data[i + c], factor[c] ?? 1)
          : Math.min(deep ? Infinity : 255, from * factor[0]);
    out[i + 3] = channel === 'colour' ? data[i + 3] : full;
  }
  return { width, height, data: out };
}

/**
 * A model's materials as finishes, in their order.
 * @param size that its unit has on the stage, metres @param gain of what glows of it
 */
export function modelFinishes(hash: string, { materials }: Model, size: number, gain = 1): Finish[] {
  return materials.map(({ name, surface, feeds }) =>
    plainFinish({
      id: 'model',
      name: name || 'Model',
      surface: gain === 1 ? surface : { ...surface, emission_luminance: surface.emission_luminance * gain },
      feeds: feeds.map((feed) => ({
        ...newFeed(feed.parameter, feed.parameter, feed.parameter.endsWith('color') ? [1, 1, 1] : 1),
        source: 'picture',
        picture: refOf(hash, feed),
        coding: codingOf(feed),
        take: feed.channel === 'colour' ? 'colour' : feed.channel === 'normal' ? 'normals' : 'light',
        lay: 'tiles',
        tile: size,
        edges: feed.edges,
      })),
    }),
  );
}
