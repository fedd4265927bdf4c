/** A floor, what it is made of, and lamps over it, for tests of lights. */
import { expect } from 'vitest';
import type { Vec } from '../../src/light/placing.ts';
import { quad } from './sceneFixture.ts';

export const ALBEDO = 0.5;
export const down: Vec = [0, -1, 0];
export const MATTE = { base_color: [ALBEDO, ALBEDO, ALBEDO], specular_weight: 0, specular_roughness: 1 };
export const LACQUER = { base_color: [0.6, 0.3, 0.1], specular_roughness: 0.2, specular_ior: 1.8 };
export const MIRROR = { base_metalness: 1, base_color: [1, 1, 1], specular_roughness: 0 };
export const plane = (half = 5) => quad([-half, 0, half], [2 * half, 0, 0], [0, 0, -2 * half]);
export const placed = (position: Vec, strength: number, forward: Vec = down) => ({
  position,
  forward,
  right: [1, 0, 0] as Vec,
  up: [0, 0, -1] as Vec,
  colour: [strength, strength, strength] as Vec,
});
export const any = { name: 'lamp', shadow: true };
export const within = (value: number, exact: number, share = 0.01) =>
  expect(Math.abs(value / exact - 1), `${value} for ${exact}`).toBeLessThan(share);
