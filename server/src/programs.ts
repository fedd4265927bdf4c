/** Where the programs are that the server starts; tools/programs.mjs makes them. */
import { fileURLToPath } from 'node:url';

export const READER = fileURLToPath(new URL('../../build/programs/reader.mjs', import.meta.url));
