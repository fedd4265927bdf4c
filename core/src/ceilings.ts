/** The most that is taken from outside: sizes, counts, depths, pixels and seconds. Messages name them. */

const MB = 1024 * 1024;

/** A project document as JSON. */
export const DOCUMENT = {
  bytes: 16 * MB,
  /** Objects and lists inside each other. */
  depth: 32,
  /** Objects and lists in all: a text of 2000 letters dressed one by one in ten looks has some 25,000. */
  objects: 60_000,
  /** Texts, numbers and switches in all. */
  values: 1_500_000,
};

/** A .wemlox file. */
export const PROJECT_FILE = { bytes: 512 * MB, unpacked: 1024 * MB, entries: 2000 };

/** A font file, wrapped or unwrapped. */
export const FONT = { bytes: 32 * MB };

/** A vector drawing. */
export const DRAWING = {
  bytes: 24 * MB,
  elements: 20_000,
  points: 200_000,
  /** Numbers in the data of one path: reading takes time with their square. */
  numbers: 100_000,
  /** Groups inside each other. */
  depth: 64,
  /** Distance of anything from the drawing's origin, user units. */
  reach: 1e9,
  /** Rules of its style sheets. */
  rules: 5000,
};

/** A bitmap that is traced to a drawing; wider ones are averaged down to `width`. */
export const BITMAP = {
  bytes: 64 * MB,
  pixels: 100_000_000,
  width: 2048,
  /** Pixels that its outlines run through once it is averaged down: noise has millions. */
  outline: 250_000,
  /** Shapes and holes: noise has thousands more. */
  rings: 10_000,
};

/** An environment picture. */
export const SURROUND = { bytes: 512 * MB, width: 8192 };

/** A photometric file. */
export const PROFILE = { bytes: 4 * MB };

/** A picture that finishes are fed from. */
export const TEXTURE = { bytes: 256 * MB, side: 8192, deepPixels: 8192 * 4096 };

/** A moving picture: its file, its frames, and what its pictures take unpacked. */
export const FOOTAGE = { bytes: 512 * MB, frames: 20_000, side: 4096, unpacked: 2048 * MB };

/** A model beside the type. */
export const MODEL = { bytes: 512 * MB, triangles: 4_000_000 };

/** The linear film of a proof. */
export const FILM = { bytes: 512 * MB };

/** What a process that reads foreign files may use before it is ended. */
export const READING = { memory: 2048 * MB, heap: 1024 * MB, cpuSeconds: 25, seconds: 180, waiting: 64 };

/** What the studio keeps: bytes of files in one project and in all, projects, and days that unused files stay. */
export const KEPT = {
  projectBytes: 8192 * MB,
  bytes: 100 * 1024 * MB,
  projects: 100_000,
  unusedDays: 30,
};

/** Requests of one address: so many in so many seconds. */
export const REQUESTS = { most: 4000, seconds: 10 };

/** Bytes as people read them. */
export function inWords(bytes: number): string {
  return bytes >= 1024 * MB ? `${Math.round(bytes / MB / 102.4) / 10} GB` : `${Math.round(bytes / MB)} MB`;
}
