/** Display faces that ship with the app, all under the SIL Open Font License; files come from npm packages. */
import type { FontRef } from '../document/index.ts';

export interface ShippedFont {
  id: string;
  name: string;
  kind: string;
  /** Module path of the WOFF2 file, relative to node_modules. */
  file: string;
}

/** What all shipped faces are licensed under; their files leave it out. */
export const SHIPPED_LICENCE = 'SIL Open Font License 1.1';

const face = (id: string, name: string, kind: string): ShippedFont => ({
  id,
  name,
  kind,
  file: `@fontsource/${id}/files/${id}-latin-400-normal.woff2`,
});

export const SHIPPED_FONTS: readonly ShippedFont[] = [
  face('alfa-slab-one', 'Alfa Slab One', 'slab'),
  face('archivo-black', 'Archivo Black', 'grotesque'),
  face('anton', 'Anton', 'condensed'),
  face('abril-fatface', 'Abril Fatface', 'fat face'),
  face('lobster', 'Lobster', 'script'),
  face('yellowtail', 'Yellowtail', 'script'),
  face('bungee-inline', 'Bungee Inline', 'inline'),
  face('monoton', 'Monoton', 'inline'),
  face('saira-stencil-one', 'Saira Stencil One', 'stencil'),
  face('varela-round', 'Varela Round', 'rounded'),
  face('fredoka', 'Fredoka', 'rounded'),
  face('pirata-one', 'Pirata One', 'blackletter'),
  face('rye', 'Rye', 'wood type'),
  face('limelight', 'Limelight', 'deco'),
  {
    id: 'recursive',
    name: 'Recursive',
    kind: 'variable',
    file: '@fontsource-variable/recursive/files/recursive-latin-wght-normal.woff2',
  },
];

/** How a document names a shipped font. @throws when there is none of that id */
export function shippedRef(id: string): FontRef {
  const font = SHIPPED_FONTS.find((f) => f.id === id);
  if (!font) throw new Error(`no font ${id} ships with the app`);
  return { source: 'shipped', id, name: font.name };
}
