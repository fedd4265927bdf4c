/** Addresses of the shipped fonts in the build, by their file under node_modules. */
const FILES = import.meta.glob<string>(
  [
    '../../../node_modules/@fontsource/*/files/*-latin-400-normal.woff2',
    '../../../node_modules/@fontsource-variable/recursive/files/recursive-latin-wght-normal.woff2',
  ],
  { query: '?url', import: 'default', eager: true },
);

export const fontUrl = (file: string): string | undefined => FILES[`../../../node_modules/${file}`];
