/** Leaves triangles out; large, and seldom wanted. */
import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import type { Thin } from './thinned.ts';

await MeshoptSimplifier.ready;

export const thin: Thin = (index, positions, triangles) =>
  MeshoptSimplifier.simplify(index, positions, 3, triangles * 3, 1, ['Sparse'])[0];
