/** What the desk shows of a surface: OpenPBR's parameters, their ranges, and which of them a family leads with. */
import type { Family, Surface } from '@wemlox/core/src/document/index.ts';

type Scalar = { [K in keyof Surface]: Surface[K] extends number ? K : never }[keyof Surface];
type Tinted = { [K in keyof Surface]: Surface[K] extends number[] ? K : never }[keyof Surface];

export type Parameter =
  | {
      kind: 'number';
      key: Scalar;
      name: string;
      min: number;
      max: number;
      step: number;
      unit?: string;
      factor?: number;
      log?: boolean;
      faderMax?: number;
    }
  | { kind: 'colour'; key: Tinted; name: string }
  | { kind: 'metal'; key: 'base_metal'; name: string };

const share = (key: Scalar, name: string): Parameter => ({
  kind: 'number',
  key,
  name,
  min: 0,
  max: 1,
  step: 0.01,
});
const index = (key: Scalar, name: string): Parameter => ({
  kind: 'number',
  key,
  name,
  min: 1,
  max: 3,
  step: 0.01,
});
const colour = (key: Tinted, name: string): Parameter => ({ kind: 'colour', key, name });

const P = {
  base_weight: share('base_weight', 'Weight'),
  base_color: colour('base_color', 'Base colour'),
  base_diffuse_roughness: share('base_diffuse_roughness', 'Diffuse roughness'),
  base_metalness: share('base_metalness', 'Metalness'),
  base_metal: { kind: 'metal', key: 'base_metal', name: 'Measured metal' } as Parameter,
  specular_weight: share('specular_weight', 'Weight'),
  specular_color: colour('specular_color', 'Specular colour'),
  specular_roughness: share('specular_roughness', 'Roughness'),
  specular_ior: index('specular_ior', 'Index'),
  specular_roughness_anisotropy: share('specular_roughness_anisotropy', 'Along the stroke'),
  specular_rotation: {
    kind: 'number',
    key: 'specular_rotation',
    name: 'Turn',
    min: -180,
    max: 180,
    step: 1,
    unit: '°',
    factor: 180 / Math.PI,
  } as Parameter,
  transmission_weight: share('transmission_weight', 'Transmission'),
  transmission_color: colour('transmission_color', 'Glass colour'),
  transmission_depth: {
    kind: 'number',
    key: 'transmission_depth',
    name: 'Depth of colour',
    min: 0,
    max: 10_000,
    faderMax: 300,
    step: 1,
    unit: 'mm',
    factor: 1000,
  } as Parameter,
  coat_weight: share('coat_weight', 'Coat'),
  coat_color: colour('coat_color', 'Coat colour'),
  coat_roughness: share('coat_roughness', 'Coat roughness'),
  coat_ior: index('coat_ior', 'Coat index'),
  emission_color: colour('emission_color', 'Light colour'),
  emission_luminance: {
    kind: 'number',
    key: 'emission_luminance',
    name: 'Luminance',
    min: 0,
    max: 100_000,
    faderMax: 10_000,
    step: 0.1,
    unit: 'nit',
    log: true,
  } as Parameter,
};

const METAL = [P.base_metal, P.specular_roughness, P.specular_roughness_anisotropy, P.specular_rotation];
const GLASS = [P.transmission_color, P.transmission_depth, P.specular_roughness, P.specular_ior];

const LEADING: Record<Family, Parameter[]> = {
  chrome: METAL,
  gold: METAL,
  copper: METAL,
  steel: METAL,
  brushed: METAL,
  lacquer: [P.base_color, P.specular_roughness, P.coat_weight, P.coat_roughness],
  enamel: [P.base_color, P.specular_roughness, P.specular_ior],
  'clear glass': GLASS,
  'coloured glass': GLASS,
  'frosted glass': GLASS,
  neon: [P.emission_color, P.emission_luminance, P.base_color, P.specular_roughness],
  'matte paint': [P.base_color, P.base_diffuse_roughness, P.specular_roughness, P.specular_weight],
};

export const leading = (family: Family) => LEADING[family];

/** Everything, by OpenPBR's groups. */
export const GROUPS: readonly (readonly [string, Parameter[]])[] = [
  ['Base', [P.base_weight, P.base_color, P.base_diffuse_roughness, P.base_metalness, P.base_metal]],
  [
    'Specular',
    [
      P.specular_weight,
      P.specular_color,
      P.specular_roughness,
      P.specular_ior,
      P.specular_roughness_anisotropy,
      P.specular_rotation,
    ],
  ],
  ['Transmission', [P.transmission_weight, P.transmission_color, P.transmission_depth]],
  ['Coat', [P.coat_weight, P.coat_color, P.coat_roughness, P.coat_ior]],
  ['Emission', [P.emission_color, P.emission_luminance]],
];
