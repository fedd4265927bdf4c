/** Which parameters of a surface each family leads with. */
import type { Family, Surface } from '@wemlox/core/document';

type Keys = readonly (keyof Surface)[];

const METAL: Keys = [
  'base_metal',
  'specular_roughness',
  'specular_roughness_anisotropy',
  'specular_rotation',
];
const GLASS: Keys = ['transmission_color', 'transmission_depth', 'specular_roughness', 'specular_ior'];

const LEADING: Record<Family, Keys> = {
  chrome: METAL,
  gold: METAL,
  copper: METAL,
  steel: METAL,
  brushed: METAL,
  lacquer: ['base_color', 'specular_roughness', 'coat_weight', 'coat_roughness'],
  enamel: ['base_color', 'specular_roughness', 'specular_ior'],
  'clear glass': GLASS,
  'coloured glass': GLASS,
  'frosted glass': GLASS,
  neon: ['emission_color', 'emission_luminance', 'base_color', 'specular_roughness'],
  silver: METAL,
  anodised: ['base_metal', 'thin_film_thickness', 'thin_film_ior', 'specular_roughness'],
  'satin paint': ['base_color', 'specular_roughness', 'specular_weight'],
  'flake lacquer': ['base_color', 'specular_roughness', 'coat_weight', 'coat_roughness'],
  patina: ['base_color', 'specular_roughness', 'base_metalness'],
  woven: ['base_color', 'specular_roughness', 'coat_weight', 'relief'],
  stone: ['base_color', 'specular_roughness', 'base_diffuse_roughness', 'relief'],
  brick: ['base_color', 'specular_roughness', 'base_diffuse_roughness', 'relief'],
  wood: ['base_color', 'specular_roughness', 'coat_weight', 'relief'],
  film: ['thin_film_weight', 'thin_film_thickness', 'thin_film_ior', 'base_color'],
  translucent: ['subsurface_weight', 'subsurface_color', 'subsurface_radius', 'specular_roughness'],
  velvet: ['base_color', 'fuzz_weight', 'fuzz_color', 'fuzz_roughness'],
  'cut out': ['geometry_opacity', 'base_color', 'specular_roughness', 'relief'],
  'matte paint': ['base_color', 'base_diffuse_roughness', 'specular_roughness', 'specular_weight'],
};

export const leading = (family: Family) => LEADING[family];
