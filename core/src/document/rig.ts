/** A rig that stands by itself, as in the library: lights, and how large the type was that they stood around. */
import { LIGHT_CLASSES, type Light } from './light.ts';
import { MOST } from './most.ts';
import { Amount, Name, Variants } from './rules.ts';

export class Rig {
  @Name() name!: string;
  /** Longer side of the type's face, metres. */
  @Amount(1e-4, 1000) size!: number;
  @Variants(LIGHT_CLASSES, MOST.lights, 1) lights!: Light[];
}
