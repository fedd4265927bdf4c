/** The API, said once: what the server takes and answers, and what the page sends and reads. */
export * from './actor.ts';
export * from './assets.ts';
export * from './finishes.ts';
export * from './press.ts';
export * from './problem.ts';
export * from './projects.ts';
export * from './proofs.ts';
export * from './revisions.ts';
export * from './rigs.ts';
