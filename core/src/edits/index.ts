/** Every edit of a document, by the name of what it does: pure functions from a document to an Edit. */
export * from './balance.ts';
export * from './blocks.ts';
export * from './coats.ts';
export * from './curves.ts';
export * from './edit.ts';
export * from './finishes.ts';
export * from './letters.ts';
export * from './lights.ts';
export * from './lightShapes.ts';
export * from './looks.ts';
export * from './motion.ts';
export * from './panels.ts';
export * from './parameters.ts';
export { alikeLetters, copyDress, dressPattern, PATTERNS, picked, type Pattern } from './patterns.ts';
export * from './stage.ts';
export * from './timed.ts';
