/** The press queue of the open project. */
import { create } from 'zustand';
import { cutTo } from '@wemlox/core/document';
import { api } from './api.ts';
import { ENDINGS, type PressJob, type PressOrder } from '@wemlox/wire';
import { useChoice } from './choice.ts';
import { attempt, notify } from './notices.ts';
import { lookOf, shotOf, useStudio } from './studio.ts';

export const usePress = create<{ list: PressJob[] }>()(() => ({ list: [] }));

export const underWay = (job: PressJob) => job.state === 'waiting' || job.state === 'tracing';

export async function loadPress(): Promise<void> {
  const { id } = useStudio.getState();
  const list = await api.press(id);
  if (useStudio.getState().id === id) usePress.setState({ list });
}

export type PressSettings = Pick<
  PressOrder,
  'width' | 'height' | 'samples' | 'format' | 'alpha' | 'layers' | 'denoise' | 'noise' | 'first' | 'last'
>;

/** Longest name of a file without its ending. */
const LONGEST_FILE = 190;

/** Sends the present state to the press. */
export async function sendToPress(settings: PressSettings): Promise<void> {
  const { id, project } = useStudio.getState();
  const look = lookOf(project, useChoice.getState().lookId);
  const name = `${cutTo(`${project.name}, ${look.name}`, LONGEST_FILE)}.${ENDINGS[settings.format]}`;
  const order = { ...settings, name, look: look.id, shot: shotOf(project).id, seed: 1, document: project };
  const job = await attempt('Not sent to the press', () => api.askPress(id, order));
  if (!job) return;
  notify('done', `${name} is in the queue`);
  await loadPress();
}

export async function cancelJob(job: PressJob): Promise<void> {
  await attempt('Not cancelled', () => api.cancelPress(useStudio.getState().id, job.id));
  await loadPress();
}
