/** The inputs of OpenPBR's node in MaterialX 1.39, beside the parameters of a surface that say the same. */
import type { Surface } from '../document/index.ts';

export interface OpenPbrInput {
  name: string;
  type: 'float' | 'color3' | 'boolean';
  /** A length, in metres. */
  length?: true;
}

const float = (name: keyof Surface): OpenPbrInput => ({ name, type: 'float' });
const colour = (name: keyof Surface): OpenPbrInput => ({ name, type: 'color3' });
const length = (name: keyof Surface): OpenPbrInput => ({ name, type: 'float', length: true });

/** Inputs and parameters have the same names: OpenPBR's. */
export const OPEN_PBR: readonly OpenPbrInput[] = [
  float('base_weight'),
  colour('base_color'),
  float('base_diffuse_roughness'),
  float('base_metalness'),
  float('specular_weight'),
  colour('specular_color'),
  float('specular_roughness'),
  float('specular_ior'),
  float('specular_roughness_anisotropy'),
  float('transmission_weight'),
  colour('transmission_color'),
  length('transmission_depth'),
  colour('transmission_scatter'),
  float('transmission_scatter_anisotropy'),
  float('transmission_dispersion_scale'),
  float('transmission_dispersion_abbe_number'),
  float('subsurface_weight'),
  colour('subsurface_color'),
  length('subsurface_radius'),
  colour('subsurface_radius_scale'),
  float('subsurface_scatter_anisotropy'),
  float('fuzz_weight'),
  colour('fuzz_color'),
  float('fuzz_roughness'),
  float('coat_weight'),
  colour('coat_color'),
  float('coat_roughness'),
  float('coat_roughness_anisotropy'),
  float('coat_ior'),
  float('coat_darkening'),
  float('thin_film_weight'),
  float('thin_film_thickness'),
  float('thin_film_ior'),
  float('emission_luminance'),
  colour('emission_color'),
  float('geometry_opacity'),
  { name: 'geometry_thin_walled', type: 'boolean' },
];

/** Input by name. */
export const openPbrInput = (name: string): OpenPbrInput | undefined => OPEN_PBR.find((i) => i.name === name);

/** Attributes of a material in which a finish of Wemlox lies whole, and the mark of the document it was written in. */
export const OWN_FINISH = 'wemlox_finish';
export const OWN_MARK = 'wemlox_mark';

/** Mark of a document, its own finishes and its spaces left out (FNV-1a, 32 bits): changed nodes change it. */
export function markOf(xml: string): string {
  const text = xml.replace(/\s+wemlox_(finish|mark)="[^"]*"/g, '').replace(/\s+/g, '');
  let sum = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) sum = Math.imul(sum ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return sum.toString(16).padStart(8, '0');
}
