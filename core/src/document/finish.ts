/** A finish: an OpenPBR surface under a name. Parameter names and ranges follow the OpenPBR 1.1 standard. */
import { IsBoolean, IsIn, IsString } from 'class-validator';
import { Amount, Id, Name, One, Tint } from './rules.ts';

/** Metals whose complex refractive index the app knows; 'none' takes the colour from base_color. */
export const METALS = ['none', 'gold', 'silver', 'copper', 'aluminium', 'chromium', 'iron'] as const;
export type Metal = (typeof METALS)[number];

export const FAMILIES = [
  'chrome',
  'gold',
  'copper',
  'steel',
  'brushed',
  'lacquer',
  'enamel',
  'clear glass',
  'coloured glass',
  'frosted glass',
  'neon',
  'matte paint',
] as const;
export type Family = (typeof FAMILIES)[number];

export class Surface {
  @Amount(0, 1) base_weight!: number;
  @Tint() base_color!: number[];
  @Amount(0, 1) base_diffuse_roughness!: number;
  @Amount(0, 1) base_metalness!: number;
  /** Measured metal; replaces the metallic reflectance that base_color and specular_color would give. */
  @IsIn(METALS) base_metal!: Metal;
  @Amount(0, 1) specular_weight!: number;
  @Tint() specular_color!: number[];
  @Amount(0, 1) specular_roughness!: number;
  @Amount(1, 3) specular_ior!: number;
  @Amount(0, 1) specular_roughness_anisotropy!: number;
  /** Turn of the brushing away from the outline's direction, radians. */
  @Amount(-Math.PI, Math.PI) specular_rotation!: number;
  @Amount(0, 1) transmission_weight!: number;
  @Tint() transmission_color!: number[];
  /** Depth in metres at which white light has become transmission_color; 0 tints at the surface. */
  @Amount(0, 10) transmission_depth!: number;
  @Amount(0, 1) coat_weight!: number;
  @Tint() coat_color!: number[];
  @Amount(0, 1) coat_roughness!: number;
  @Amount(1, 3) coat_ior!: number;
  @Tint() emission_color!: number[];
  /** Nits. */
  @Amount(0, 100_000) emission_luminance!: number;
  /** A sheet without thickness: glass lets light through without bending it. */
  @IsBoolean() geometry_thin_walled!: boolean;
}

export class Finish {
  @Id() id!: string;
  @Name() name!: string;
  @IsString() @IsIn(FAMILIES) family!: Family;
  @One(() => Surface) surface!: Surface;
}
