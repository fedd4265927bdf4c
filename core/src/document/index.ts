export * from './block.ts';
export * from './check.ts';
export * from './defaults.ts';
export * from './edits.ts';
export * from './finish.ts';
export * from './look.ts';
export * from './project.ts';
export * from './stage.ts';
