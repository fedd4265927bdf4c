/** Names the screen uses. */
import type { LightKind, PieceKind, Profile, Zone } from '@wemlox/core/src/document/index.ts';

export const ZONE_NAMES: Record<Zone, string> = {
  front: 'Front',
  frontBevel: 'Bevel',
  side: 'Side',
  backBevel: 'Back bevel',
  back: 'Back',
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
