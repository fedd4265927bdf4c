export { build, buildTop, nodeBytes, nodesBuilt, packBytes, packsBuilt, scratchBytes } from './build';
export { closestBatch, init, occludedBatch } from './traverse';
export { setLights, setScene } from './scene';
export { setEye } from './eye';
export { setSurround } from './surround';
export { raysTraced, setMasks, traceWave } from './wave';
export { probe, probeChoice, probeLights } from './probe';
