// The ray kernel. All addresses come from the host: nothing here allocates, so one scene in shared
// memory can be traced by many instances, each with its own stack and hit record.
export { build, scratchBytes, nodeBytes, packBytes } from './build';
export { init, closest, occluded, closestBatch, occludedBatch } from './traverse';
