/** Edits of single parameters, for every desk. */
import type { Project } from '@wemlox/core/document';
import { setAxis, setParameter } from '@wemlox/core/edits';
import { useChoice } from '../state/choice.ts';
import { lookOf, perform, useStudio } from '../state/studio.ts';

/** Sets a parameter. @param joins follows closely on others of its kind, as from a wheel */
export const set = (address: string, value: unknown, joins = false) =>
  perform((p) => setParameter(p, address, value, joins));

/** Moves a point along one of its axes. */
export const setAlong = (address: string, axis: number, value: number) =>
  perform((p) => setAxis(p, address, axis, value));

export const currentLook = (project: Project = useStudio.getState().seen) =>
  lookOf(project, useChoice.getState().lookId);

export const blockAddress = (id: string) => `blocks/${id}`;
export const lookAddress = () => `looks/${currentLook().id}`;

export const setExposure = (exposure: number) => set(`${lookAddress()}/grade/exposure`, exposure, true);
