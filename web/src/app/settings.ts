/** Settings by name, for the palette: in which step each stands, and how to get to it. */
import type { NavigateFunction } from 'react-router';
import type { Table } from '@wemlox/core/document';
import {
  AREA_LIGHT,
  BASELINE,
  BEVEL,
  BLOCK,
  CAMERA,
  DIRECTIONAL_LIGHT,
  GRADE,
  PLACE,
  SHOT,
  POINT_LIGHT,
  SPOT_LIGHT,
  STRIP,
  SURFACE,
  SURROUND,
  TUBE,
} from '@wemlox/core/document/parameters';
import { choose, useChoice } from '../state/choice.ts';
import { lookOf, useStudio } from '../state/studio.ts';
import { STEP_NAMES, type Step } from '../state/words.ts';

interface Setting {
  step: Step;
  /** As its row is labelled. */
  name: string;
}

/** Names of the rows that tables of parameters have. */
const rowsOf = (...tables: Table[]) =>
  tables.flatMap((table) =>
    Object.values(table).flatMap((p) =>
      p.row === false ? [] : p.kind === 'point' ? p.axes.map(([name]) => name) : [p.name],
    ),
  );

const of = (step: Step, ...names: string[]): Setting[] => [...new Set(names)].map((name) => ({ step, name }));

export const SETTINGS: readonly Setting[] = [
  ...of('set', 'Text', ...rowsOf(BLOCK), 'Baseline', ...rowsOf(BASELINE, BEVEL, TUBE, STRIP, PLACE)),
  ...of('finish', ...rowsOf(SURFACE), 'Family'),
  ...of('light', ...rowsOf(AREA_LIGHT, SPOT_LIGHT, POINT_LIGHT, DIRECTIONAL_LIGHT, SURROUND, GRADE)),
  ...of('frame', ...rowsOf(CAMERA, SHOT)),
  ...of('proof', 'Samples', ...rowsOf(GRADE)),
  ...of('press', 'Width', 'Samples', 'Stop at noise', 'Cleaned', 'File'),
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
  const { seen: project } = useStudio.getState();
  const { face, finish, light } = useChoice.getState();
  if (step === 'finish' && !face && !finish) choose({ finish: project.finishes[0]?.id ?? null });
  if (step === 'light' && !light) choose({ light: lookOf(project, lookId).rig[0]?.id ?? null });
  void go(`${base}/${lookId}/${step}`);
  requestAnimationFrame(() => focusRow(name));
}

export const settingName = ({ step, name }: Setting) => `${name}, in ${STEP_NAMES[step]}`;
