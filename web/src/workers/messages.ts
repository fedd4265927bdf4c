/** What page and workers say to each other. */
import type {
  Block,
  Camera,
  Feed,
  Finish,
  Grade,
  PictureRef,
  Project,
  Surround,
  Zone,
} from '@wemlox/core/document';
import type { MaterialFile } from '@wemlox/core/exchange/materialFile';
import type { ReadMaterials } from '@wemlox/core/exchange/readMaterialX';
import type { Coding, TexturePreview } from '@wemlox/core/texture/texture';
import type { Sun } from '@wemlox/core/light/sun';
import type { SurroundFile } from '@wemlox/core/picture/files';
import type { SurroundFacts, SurroundPicture } from '@wemlox/core/light/surround';
import type { ExportKind } from '@wemlox/core/scene/exportKinds';
import type { FontFacts } from '@wemlox/core/type/fontFacts';
import type { TubeFacts } from '@wemlox/core/solid/tube';
import type { BevelLimits } from '@wemlox/core/solid/limits';
import type { Contour } from '@wemlox/core/plane/flatten';
import type { DenoiseJob } from '@wemlox/core/picture/denoise/denoise';
import type { Eye } from '@wemlox/core/trace/eye';
import type { FeedPicture } from '@wemlox/core/trace/feedPicture';
import type { FaceMask, FaceRow } from '@wemlox/core/trace/faceMask';
import type { Stroke, Wished } from '@wemlox/core/trace/wish';
import type { ShareChart } from '@wemlox/core/trace/shareChart';
import type { Film } from '@wemlox/core/trace/film';
import type { Bounds } from '@wemlox/core/scene/faces';
import type { Finding } from '@wemlox/core/preflight/finding';
import type { Unfolded, UnfoldView } from '@wemlox/core/scene/unfolded';
import type { PreparedScene } from '@wemlox/core/trace/prepare';
import type { DraftBuffers } from './draft/buffers.ts';

/** A letter as the band shows it. Outlines in thousandths of an em about the glyph's origin. */
export interface BandLetter {
  block: string;
  letter: string;
  text: string;
  missing: boolean;
  /** Font that stands in for the block's own; null when that has the character. */
  standIn: string | null;
  /** Courses of its tubes about the glyph's origin; null for other forms. */
  tube: TubeFacts | null;
  outline: Contour[];
  x: number;
  y: number;
  turn: number;
  advance: number;
}

/** A block's type as the page needs it: letters, and bounds in metres about its centre. */
export interface BandBlock {
  block: string;
  letters: BandLetter[];
  bounds: [number, number, number, number] | null;
  /** Metres per thousandth of an em. */
  scale: number;
  /** Widths at which bevels first meet and at which no flat front is left, metres. */
  limits: BevelLimits | null;
  /** Zones its solids have. */
  zones: Zone[];
  /** Pairs of letters, by their places, that touch. */
  touches: [number, number][];
  /** Least and greatest z from the zero plane, metres. */
  reach: [number, number];
  /** Whether its face is a joined script, whose letters weld by themselves. */
  joined: boolean;
  font: FontFacts | null;
}

/** The surround's picture as the page needs it. */
export interface SurroundPreview {
  /** Alike numbers, alike pictures. */
  number: number;
  /** At most SURROUND_PREVIEW pixels wide. */
  small: SurroundPicture;
  facts: SurroundFacts;
}

/** Widest picture of a surround the page draws with, pixels. */
export const SURROUND_PREVIEW = 1024;

export interface SceneRequest {
  seq: number;
  project: Project;
  look: string;
  shot: string;
  /** Width of the picture, pixels. */
  width: number;
  /** Finishes that only small pictures show: they change nothing of the scene. */
  trial: readonly Finish[];
  /** How the draft draws it: all of it, or large things with fewer triangles; null where it is only traced. */
  draft: 'whole' | 'thinned' | null;
}

/** A file as it was chosen. */
export interface NamedFile {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** Words of shared memory by which an export is watched: parts done, parts in all, and whether it is called off. */
export type ExportWatch = Int32Array<SharedArrayBuffer>;
export const WATCHED = { done: 0, all: 1, off: 2 } as const;

/** A question to the scene's worker, answered once. */
export type Question =
  | { ask: 'parting'; block: Block }
  | { ask: 'unfold'; block: string; letter: string; view: UnfoldView }
  | { ask: 'picture'; picture: PictureRef; coding: Coding }
  | { ask: 'sun'; surround: Surround }
  | { ask: 'surroundFile'; surround: Surround; kind: SurroundFile }
  | { ask: 'material'; finish: Finish }
  | { ask: 'feed'; feed: Feed; block: string; letter: string }
  | { ask: 'openMaterial'; bytes: Uint8Array<ArrayBuffer> }
  | { ask: 'objModel'; files: readonly NamedFile[] }
  | { ask: 'readMaterial'; text: string; pictures: ReadonlyMap<string, PictureRef> }
  | { ask: 'export'; kind: ExportKind; project: Project; look: string; shot: string; watch: ExportWatch };

export interface Answers {
  /** Tracking at which no letters touch; null when none does. */
  parting: { tracking: number | null };
  export: Uint8Array<ArrayBuffer>;
  /** What it does on the letter's front; null when that cannot be shown. */
  feed: FeedPicture | null;
  picture: TexturePreview;
  /** Null where a surround has none. */
  sun: Sun | null;
  /** A surround with its panels as a picture file. */
  surroundFile: Uint8Array<ArrayBuffer>;
  /** A finish as a file: the document by itself, or zipped with its pictures; and what it says otherwise. */
  material: { bytes: Uint8Array<ArrayBuffer>; zipped: boolean; approximated: string[] };
  openMaterial: MaterialFile;
  /** A model as a .glb file, and what of its files was not read. */
  objModel: { bytes: Uint8Array<ArrayBuffer>; leftOut: string[] };
  readMaterial: ReadMaterials;
  /** Null when the letter is not in the last scene. */
  unfold: Unfolded | null;
}

export interface Asked {
  number: number;
  question: Question;
}

export type Answered =
  { number: number; answer: Answers[keyof Answers] } | { number: number; refused: string };

export interface RayMemory {
  /** Which worker's it is: a memory that is sent again cannot be told from another by itself. */
  of: string;
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
  /** Raised with each new geometry. */
  version: number;
}

export interface SceneMade {
  seq: number;
  prepared: PreparedScene;
  rays: RayMemory;
  draft: DraftBuffers;
  /** Boxes of runs of the triangles of the scene's solids. */
  runs: Float32Array[];
  /** Of each placement, in its own space. */
  bounds: Bounds[];
  view: SurroundPreview;
  blocks: BandBlock[];
  findings: Finding[];
  spent: { shaping: number; solids: number; scene: number; tree: number };
}

export type SceneReply = SceneMade | { seq: number; failed: string };

export interface PictureSize {
  width: number;
  height: number;
}

export type TraceOrder =
  | { type: 'scene'; prepared: PreparedScene; rays: RayMemory; lane: number; control: Int32Array }
  | { type: 'pass'; run: number; first: number; last: number; seed: number; camera: Camera; film: Film }
  | { type: 'cell'; run: number; cell: CellOrder }
  /** Which face each place of a picture shows. */
  | ({ type: 'mask'; camera: Camera } & PictureSize)
  | { type: 'denoise'; job: DenoiseJob; denoiser: Denoiser };

/** A small picture of one finish on one letter. `dress` −1 shows what the letter wears. */
export interface CellOrder extends PictureSize {
  key: string;
  block: string;
  letter: string;
  dress: number;
  samples: number;
  grade: Grade;
  /** The letter unfolded, as the camera sees its places, in place of a look at the letter; null for that. */
  unfolded: Unfolded | null;
  camera: Camera;
}

/** The faces that a picture shows, and how they look about: what a film's light is counted by. */
export interface SeenFaces {
  mask: FaceMask;
  rows: FaceRow[];
  /** Of each row: its lobe's width, radians, and whether most of it mirrors or glows. */
  widths: number[];
  mirrors: boolean[];
  glows: boolean[];
  eye: Eye;
}

/** What lights each row of faces, and where they look. */
export interface LightChart {
  chart: ShareChart;
  rows: FaceRow[];
  mirrors: boolean[];
  glows: boolean[];
  /** Densities over the unwrapped surround; null where films know no normals. */
  sight: Float32Array[] | null;
  /** Which row each place of the picture shows. */
  mask: FaceMask;
}

/** The denoiser's code and memory. */
export interface Denoiser {
  module: WebAssembly.Module;
  memory: WebAssembly.Memory;
}

export type TraceReply =
  | { type: 'accepted'; version: number }
  | { type: 'denoised'; whole: boolean }
  | { type: 'mask'; seen: SeenFaces }
  | { type: 'pass'; run: number; whole: boolean; rays: number }
  | ({
      type: 'cell';
      run: number;
      key: string;
      samples: number;
      pixels: Uint8ClampedArray<ArrayBuffer> | null;
    } & PictureSize);

export type DisplayOrder =
  /** Develops a film; shown raw when it is not to be cleaned. */
  | { type: 'film'; film: Film; samples: number; grade: Grade; clean: boolean }
  /** Sets a film up to be cleaned, `shrink` pixels a side made one. A first look is all there is of its picture. */
  | { type: 'job'; film: Film; samples: number; shrink: number; threads: number; first: boolean }
  | { type: 'cleaned'; job: DenoiseJob; samples: number; grade: Grade }
  | { type: 'grade'; grade: Grade; clean: boolean }
  /** Weighs the sources against each other, three gains a group; null shows the picture as it was traced. */
  | { type: 'balance'; gains: number[] | null; grade: Grade; clean: boolean }
  /** Counts the light of the picture developed last. */
  | { type: 'chart'; film: Film; samples: number; seen: SeenFaces }
  /** Finds what grants wishes. @see granted */
  | { type: 'wish'; film: Film; samples: number; strokes: readonly Stroke[]; tinted: readonly boolean[] }
  /** PNGs are as shown, cleaned or not; EXR and film as traced, the film with the groups it keeps apart. */
  | { type: 'encode'; kinds: EncodeKind[]; grade: Grade; clean: boolean; groups: string[] }
  /** A proof's film under a grade; with `against`, how it differs from another's, or from the present (null). */
  | { type: 'proofs'; film: string; against?: string | null; grade: Grade };

/** `film`: linear, half floats, with its layers. */
export type EncodeKind = 'png' | 'png16' | 'jpeg' | 'exr' | 'film';

export type DisplayReply =
  /** Pixels are null where there is nothing new to show. */
  | ({
      type: 'shown';
      samples: number;
      noise: number;
      loss: number;
      pixels: Uint8ClampedArray<ArrayBuffer> | null;
    } & PictureSize)
  | { type: 'job'; job: DenoiseJob; denoiser: Denoiser }
  | ({ type: 'chart' } & LightChart)
  | { type: 'wished'; wished: Wished }
  | { type: 'encoded'; files: Partial<Record<EncodeKind, Uint8Array<ArrayBuffer>>> | null; samples: number }
  /** `mean`: of a difference, as a share of the picture's own light. */
  | ({ type: 'proofs'; pixels: Uint8ClampedArray<ArrayBuffer>; mean: number | null } & PictureSize)
  | { type: 'refused'; why: string };
