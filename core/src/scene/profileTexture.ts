/** Photometric profiles as pictures that the kernel looks directions up in. */
import type { ProfileRef } from '../document/index.ts';
import { profileSquare, type Profile } from '../light/profile.ts';
import { textureOf, type Texture } from '../texture/texture.ts';

/** Pixels of a side: three to a degree straight ahead. */
const SIDE = 385;

/** Key of a profile's texture. */
export const profileKey = ({ source, id }: Pick<ProfileRef, 'source' | 'id'>) => `profile:${source}:${id}`;

export function profileTexture(
  key: string,
  profile: Profile,
  room?: (bytes: number) => ArrayBufferLike,
): Texture {
  const data = new Float32Array(SIDE * SIDE * 4);
  profileSquare(profile, SIDE).forEach((share, i) => data.set([share, share, share, 1], i * 4));
  return textureOf(key, { width: SIDE, height: SIDE, data }, 'numbers', room);
}
