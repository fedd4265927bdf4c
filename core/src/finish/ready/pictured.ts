/** Ready finishes that are fed from pictures, and light of gases. */
import type { Feed, Finish, Surface } from '../../document/index.ts';
import { PAINTED_TEXTURES } from '../../texture/paintedTextures.ts';
import { fed, ready } from './ready.ts';

const MM = 0.001;

/** How a painted picture lies: in tiles of a width, or as it is said. */
const laid = (id: string, more: Partial<Feed>): Partial<Feed> => ({
  picture: { source: 'painted', id, name: PAINTED_TEXTURES.find((p) => p.id === id)!.name },
  lay: 'tiles',
  ...more,
});

const WHITE = [1, 1, 1];
const colours = (id: string, more: Partial<Feed>) =>
  fed('base_color', 'picture', [[0, WHITE]], laid(id, more));
const brightness = (parameter: string, id: string, dark: number, bright: number, more: Partial<Feed>) =>
  fed(
    parameter,
    'picture',
    [
      [0, dark],
      [1, bright],
    ],
    laid(id, { ...more, take: 'light' }),
  );

/** Gas in a tube: dark where it does not glow. */
const gas = (id: string, name: string, of: Partial<Surface>): Finish =>
  ready(id, name, 'neon', {
    base_color: [0.05, 0.05, 0.05],
    specular_roughness: 0.2,
    emission_luminance: 8,
    ...of,
  });

export const READY_PICTURED: readonly Finish[] = [
  ready('weathered-hull', 'Weathered hull', 'patina', { specular_roughness: 0.45 }, [
    colours('hull-paint', { tile: 420 * MM }),
    brightness('specular_roughness', 'hull-paint', 0.25, 0.75, { tile: 420 * MM }),
  ]),
  ready('deck-boards', 'Deck boards', 'wood', { specular_roughness: 0.5 }, [
    colours('deck-planks', { tile: 480 * MM }),
    brightness('relief', 'deck-planks', 0, 0.4 * MM, { tile: 480 * MM }),
  ]),
  ready('awning-canvas', 'Awning canvas', 'woven', { specular_roughness: 0.85 }, [
    colours('canvas', { tile: 90 * MM }),
    brightness('relief', 'canvas', 0, 0.5 * MM, { tile: 90 * MM }),
  ]),
  ready('measuring-squares', 'Measuring squares', 'matte paint', { specular_roughness: 0.6 }, [
    colours('measure', { tile: 100 * MM }),
  ]),
  ready('cut-crystal', 'Cut crystal', 'clear glass', {
    transmission_weight: 1,
    specular_roughness: 0,
    specular_ior: 1.62,
    transmission_dispersion_scale: 1,
    transmission_dispersion_abbe_number: 24,
  }),
  gas('neon-gas', 'Neon gas', { emission_gas: 'neon' }),
  gas('mercury-gas', 'Argon and mercury', { emission_gas: 'mercury' }),
  gas('helium-gas', 'Helium', { emission_gas: 'helium' }),
  gas('krypton-gas', 'Krypton', { emission_gas: 'krypton' }),
  gas('xenon-gas', 'Xenon', { emission_gas: 'xenon' }),
  gas('powdered-white', 'Powdered white', {
    emission_gas: 'mercury',
    emission_powder: 0.9,
    emission_powder_color: [1, 0.86, 0.66],
  }),
];
