// Before tests: they start the programs, which must be those of the code that is tested.
export { makePrograms as default } from './programs.mjs';
