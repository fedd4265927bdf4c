// Threads do not inherit the loader that reads TypeScript: register it, then go on in thread.ts.
import { register } from 'tsx/esm/api';

register();
await import('./thread.ts');
