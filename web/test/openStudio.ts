/** A document open in the studio's state, as if its page were. */
import { newProject, type Project } from '@wemlox/core/document';
import { READY_FINISHES } from '@wemlox/core/finish/readyFinishes';
import { choose } from '../src/state/choice.ts';
import { history, takeDocument, useStudio } from '../src/state/studio.ts';
import { useShown } from '../src/state/shown.ts';
import type { BandBlock } from '../src/workers/messages.ts';

export function openStudio(text = 'OSTREL'): Project {
  const project = newProject('Ostrel', text, structuredClone([...READY_FINISHES]));
  takeDocument('ostrel', project);
  choose({ lookId: project.looks[0].id, block: null, face: null, finish: null, light: null, piece: null });
  useShown.setState({ scene: null, blocks: [] });
  return project;
}

export const now = () => useStudio.getState().project;

/** Names of what undo would take back, the last first. */
export const steps = () => [
  useStudio.getState().label,
  ...history()
    .pastStates.map((s) => s.label!)
    .reverse(),
];

/** What the page knows of a block's type once it has been shaped. */
export function shaped(block: string, change: Partial<BandBlock> = {}): void {
  const plain: BandBlock = {
    block,
    letters: [],
    bounds: [-1, -0.15, 1, 0.15],
    scale: 0.001,
    limits: null,
    zones: ['front', 'side', 'back'],
    touches: [],
    reach: [-0.04, 0.04],
    font: null,
    joined: false,
  };
  useShown.setState({ blocks: [{ ...plain, ...change }] });
}
