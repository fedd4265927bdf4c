/** MaterialX's Standard Surface in OpenPBR's terms, as far as both say the same. */
import { plainSurface, type Surface } from '../document/index.ts';
import { dispersing } from '../finish/gltf.ts';

type Rgb = readonly number[];

/** What is asked of a shader's inputs: what was given, or the standard's own default. */
export interface Given {
  number: (name: string, plain: number) => number;
  colour: (name: string, plain: Rgb) => number[];
  flag: (name: string) => boolean;
}

const within = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
/** Nanometres of film, as micrometres. */
const MICROMETRES = 1e-3;

/** Inputs that have no counterpart, with the value that leaves them out of sight. */
export const LEFT_OUT: readonly string[] = [
  'transmission_extra_roughness',
  'coat_rotation',
  'coat_affect_roughness',
];

/** Inputs that stand for parameters here, for feeds. */
export const STANDARD_NAMES: Readonly<Record<string, keyof Surface>> = {
  base: 'base_weight',
  base_color: 'base_color',
  diffuse_roughness: 'base_diffuse_roughness',
  metalness: 'base_metalness',
  specular: 'specular_weight',
  specular_color: 'specular_color',
  specular_roughness: 'specular_roughness',
  transmission: 'transmission_weight',
  transmission_color: 'transmission_color',
  subsurface: 'subsurface_weight',
  subsurface_color: 'subsurface_color',
  sheen: 'fuzz_weight',
  sheen_color: 'fuzz_color',
  sheen_roughness: 'fuzz_roughness',
  coat: 'coat_weight',
  coat_color: 'coat_color',
  coat_roughness: 'coat_roughness',
  coat_anisotropy: 'coat_roughness_anisotropy',
  emission_color: 'emission_color',
};

/** Reads a Standard Surface (version 1.0.1). */
export function fromStandardSurface({ number, colour, flag }: Given): Surface {
  const radius = colour('subsurface_radius', [1, 1, 1]);
  const longest = Math.max(...radius, 1e-6);
  const film = number('thin_film_thickness', 0);
  const abbe = number('transmission_dispersion', 0);
  const opacity = colour('opacity', [1, 1, 1]);
  const turn = number('specular_rotation', 0);
  return plainSurface({
    base_weight: number('base', 1),
    base_color: colour('base_color', [0.8, 0.8, 0.8]),
    base_diffuse_roughness: number('diffuse_roughness', 0),
    base_metalness: number('metalness', 0),
    specular_weight: number('specular', 1),
    specular_color: colour('specular_color', [1, 1, 1]),
    specular_roughness: number('specular_roughness', 0.2),
    specular_ior: within(number('specular_IOR', 1.5), 1, 3),
    specular_roughness_anisotropy: number('specular_anisotropy', 0),
    // whole turns, of which half are the other half again
    specular_rotation: 2 * Math.PI * (turn - Math.round(turn)),
    transmission_weight: number('transmission', 0),
    transmission_color: colour('transmission_color', [1, 1, 1]),
    transmission_depth: within(number('transmission_depth', 0), 0, 10),
    transmission_scatter: colour('transmission_scatter', [0, 0, 0]),
    transmission_scatter_anisotropy: within(number('transmission_scatter_anisotropy', 0), -0.95, 0.95),
    ...dispersing(abbe),
    subsurface_weight: number('subsurface', 0),
    subsurface_color: colour('subsurface_color', [1, 1, 1]),
    subsurface_radius: within(longest * number('subsurface_scale', 1), 0.00001, 1),
    subsurface_radius_scale: radius.map((v) => v / longest),
    subsurface_scatter_anisotropy: within(number('subsurface_anisotropy', 0), -0.95, 0.95),
    fuzz_weight: number('sheen', 0),
    fuzz_color: colour('sheen_color', [1, 1, 1]),
    fuzz_roughness: number('sheen_roughness', 0.3),
    coat_weight: number('coat', 0),
    coat_color: colour('coat_color', [1, 1, 1]),
    coat_roughness: number('coat_roughness', 0.1),
    coat_roughness_anisotropy: within(number('coat_anisotropy', 0), 0, 1),
    coat_ior: within(number('coat_IOR', 1.5), 1, 3),
    coat_darkening: within(number('coat_affect_color', 0), 0, 1),
    thin_film_weight: film > 0 ? 1 : 0,
    thin_film_thickness: within(film * MICROMETRES, 0, 3),
    thin_film_ior: within(number('thin_film_IOR', 1.5), 1, 3),
    emission_luminance: within(number('emission', 0), 0, 100_000),
    emission_color: colour('emission_color', [1, 1, 1]),
    geometry_opacity: (opacity[0]! + opacity[1]! + opacity[2]!) / 3,
    geometry_thin_walled: flag('thin_walled'),
  });
}
