/** The Ostrel projects: the night ferry's lettering, in the looks its designer is weighing. */
import {
  newBevel,
  newBlock,
  newGrade,
  newLight,
  newLook,
  newMove,
  newPiece,
  newShot,
  newStrip,
  newSurround,
  newProject,
  newTube,
  plainFinish,
  plainSurface,
  newBaseline,
  type Block,
  type Finish,
  type FontRef,
  type Light,
  type Look,
  type Move,
  type Project,
  type Shot,
  type Surround,
} from '@wemlox/core/document';
import { readyFinish } from '@wemlox/core/finish/readyFinishes';
import { shippedRef } from '@wemlox/core/type/shippedFonts';
import type { SceneMaker } from '@wemlox/core/scene/sceneMaker';
import { fitted, standingHeight } from '@wemlox/core/stage/camera';

/** Longer side of the demo's proofs, pixels. */
export const LONG_SIDE = 800;
const DEG = Math.PI / 180;

const block = (id: string, text: string, font: FontRef, changes: Partial<Block>): Block =>
  newBlock(text, { id, font, letters: [...text].map((_, i) => `${id}-${i}`), ...changes });

const TURN = 2 * Math.PI;
const CAMERA_AROUND = 'shots/moving/camera/azimuth';

/** The front, still, and the same for six seconds in which things move. */
const shotsOf = (changes: Partial<Shot>, moves: Move[]): Shot[] => [
  newShot({ id: 'front', name: 'Front', ...changes }),
  newShot({ id: 'moving', name: 'Moving', seconds: 6, ...changes, moves }),
];

const painted = (id: string, name: string, changes: Partial<Surround> = {}): Surround =>
  newSurround({
    id,
    name,
    ...changes,
  });

const light = (id: string, kind: Light['kind'], name: string, changes: Partial<Light>): Light =>
  newLight(kind, name, { id, ...changes });

const finish = (
  id: string,
  name: string,
  family: Finish['family'],
  surface: Partial<Finish['surface']>,
): Finish => plainFinish({ id, name, family, surface: plainSurface(surface) });

function project(
  name: string,
  parts: Pick<Project, 'blocks' | 'finishes' | 'pieces' | 'looks' | 'shots'>,
): Project {
  return { ...newProject(name, '', []), ...parts };
}

/** The hull lettering: five answers on the same word. */
function ostrel(): Project {
  const word = block('hull', 'OSTREL', shippedRef('alfa-slab-one'), {
    capHeight: 0.62,
    depth: 0.2,
    front: newBevel({ width: 0.022, height: 0.03, profile: 'round', segments: 8 }),
    back: newBevel({ width: 0.01, height: 0.01, profile: 'straight', segments: 1 }),
  });
  const wet = finish('wet-deck', 'Wet deck', 'matte paint', {
    base_color: [0.012, 0.011, 0.013],
    specular_weight: 0.45,
    specular_roughness: 0.4,
  });
  const dusk: Look = newLook('Dusk chrome', {
    id: 'dusk-chrome',
    chart: [
      { finish: 'hull-chrome' },
      { zone: 'side', finish: 'funnel-red' },
      { zone: 'backBevel', finish: 'worn-steel' },
      { zone: 'back', finish: 'worn-steel' },
    ],
    surround: painted('wheelhouse-dusk', 'Wheelhouse dusk', { stops: 0, turn: 2.6, seen: true }),
    rig: [
      light('dusk-key', 'area', 'Key', {
        azimuth: -0.75,
        elevation: 0.75,
        strength: 9,
        kelvin: 3900,
        width: 1.2,
        height: 0.5,
        distance: 3,
      }),
      light('dusk-rim', 'area', 'Rim', {
        azimuth: 2.5,
        elevation: 0.5,
        strength: 14,
        kelvin: 9000,
        width: 0.5,
        height: 1.6,
        distance: 3,
      }),
    ],
    grade: newGrade({ exposure: -0.3 }),
  });
  const gold: Look = newLook('Gold leaf', {
    id: 'gold-leaf',
    chart: [
      { finish: 'leaf-gold' },
      { zone: 'side', finish: 'night-enamel' },
      { zone: 'back', finish: 'night-enamel' },
      { zone: 'backBevel', finish: 'night-enamel' },
    ],
    surround: painted('lamp-studio', 'Lamp studio', { stops: 0.2 }),
    rig: [
      light('gold-key', 'area', 'Key', {
        azimuth: -0.6,
        elevation: 0.8,
        strength: 16,
        kelvin: 4200,
        width: 1.4,
        height: 0.7,
        distance: 3,
      }),
      light('gold-fill', 'area', 'Fill', {
        azimuth: 0.9,
        elevation: 0.25,
        strength: 2.4,
        kelvin: 5600,
        width: 1.6,
        height: 1.2,
        distance: 3.4,
      }),
      light('gold-rim', 'spot', 'Rim', {
        azimuth: 2.6,
        elevation: 0.7,
        strength: 40,
        kelvin: 6500,
        distance: 4,
        cone: 25 * DEG,
      }),
    ],
    grade: newGrade({ exposure: 0 }),
  });
  const signal: Look = newLook('Signal lit', {
    id: 'signal-lit',
    chart: [
      { finish: 'night-enamel' },
      { zone: 'front', finish: 'tide-neon' },
      { zone: 'frontBevel', finish: 'hull-chrome' },
      { letter: 'hull-2', zone: 'front', finish: 'starboard-lamp' },
    ],
    surround: painted('engine-room', 'Engine room', { stops: -2.4 }),
    rig: [
      light('signal-top', 'area', 'Top strip', {
        azimuth: 0,
        elevation: 1.2,
        strength: 3,
        kelvin: 8000,
        width: 3,
        height: 0.2,
        distance: 2.4,
      }),
    ],
    grade: newGrade({ exposure: -1.5, glow: 0.12 }),
  });
  const shifting: Look = newLook('Tide shift', {
    id: 'tide-shift',
    chart: [
      { finish: 'tide-shift' },
      { zone: 'front', finish: 'ivory-enamel' },
      { zone: 'back', finish: 'ivory-enamel' },
    ],
    surround: painted('lamp-studio', 'Lamp studio', { stops: 0.6, turn: 0.5 }),
    rig: [
      light('shift-key', 'area', 'Key', {
        azimuth: -0.9,
        elevation: 0.7,
        strength: 14,
        kelvin: 5200,
        width: 1.6,
        height: 0.6,
        distance: 3,
      }),
      light('shift-side', 'area', 'Side', {
        azimuth: 1.3,
        elevation: 0.3,
        strength: 10,
        kelvin: 6500,
        width: 0.6,
        height: 1.6,
        distance: 2.8,
      }),
    ],
    grade: newGrade({ exposure: -0.2 }),
  });
  const tempered: Look = newLook('Anodised', {
    id: 'anodised',
    chart: [
      { finish: 'rainbow-anodised' },
      { zone: 'side', finish: 'heat-blue' },
      { zone: 'backBevel', finish: 'heat-blue' },
      { zone: 'back', finish: 'heat-blue' },
    ],
    surround: painted('dry-dock', 'Dry dock', { stops: 0.3, turn: 1.4 }),
    rig: [
      light('anodised-key', 'area', 'Key', {
        azimuth: 0.7,
        elevation: 0.9,
        strength: 16,
        kelvin: 5600,
        width: 1.8,
        height: 0.8,
        distance: 3,
      }),
    ],
    grade: newGrade({ exposure: -0.4 }),
  });
  return project('Ostrel', {
    blocks: [word],
    finishes: [
      ...[
        ...['hull-chrome', 'leaf-gold', 'worn-steel', 'funnel-red', 'night-enamel', 'tide-neon'],
        ...['tide-shift', 'ivory-enamel', 'rainbow-anodised', 'heat-blue'],
      ].map(readyFinish),
      finish('starboard-lamp', 'Starboard lamp', 'neon', {
        base_color: [0.03, 0.3, 0.12],
        specular_roughness: 0.2,
        emission_color: [0.1, 1, 0.42],
        emission_luminance: 9,
      }),
      wet,
    ],
    pieces: [newPiece('floor', { id: 'deck', at: 0, finish: 'wet-deck' })],
    looks: [dusk, gold, signal, shifting, tempered],
    shots: shotsOf({}, [
      newMove('swing', CAMERA_AROUND, { id: 'harbour-swing', speed: 1 / 6, amount: 0.32 }),
      newMove('turn', 'looks/dusk-chrome/surround/turn', { id: 'dusk-turn', speed: 1 / 6, amount: TURN }),
      newMove('turn', 'looks/tide-shift/rig/shift-key/azimuth', {
        id: 'shift-turn',
        speed: 1 / 6,
        amount: TURN,
      }),
      newMove('flicker', 'finishes/starboard-lamp/surface/emission_luminance', {
        id: 'lamp-flicker',
        flicker: 'candle',
        speed: 2,
        amount: 0.7,
        letters: 'reading',
        step: 0.25,
      }),
    ]),
  });
}

/** Bent tubes on a wall of the bar. */
function tideBar(): Project {
  const word = block('bar', 'TIDE\nBAR', shippedRef('fredoka'), {
    capHeight: 0.34,
    leading: 0.86,
    tracking: 90,
    form: 'tube',
    tube: newTube({ diameter: 0.011, smoothing: 0.8, standOff: 0.035, electrode: 0.016, supports: 0.22 }),
  });
  const tiles = finish('bar-tiles', 'Bar tiles', 'enamel', {
    base_color: [0.2, 0.4, 0.4],
    specular_roughness: 0.14,
    coat_weight: 0.6,
    coat_roughness: 0.05,
  });
  const shell = finish('shell-pink', 'Shell neon', 'neon', {
    base_color: [0.4, 0.2, 0.25],
    emission_color: [1, 0.24, 0.46],
    emission_luminance: 22,
  });
  const ice = finish('ice-blue', 'Ice neon', 'neon', {
    base_color: [0.2, 0.3, 0.4],
    emission_color: [0.18, 0.66, 1],
    emission_luminance: 22,
  });
  const asleep = finish('gas-asleep', 'Gas asleep', 'matte paint', {
    base_color: [0.72, 0.72, 0.7],
    specular_roughness: 0.5,
  });
  const blackout = finish('blackout', 'Blackout paint', 'matte paint', {
    base_color: [0.015, 0.015, 0.016],
    specular_roughness: 0.55,
  });
  const dress = [
    { finish: 'tube-glass' },
    { zone: 'electrode' as const, finish: 'worn-steel' },
    { zone: 'paintOut' as const, finish: 'blackout' },
  ];
  const open: Look = newLook('Open late', {
    id: 'open-late',
    chart: [
      ...dress,
      { zone: 'gas', finish: 'shell-pink' },
      ...[5, 6, 7].map((i) => ({ letter: `bar-${i}`, zone: 'gas' as const, finish: 'ice-blue' })),
    ],
    surround: painted('lamp-studio', 'Lamp studio', { stops: -3.2 }),
    rig: [],
    grade: newGrade({ exposure: -1.4, glow: 0.15, glow_size: 0.04 }),
  });
  const closed: Look = newLook('Morning after', {
    id: 'morning-after',
    chart: [...dress, { zone: 'gas', finish: 'gas-asleep' }],
    surround: painted('snow-pier', 'Snow pier', { stops: -0.6 }),
    rig: [
      light('bar-window', 'area', 'Window', {
        azimuth: -1,
        elevation: 0.5,
        strength: 8,
        kelvin: 5200,
        width: 1.2,
        height: 1.6,
        distance: 2.6,
      }),
    ],
    grade: newGrade({ exposure: -0.7 }),
  });
  return project('Tide Bar', {
    blocks: [word],
    finishes: [
      shell,
      ice,
      asleep,
      blackout,
      tiles,
      ...['tube-glass', 'deck-matte', 'worn-steel'].map(readyFinish),
    ],
    pieces: [
      newPiece('wall', { id: 'wall', at: 0, finish: 'bar-tiles' }),
      newPiece('floor', { id: 'floor', on: false, at: 0, finish: 'deck-matte' }),
    ],
    looks: [open, closed],
    shots: shotsOf({ frame: '4:5' }, [
      newMove('flicker', 'finishes/shell-pink/surface/emission_luminance', {
        id: 'pink-flicker',
        flicker: 'tube',
        speed: 3,
        amount: 0.95,
        seed: 12,
        letters: 'random',
        step: 0.5,
      }),
      newMove('breathe', 'finishes/ice-blue/surface/emission_luminance', {
        id: 'ice-breathes',
        speed: 0.5,
        amount: 0.6,
      }),
      newMove('drift', CAMERA_AROUND, { id: 'bar-drift', speed: 1 / 6, amount: 0.25 }),
    ]),
  });
}

/** The key board by the purser's desk: brushed letters cut to the ridge, and a line of round ones on an arc. */
function cabinKeys(): Project {
  const word = block('keys', 'Cabin keys', shippedRef('abril-fatface'), {
    capHeight: 0.26,
    depth: 0.075,
    tracking: 24,
    front: newBevel({ width: 0.05, height: 0.045, profile: 'keel', segments: 1 }),
    back: newBevel({ width: 0.004, height: 0.004, profile: 'straight', segments: 1 }),
  });
  const line = block('line', 'OSTREL LINE', shippedRef('varela-round'), {
    capHeight: 0.085,
    depth: 0.01,
    tracking: 160,
    form: 'rounded',
    baseline: { ...newBaseline(), kind: 'arc', bend: 0.55 },
    place: { position: [0, 0.52, 0], turn: 0, tilt: 0, roll: 0 },
  });
  const board = finish('key-board', 'Key board', 'lacquer', {
    base_color: [0.075, 0.1, 0.085],
    specular_roughness: 0.35,
    coat_weight: 0.8,
    coat_roughness: 0.08,
  });
  const brass = finish('purser-brass', 'Purser brass', 'brushed', {
    base_color: [0.86, 0.62, 0.26],
    base_metalness: 1,
    specular_roughness: 0.26,
    specular_roughness_anisotropy: 0.75,
  });
  const brushed: Look = newLook('Brushed steel', {
    id: 'brushed-steel',
    chart: [{ finish: 'cabin-steel' }, { block: 'line', finish: 'hull-chrome' }],
    surround: painted('lamp-studio', 'Lamp studio', { stops: 1.2, turn: 0.4 }),
    rig: [
      light('keys-key', 'area', 'Key', {
        azimuth: -0.8,
        elevation: 0.7,
        strength: 40,
        kelvin: 4600,
        width: 1.6,
        height: 0.5,
        distance: 2,
      }),
      light('keys-fill', 'area', 'Fill', {
        azimuth: 0.7,
        elevation: 0.15,
        strength: 12,
        kelvin: 6500,
        width: 0.9,
        height: 0.9,
        distance: 2.2,
      }),
    ],
    grade: newGrade({ exposure: -0.6 }),
  });
  const brassy: Look = newLook('Purser brass', {
    id: 'purser-brass',
    chart: [{ finish: 'purser-brass' }, { zone: 'side', finish: 'night-enamel' }],
    surround: painted('engine-room', 'Engine room', { stops: 1.4, turn: 1.2 }),
    rig: [
      light('brass-strip', 'area', 'Strip', {
        azimuth: 0.5,
        elevation: 0.9,
        strength: 60,
        kelvin: 3400,
        width: 1.8,
        height: 0.16,
        distance: 1.8,
      }),
    ],
    grade: newGrade({ exposure: -0.2 }),
  });
  return project('Cabin keys', {
    blocks: [word, line],
    finishes: [...['cabin-steel', 'hull-chrome', 'night-enamel'].map(readyFinish), brass, board],
    pieces: [
      newPiece('wall', { id: 'board', at: -0.0375, finish: 'key-board' }),
      newPiece('floor', { id: 'floor', on: false, at: 0, finish: 'key-board' }),
    ],
    looks: [brushed, brassy],
    shots: shotsOf({}, [
      newMove('swing', 'looks/brushed-steel/rig/keys-key/azimuth', {
        id: 'key-swing',
        speed: 1 / 6,
        amount: 1.1,
      }),
      newMove('swing', 'looks/purser-brass/rig/brass-strip/azimuth', {
        id: 'strip-swing',
        speed: 1 / 6,
        amount: 0.9,
      }),
    ]),
  });
}

/** The deck sign in glass. */
function deckFive(): Project {
  const type = { capHeight: 0.4, depth: 0.16 };
  const word = block('sign', 'DECK', shippedRef('archivo-black'), {
    ...type,
    tracking: 40,
    front: newBevel({ width: 0.014, height: 0.014, profile: 'round', segments: 6 }),
    back: newBevel({ width: 0.014, height: 0.014, profile: 'round', segments: 6 }),
    place: { position: [-0.21, 0, 0], turn: 0, tilt: 0, roll: 0 },
  });
  // a pane from outside, mirrors from within, and a strip of points between them: a letter without an end
  const endless = block('deep', '5', shippedRef('archivo-black'), {
    ...type,
    front: newBevel({ width: 0, height: 0 }),
    back: newBevel({ width: 0, height: 0 }),
    strip: newStrip({
      on: true,
      inset: 0.014,
      at: 0.7,
      width: 0.012,
      spacing: 0.042,
      size: 0.0075,
      luminance: 55,
      colours: [
        [1, 0.5, 0.16],
        [1, 0.5, 0.16],
        [0.25, 0.75, 1],
      ],
    }),
    place: { position: [0.954, 0.2035, 0], turn: 0, tilt: 0, roll: 0 },
  });
  // each way across loses a fifth: the rows of points sink into the dark
  const silvered = finish('silvered-within', 'Half silvered', 'chrome', {
    base_metalness: 1,
    base_color: [0.8, 0.82, 0.84],
    specular_roughness: 0,
  });
  const pane = {
    ...finish('deck-pane', 'Deck pane', 'clear glass', {
      transmission_weight: 1,
      specular_roughness: 0,
      geometry_thin_walled: true,
    }),
    within: silvered.id,
  };
  const shell = finish('deck-shell', 'Deck shell', 'matte paint', {
    base_color: [0.02, 0.024, 0.03],
    specular_roughness: 0.35,
  });
  const deep = [
    { block: 'deep', finish: shell.id },
    { block: 'deep', zone: 'front' as const, finish: pane.id },
    { block: 'deep', zone: 'back' as const, finish: silvered.id },
  ];
  const pale = finish('pale-terrazzo', 'Pale terrazzo', 'matte paint', {
    base_color: [0.55, 0.54, 0.52],
    specular_roughness: 0.3,
  });
  const clear: Look = newLook('Clear', {
    id: 'clear',
    chart: [{ finish: 'deck-glass' }, ...deep],
    surround: painted('dry-dock', 'Dry dock', { stops: -0.4, seen: true }),
    rig: [
      light('deck-key', 'area', 'Key', {
        azimuth: 0.8,
        elevation: 0.9,
        strength: 22,
        kelvin: 5200,
        width: 0.8,
        height: 0.8,
        distance: 2.4,
      }),
    ],
    grade: newGrade({ exposure: -0.9 }),
  });
  const frosted: Look = newLook('Frosted', {
    id: 'frosted',
    chart: [{ finish: 'sea-frost' }, ...deep],
    surround: painted('snow-pier', 'Snow pier', { stops: -0.8, turn: 0.6 }),
    rig: [
      light('deck-back', 'area', 'Back light', {
        azimuth: 2.8,
        elevation: 0.6,
        strength: 30,
        kelvin: 4300,
        width: 1.4,
        height: 0.7,
        distance: 2.4,
      }),
    ],
    grade: newGrade({ exposure: -0.8 }),
  });
  return project('Deck 5', {
    blocks: [word, endless],
    finishes: [...['deck-glass', 'sea-frost'].map(readyFinish), pale, pane, shell, silvered],
    pieces: [newPiece('floor', { id: 'floor', at: 0, finish: 'pale-terrazzo' })],
    looks: [clear, frosted],
    shots: shotsOf({}, [
      newMove('swing', CAMERA_AROUND, { id: 'sign-swing', speed: 1 / 6, amount: 0.4 }),
      newMove('breathe', 'looks/frosted/rig/deck-back/strength', {
        id: 'back-breathes',
        speed: 1 / 3,
        amount: 2,
      }),
    ]),
  });
}

/** The saloon's sign on the deck: one picture wrapped over everything, or woven over all of it. */
function saloon(): Project {
  const sign = block('saloon', 'SALOON', shippedRef('abril-fatface'), {
    capHeight: 0.22,
    depth: 0.07,
    front: newBevel({ profile: 'round', width: 0.009, height: 0.009, segments: 6 }),
  });
  const lowSun = (id: string, changes: Partial<Light> = {}) =>
    light(id, 'area', 'Low sun', {
      azimuth: -0.9,
      elevation: 0.75,
      strength: 60,
      kelvin: 4600,
      width: 0.7,
      height: 0.7,
      distance: 2.6,
      ...changes,
    });
  const wrapped: Look = newLook('Weathered', {
    id: 'weathered',
    chart: [{ finish: 'weathered-hull' }],
    surround: painted('dry-dock', 'Dry dock', { stops: -0.6 }),
    rig: [lowSun('saloon-sun')],
    grade: newGrade({ exposure: -0.7 }),
  });
  const woven: Look = newLook('Canvas', {
    id: 'canvas',
    chart: [{ finish: 'awning-canvas' }, { zone: 'side', finish: 'night-enamel' }],
    surround: painted('lamp-studio', 'Lamp studio', { stops: -0.4 }),
    rig: [lowSun('canvas-sun', { azimuth: 0.8, strength: 40 })],
    grade: newGrade({ exposure: -0.5 }),
  });
  return project('Saloon', {
    blocks: [sign],
    finishes: ['weathered-hull', 'awning-canvas', 'night-enamel', 'deck-boards', 'cut-crystal'].map(
      readyFinish,
    ),
    pieces: [newPiece('floor', { id: 'floor', at: 0, finish: 'deck-boards' })],
    looks: [wrapped, woven],
    shots: shotsOf({}, [
      newMove('swing', 'looks/weathered/rig/saloon-sun/azimuth', {
        id: 'sun-swing',
        speed: 1 / 6,
        amount: 0.9,
      }),
      newMove('swing', 'looks/canvas/rig/canvas-sun/azimuth', {
        id: 'canvas-swing',
        speed: 1 / 6,
        amount: 0.9,
      }),
    ]),
  });
}

/** Turns the camera a little aside and up, fitted to the type. */
const VIEWS: Record<string, [number, number]> = {
  ostrel: [-0.24, 0.02],
  'tide-bar': [0.25, 0.02],
  'deck-5': [0.3, 0.14],
  'cabin-keys': [-0.22, 0.06],
  saloon: [0.32, 0.16],
};

/** All demo projects by id, standing on their floors and framed. */
export async function demoProjects(maker: SceneMaker): Promise<Record<string, Project>> {
  const projects: Record<string, Project> = {
    ostrel: ostrel(),
    'tide-bar': tideBar(),
    'deck-5': deckFive(),
    'cabin-keys': cabinKeys(),
    saloon: saloon(),
  };
  for (const [id, p] of Object.entries(projects)) {
    const { solids } = await maker.make(p, p.looks[0].id, p.shots[0].id, LONG_SIDE);
    p.blocks[0].place.position[1] = standingHeight(solids[0].bounds!, 0);
    const { scene } = await maker.make(p, p.looks[0].id, p.shots[0].id, LONG_SIDE);
    const [azimuth, elevation] = VIEWS[id];
    const shot = p.shots[0];
    shot.camera = { ...shot.camera, azimuth, elevation };
    const camera = fitted(shot, scene.typeBox, id === 'tide-bar' ? 1.3 : 1.1);
    for (const each of p.shots) each.camera = { ...camera };
  }
  return projects;
}
