// Threads do not inherit the loader that reads TypeScript: register it, then go on in thread.ts, or what is asked for.
import { workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
await import(workerData.entry ?? './thread.ts');
