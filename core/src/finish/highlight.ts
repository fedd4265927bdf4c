/** Whether light on a surface is seen as a highlight, or only as light and shade. */
import type { Optics } from './optics.ts';

/** A lobe narrower than this shows a highlight where it mirrors a light. */
const SHARP = 0.4;
/** Share of a surface from which it counts. */
const MUCH = 0.3;

export const showsHighlight = ({ metal, glass, coat, roughness, specularWeight }: Optics): boolean =>
  coat.weight > MUCH || ((metal > MUCH || glass > MUCH || specularWeight > MUCH) && roughness < SHARP);

/** Whether what it mirrors is most of what is seen of it. */
export const isMirror = ({ metal, roughness }: Optics): boolean => metal > 0.5 && roughness < SHARP;
