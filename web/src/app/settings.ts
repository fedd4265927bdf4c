/** Settings by name, for the palette: in which step each stands, and how to get to it. */
import type { NavigateFunction } from 'react-router';
import { choose, useChoice } from '../state/choice.ts';
import { lookOf, useStudio } from '../state/studio.ts';
import { STEP_NAMES, type Step } from '../state/words.ts';
import { GROUPS } from '../steps/finish/parameters.ts';

export interface Setting {
  step: Step;
  /** As its row is labelled. */
  name: string;
}

const of = (step: Step, ...names: string[]): Setting[] => names.map((name) => ({ step, name }));

const FINISH_NAMES = GROUPS.flatMap(([, parameters]) => parameters.map((p) => p.name));

export const SETTINGS: readonly Setting[] = [
  ...of('set', 'Text', 'Cap height', 'Tracking', 'Leading', 'Alignment', 'Baseline', 'Letters are', 'Depth'),
  ...of('set', 'Grows', 'Pressure', 'Width', 'Height', 'Profile', 'Segments', 'Runs', 'Edges', 'Diameter'),
  ...of('set', 'Glass wall', 'Tightest bend', 'Evened out', 'Electrodes', 'Stand-off', 'Strip of points'),
  ...of('set', 'Across', 'Up', 'Out', 'Turn'),
  ...of('finish', ...new Set(FINISH_NAMES), 'Family', 'Thin wall'),
  ...of(
    'light',
    'Strength',
    'Temperature',
    'Hue by',
    'Distance',
    'Cone',
    'Edge',
    'Shadow',
    'Exposure',
    'Turn',
  ),
  ...of('light', 'Seen behind the type', 'View'),
  ...of('frame', 'Focal length', 'Distance', 'Around', 'Above', 'Shape', 'Bounces'),
  ...of('proof', 'Samples', 'Exposure', 'View'),
  ...of('press', 'Width', 'Samples', 'File'),
];

/** Frames of the page that a step may take to show its desk. */
const PATIENCE = 60;

/** Puts the keyboard on the row of a name in the desk, opening the fold it lies in. */
function focusRow(name: string, frames = PATIENCE): void {
  const desk = document.querySelector('aside');
  const label = [
    ...(desk?.querySelectorAll<HTMLElement>('label, span, h3, summary, [aria-label]') ?? []),
  ].find((e) => (e.getAttribute('aria-label') ?? e.textContent).trim().replace(/:.*$/, '') === name);
  if (!label) {
    if (frames > 0) requestAnimationFrame(() => focusRow(name, frames - 1));
    return;
  }
  for (let fold = label.closest('details'); fold; fold = fold.parentElement!.closest('details'))
    fold.open = true;
  label.scrollIntoView({ block: 'center' });
  const row =
    label instanceof HTMLLabelElement && label.htmlFor ? document.getElementById(label.htmlFor) : null;
  const field =
    row ??
    (label.matches('input, textarea, select, button, summary') ? label : null) ??
    (label.closest('label, [role=radiogroup], div, section') ?? label).querySelector<HTMLElement>(
      'input, textarea, select, button',
    );
  field?.focus();
}

/** Goes to a setting: its step, something chosen that has it, and its row. */
export function goToSetting(
  go: NavigateFunction,
  base: string,
  lookId: string,
  { step, name }: Setting,
): void {
  const { project } = useStudio.getState();
  const { face, finish, light } = useChoice.getState();
  if (step === 'finish' && !face && !finish) choose({ finish: project.finishes[0]?.id ?? null });
  if (step === 'light' && !light) choose({ light: lookOf(project, lookId).rig[0]?.id ?? null });
  void go(`${base}/${lookId}/${step}`);
  requestAnimationFrame(() => focusRow(name));
}

export const settingName = ({ step, name }: Setting) => `${name}, in ${STEP_NAMES[step]}`;
