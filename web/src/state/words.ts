/** Names the screen uses. */
import type { Embedding } from '@wemlox/core/type/fontFacts';

export const EMBEDDING_NAMES: Record<Embedding, string> = {
  installable: 'embedding allowed',
  editable: 'editable embedding allowed',
  preview: 'embedding for preview and print only',
  restricted: 'embedding not allowed without leave',
  unknown: 'embedding rights not stated',
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
