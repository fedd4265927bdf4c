/** Names the screen uses. */
import type {
  BaselineKind,
  Form,
  LightKind,
  PieceKind,
  Profile,
  TubeCourse,
  Zone,
} from '@wemlox/core/src/document/index.ts';
import type { Embedding } from '@wemlox/core/src/type/fontFacts.ts';

export const ZONE_NAMES: Record<Zone, string> = {
  front: 'Front',
  frontBevel: 'Bevel',
  side: 'Side',
  backBevel: 'Back bevel',
  back: 'Back',
  glass: 'Glass',
  gas: 'Gas',
  electrode: 'Electrode',
  paintOut: 'Paint-out',
  standOff: 'Stand-off',
  strip: 'Strip',
  points: 'Points',
};

export const PROFILE_NAMES: Record<Profile, string> = {
  terrace: 'Terrace',
  keel: 'Keel',
  ogee: 'Ogee',
  saddle: 'Saddle',
  scallop: 'Scallop',
  rope: 'Rope',
  gutter: 'Gutter',
  rim: 'Rim',
  straight: 'Straight',
  round: 'Round',
  cove: 'Cove',
  step: 'Step',
  free: 'Free',
};

export const FORM_NAMES: Record<Form, string> = {
  bevelled: 'Bevelled',
  rounded: 'Round',
  puffed: 'Puffed',
  tube: 'Tube',
};

export const BASELINE_NAMES: Record<BaselineKind, string> = {
  straight: 'Straight',
  line: 'Slope',
  arc: 'Arc',
  circle: 'Circle',
  free: 'Drawn',
};

export const COURSE_NAMES: Record<TubeCourse, string> = {
  centre: 'Middle',
  edges: 'Edges',
  drawn: 'Drawn',
};

export const EMBEDDING_NAMES: Record<Embedding, string> = {
  installable: 'embedding allowed',
  editable: 'editable embedding allowed',
  preview: 'embedding for preview and print only',
  restricted: 'embedding not allowed without leave',
  unknown: 'embedding rights not stated',
};

export const LIGHT_NAMES: Record<LightKind, string> = {
  area: 'Area',
  spot: 'Spot',
  directional: 'Directional',
};

export const STRENGTH_UNITS: Record<LightKind, string> = { area: 'nit', spot: 'cd', directional: 'lx' };

export const PIECE_NAMES: Record<PieceKind, string> = {
  floor: 'Floor',
  wall: 'Wall',
  backdrop: 'Curved backdrop',
};

export const STEPS = ['set', 'finish', 'light', 'frame', 'proof', 'press'] as const;
export type Step = (typeof STEPS)[number];
export const STEP_NAMES: Record<Step, string> = {
  set: 'Set',
  finish: 'Finish',
  light: 'Light',
  frame: 'Frame',
  proof: 'Proof',
  press: 'Press',
};
export const isStep = (text: string | undefined): text is Step => STEPS.includes(text as Step);
