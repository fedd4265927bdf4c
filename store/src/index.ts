export * from './assets.ts';
export * from './database.ts';
export * from './finishes.ts';
export * from './projects.ts';
export * from './proofs.ts';
export * from './press.ts';
export * from './revisions.ts';
export * from './session.ts';
