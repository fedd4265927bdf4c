/** Everything an artist does, and edits that tests make by hand. */
import type { Block, Form, Piece, Project } from '@wemlox/core/document';
import * as edits from '@wemlox/core/edits';
import { perform } from '../src/state/studio.ts';

export * from '../src/actions/blocks.ts';
export * from '../src/actions/document.ts';
export * from '../src/actions/finishes.ts';
export * from '../src/actions/lights.ts';
export * from '../src/actions/looks.ts';
export { moveBy } from '../src/actions/motion.ts';
export * from '../src/actions/stage.ts';

export const change = (label: string, make: (project: Project) => void) => perform(() => ({ label, make }));

export const changeBlock = (id: string, label: string, make: (block: Block) => void) =>
  change(label, (p) => make(p.blocks.find((b) => b.id === id)!));

export const changePiece = (id: string, label: string, make: (piece: Piece) => void) =>
  change(label, (p) => make(p.pieces.find((x) => x.id === id)!));

export const setForm = (id: string, form: Form) => perform((p) => edits.setForm(p, id, form));
export const goBackTo = (name: string, kept: Project) => perform((p) => edits.goBackTo(p, name, kept));
export const paintTube = (id: string, letter: string, stroke: number, from: number, to: number) =>
  perform((p) => edits.paintTube(p, id, letter, stroke, from, to));
export const clearPaint = (id: string, letter: string, stroke: number, at: number) =>
  perform((p) => edits.clearPaint(p, id, letter, stroke, at));
