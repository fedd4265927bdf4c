// The kernel's memory, described once. `compile.mjs` writes it for AssemblyScript and for TypeScript.
//
//   0        FLOOR                 arena: blocks as they are asked for
//   |kernel's |  one lane a thread  |  solids, surrounds, scenes, finishes, lights, ...      |
//   |constants|                     |                                                        |
//
//   node      0        16       32       48       64       80       96            112      128
//             | min x4 | max x4 | min y4 | max y4 | min z4 | max z4 | 4 children  | (free) |   four boxes
//   pack      0            48           96           144        160
//             | x4 y4 z4   | x4 y4 z4   | x4 y4 z4   | 4 numbers |                            four triangles
//               first corners, second, third
//   A child reference is a node's number, or the complement of (first pack << LEAF_SHIFT | packs). In the tree over
//   instances a leaf is the complement of (instance << LEAF_SHIFT | 1).
//
//   triangle  0             36          72           108     112
//             | 3 corners   | 3 normals | 3 tangents | run   |        what a hit is shaded from, in the solid's frame
//   instance  0            64           128    132    136      140     144     148      152     160
//             | to world   | to solid   | nodes| packs| triang.| part  | flags | emitter| (free)|
//               four columns of four      addresses              first
//   part      0        4       8         12      16      20       32
//             | finish | flags | emitter | group | links | (free) |
//   finish    see FINISH: quads of floats, then ROWS of four each for the metal, the interface, its film, the fuzz, what is brushed and what comes back
//   picture   see PICTURE: what its bytes stand for, where its levels are, then their pixels of four bytes or halves
//   recipe    see RECIPE, COAT and AXIS: what a finish's coats and feeds come to (finish/recipe.ts)
//   light     0        48       64      112     128     144      160     176     192       208
//   node      | middle | radius²| axis  | cos   | sin of | cos of | power | child | parent  |     x y z or one, x4
//             | x4 y4 z4        | x y z | spread         | reach  |       |       | (<<2|k) |
//   A light child is a node's number, or the complement of an emitter's; without power it is missing.
//   emitter   see EMITTER
//   surround  see SURROUND
//   photons   sources | landed, a place for each sent | sorted by cell | first of each cell (CELLS + 1)
//   shares    of a wave, a lane: for each group WAVE times r g b
//   lane      stacks | film of a wave | fields of a wave (see PATH) | lists | eye block

const quad = 16;
const node = { bounds: 6 * quad, children: quad, free: quad };
const pack = { corners: 9 * quad, ids: quad };
const wave = 256;
const rows = 32;

/** Numbers of a finish, four a line: the kernel reads them a line at a time. */
const FINISH = `
  metal glass opaque coat
  baseR baseG baseB diffuseRoughness
  specularR specularG specularB ior
  coatR coatG coatB coatIor
  alphaX alphaY coatAlphaX sheet
  emissionR emissionG emissionB lostOut
  tintR tintG tintB lostIn
  absorptionR absorptionG absorptionB throughOut
  residualR residualG residualB throughIn
  albedoR albedoG albedoB glossMean
  turnCos turnSin sheetAlpha sharp
  chooseDiffuse chooseSpecular chooseAlpha2 lit
  recipe within cast dispersion
  fuzzR fuzzG fuzzB fuzz
  scatterR scatterG scatterB phase
  depthR depthG depthB depthPhase
  againR againG againB subsurface
  film priority coatAlphaY brush
  wide wideX wideY turns`;

/** Words of a recipe: its coats follow, the top one first. Offsets are counted from the recipe's beginning. */
const RECIPE = `
  coats axes free0 free1`;

/** Words of a coat: its cover, or the course of it; its relief's course; its family of surfaces, and its grid's axes. */
const COAT = `
  coverAxis cover coverCount coverAt
  reliefAxis reliefCount reliefAt first
  dims free0 free1 free2`;
/** Most axes of a coat's grid; each has words: axis, places, where they stand. */
const dims = 8;

/** Words of an axis (finish/recipe.ts); lengths as one over metres. */
const AXIS = `
  source over late octaves
  perScale stretch turnCos turnSin
  contrast seed from per
  breakup perBreak free0 free1
  picture channel lay edges
  zoom shiftX shiftY perPeak
  tile free2 free3 free4`;

/** Words of a picture before what its bytes stand for, and where its levels are. */
const PICTURE = `
  width height levels deep`;
/** Sides of pictures are below two to this. */
const levels = 16;

/** Words of an instance's site: from the world to its block in metres (`perMetre` of them to a metre of the world), boxes of letter, word and block, its coordinates. */
const SITE = `
  xx xy xz xw
  yx yy yz yw
  zx zy zz zw
  letterX letterY letterZ unit
  letterPerX letterPerY letterPerZ uv
  blockX blockY blockZ placement
  blockPerX blockPerY blockPerZ kind
  wordX wordY wordZ perMetre
  wordPerX wordPerY wordPerZ free2
  wrapX wrapY wrapWidth wrapHeight
  wordWrapX wordWrapY wordWrapWidth wordWrapHeight
  blockWrapX blockWrapY blockWrapWidth blockWrapHeight`;

/** Words of an emitter. */
const EMITTER = `
  kind flags parent group
  x y z area
  rightX rightY rightZ cosInner
  upX upY upZ cosOuter
  forwardX forwardY forwardZ range
  red green blue luminance
  cdf count first instance
  feeds links fall reference
  pattern patternScale patternLevel profile
  radius spare0 spare1 spare2`;

/** Words of the surround: pictures seen by light, by the camera and by mirrors; from the world into them; its map. */
const SURROUND = `
  picture width height unit
  behind behindWidth behindHeight behindUnit
  mirrored mirroredWidth mirroredHeight mirroredUnit
  xx xy xz red
  yx yy yz green
  zx zy zz blue
  map columns rows weight
  group seen feeds grounded
  groundX groundY groundZ eyeHeight`;

/** Fields of a path, a word for each path of a wave. */
const PATH = `
  pixel depth passes medium mediumOf under0 under0Of under1 under1Of under2 under2Of
  ox oy oz dx dy dz near from
  travelled
  t b1 b2 triangle instance
  x y z gx gy gz nx ny nz ux uy uz lift
  part finish inside behind
  tr tg tb red green blue alpha pdf
  vx vy vz vnx vny vnz vrx vry vrz vdiffuse vspecular valpha2 vsum vthrough
  sx sy sz sdx sdy sdz sreach sfrom snear sred sgreen sblue sgroup
  kinds beyond caster kept now hue
  diffuseR diffuseG diffuseB sdiffuseR sdiffuseG sdiffuseB links
  albedoR albedoG albedoB normalX normalY normalZ distance count lost caught`;

/** Words of a photon: where it landed, the light it brought, the way it came, the share group of its light. */
const PHOTON = `
  x y z group
  red green blue free
  dx dy dz ends`;

/** Words of a source of photons: an emitter or the surround, how it sends them, its chance and the sum up to it. */
const SOURCE = `
  emitter way chance upTo`;

const words = (text) => text.trim().split(/\s+/);
const upper = (name) => name.replace(/[A-Z]/g, (c) => `_${c}`).toUpperCase();

const stacks = 24576;
const finishHead = words(FINISH).length * 4;
/** Four paths more than a wave: one to spare for a hit by the way, and fields do not fall on the same lines of the cache. */
const stride = wave + 4;
const fields = words(PATH).length * stride * 4;
const lists = 4 * wave * 4;
const buckets = 512;
/** Lights that a path may seek at once. */
const seeks = 4;
/** Sixteen vectors, and of each light that is sought which it is and its chance. */
const scratch = 256 + seeks * 32;
/** Records of four children that a node of the light tree has at most. */
const lightRecords = 64;
const weights = 2 * lightRecords * 16;
const scratchAt = Math.ceil((stacks + 512 * 64 + fields + lists + 2 * buckets * 4) / 16) * 16;
/** Photons a path may take in at once; where more are near, every so manieth. */
const near = 64;

/** name: [value, type in AssemblyScript, what it is] */
export const LAYOUT = {
  NODE_BYTES: [node.bounds + node.children + node.free, 'usize', 'Bytes of a node.'],
  NODE_CHILDREN: [node.bounds, 'usize', 'Where a node has its child references.'],
  PACK_BYTES: [pack.corners + pack.ids, 'usize', 'Bytes of a pack of four triangles.'],
  PACK_CORNER: [pack.corners / 3, 'usize', 'From one corner of a pack to the next.'],
  PACK_IDS: [pack.corners, 'usize', 'Where a pack has its triangle numbers.'],
  LEAF_SHIFT: [3, 'i32', 'A leaf reference is the complement of (first pack << this | packs).'],
  TRIANGLE_BYTES: [112, 'usize', 'Bytes of a triangle as it is shaded: corners, normals, tangents, run.'],
  TRIANGLE_NORMALS: [36, 'usize', 'Where a triangle has its normals.'],
  TRIANGLE_TANGENTS: [72, 'usize', 'Where a triangle has its tangents.'],
  TRIANGLE_RUN: [108, 'usize', 'Where a triangle has the number of its run of triangles.'],
  INSTANCE_BYTES: [160, 'usize', 'Bytes of an instance.'],
  INSTANCE_TO_SOLID: [64, 'usize', 'Where an instance has its way from the world into the solid.'],
  INSTANCE_NODES: [
    128,
    'usize',
    'Where an instance has the address of its nodes; packs and triangles follow.',
  ],
  INSTANCE_PACKS: [132, 'usize', 'Where an instance has the address of its packs.'],
  INSTANCE_TRIANGLES: [136, 'usize', 'Where an instance has the address of its triangles.'],
  INSTANCE_PART: [140, 'usize', 'Where an instance has the number of its first part.'],
  INSTANCE_FLAGS: [144, 'usize', 'Where an instance has its flags.'],
  INSTANCE_EMITTER: [148, 'usize', 'Where an area light’s instance has its emitter.'],
  INSTANCE_TURN: [
    152,
    'usize',
    'Where an instance has the number of its turn and size: alike ones have the same.',
  ],
  CASTS_SHADOW: [1, 'i32', 'Flag of instances that stop shadow rays.'],
  IS_LIGHT: [2, 'i32', 'Flag of instances that are area lights.'],
  STAYS: [4, 'i32', 'Flag of instances that are there before all else: what catches shadows, and plates.'],
  PART_BYTES: [32, 'usize', 'Bytes of a part: finish, flags, emitter, group, links.'],
  PART_FLAGS: [4, 'usize', 'Where a part has its flags.'],
  PART_EMITTER: [8, 'usize', 'Where a part has its emitter, or -1.'],
  PART_HIDDEN: [1, 'i32', 'Flag of parts that primary rays pass through.'],
  PART_TWO_SIDED: [2, 'i32', 'Flag of parts that glow from both sides.'],
  PART_CASTER: [4, 'i32', 'Flag of parts that throw caustics: their light to others comes by photons.'],
  PART_CATCHES: [8, 'i32', 'Flag of parts that leave only shadow and reflection.'],
  PART_GROUP: [12, 'usize', 'Where a part has its share group.'],
  PART_LINKS: [16, 'usize', 'Where a part has a bit for each choice of things that it is among.'],
  BENEATH: [
    1 << 30,
    'i32',
    'Flag of the medium a path is in: it is what lies beneath a finish’s surface, not its glass.',
  ],
  CASTS: [1, 'i32', 'Flag of emitters that throw shadows.'],
  BY_PHOTONS: [2, 'i32', 'Flag of emitters whose caustics come by photons.'],
  FED: [4, 'i32', 'Flag of emitters that give different light in different places.'],
  CARD: [8, 'i32', 'Flag of emitters that stand in the way of what mirrors see.'],
  ROUND: [16, 'i32', 'Flag of area lights that are ellipses in their rectangles.'],
  WHITE: [32, 'i32', 'Flag of cards that show mirrors their own lit surface.'],
  SEEN: [64, 'i32', 'Flag of lights that the camera sees.'],
  FEEDS_DIFFUSE: [1, 'i32', 'Whether a light is scattered by diffuse lobes.'],
  FEEDS_MIRROR: [2, 'i32', 'Whether a light is mirrored.'],
  FEEDS_THROUGH: [4, 'i32', 'Whether a light comes through.'],
  FEEDS_ALL: [7, 'i32', 'A light that does all of it.'],
  FALL_SQUARE: [0, 'i32', 'Fades with the square of the distance, as light does.'],
  FALL_LINEAR: [1, 'i32', 'Fades with the distance; true at the reference.'],
  FALL_NONE: [2, 'i32', 'Does not fade; true at the reference.'],
  FALL_CLAMPED: [3, 'i32', 'Fades with the square of the distance, but no brighter than at the reference.'],
  MOST_SOUGHT: [seeks, 'i32', 'Lights that a path may seek at once.'],
  ROWS: [rows, 'i32', 'Entries of a finish’s rows over the cosine.'],
  METAL_ROWS: [
    finishHead,
    'usize',
    'Where a finish has its metal’s reflectance: red, green, blue, and a sheet’s spread.',
  ],
  LAYER_ROWS: [
    finishHead + rows * quad,
    'usize',
    'Where a finish has: gloss, coat, lost outside, lost inside.',
  ],
  FILM_ROWS: [
    finishHead + 2 * rows * quad,
    'usize',
    'Where a finish has its interface’s reflectance under a film: red, green, blue, and their mean.',
  ],
  FUZZ_ROWS: [
    finishHead + 3 * rows * quad,
    'usize',
    'Where a finish has its fuzz’s reflectance, and the two numbers of its lobe.',
  ],
  FILM_GLOSS_ROWS: [
    finishHead + 4 * rows * quad,
    'usize',
    'Where a finish has what of its gloss each channel is under a film, over their mean.',
  ],
  BRUSHED_ROWS: [
    finishHead + 5 * rows * quad,
    'usize',
    'Where a finish has what its widened lobe returns, seen along its brushing and across, and what it loses more there than on the whole.',
  ],
  AGAIN_ROWS: [
    finishHead + 6 * rows * quad,
    'usize',
    'Where a finish has the colour of light that its metal loses and gives back, red, green, blue, and how it goes from along its brushing to across.',
  ],
  FINISH_BYTES: [finishHead + 7 * rows * quad, 'usize', 'Bytes of a finish.'],
  LIGHT_NODE_BYTES: [15 * quad, 'usize', 'Bytes of four children of a node of the light tree.'],
  LIGHT_CHILDREN: [4 * lightRecords, 'i32', 'Most children of a node of the light tree.'],
  LIGHT_NODE_RECORDS: [lightRecords, 'usize', 'Most records of four children of a node of the light tree.'],
  SURROUND_BYTES: [words(SURROUND).length * 4, 'usize', 'Bytes of the surround.'],
  EMITTER_BYTES: [words(EMITTER).length * 4, 'usize', 'Bytes of an emitter.'],
  WAVE: [wave, 'i32', 'Paths of a wave.'],
  WAVE_SIDE: [16, 'i32', 'Pixels of a wave’s tile each way.'],
  FILM_WORDS: [
    14,
    'i32',
    'Words a path leaves: r g b alpha, albedo, normal, distance and count, light past its limits, whether it was caught.',
  ],
  WHOLE: [0, 'i32', 'What a wave sees: all there is.'],
  ALONE: [1, 'i32', 'Only what stays, and the lights.'],
  PAST: [2, 'i32', 'All there is, but the camera sees past what catches shadows.'],
  PHOTON_BYTES: [words(PHOTON).length * 4, 'usize', 'Bytes of a photon.'],
  SOURCE_BYTES: [words(SOURCE).length * 4, 'usize', 'Bytes of a source of photons.'],
  CELLS: [1 << 18, 'i32', 'Cells that landed photons are sorted into; places further apart share them.'],
  TO_BOX: [0, 'i32', 'Ways photons are sent: from a point of the emitter towards the casters’ box.'],
  ALONG: [1, 'i32', 'From far away along the emitter’s or the surround’s direction.'],
  FLOOR: [4096, 'usize', 'The kernel keeps its own constants below this address.'],
  LANE_TOP_STACK: [
    16384,
    'usize',
    'Where a lane has the stack of the tree over instances; the solids’ comes first.',
  ],
  LANE_RAYS: [
    stacks,
    'usize',
    'Where a lane has the rays and hits of a batch, and what a wave leaves for the film.',
  ],
  BATCH_RAYS: [512, 'i32', 'Rays a batch may hold.'],
  RAY_BYTES: [32, 'usize', 'Bytes of a ray: origin, tmin, direction, tmax.'],
  HIT_BYTES: [32, 'usize', 'Bytes of a hit: t, b1, b2, triangle, instance.'],
  LANE_HITS: [stacks + 512 * 32, 'usize', 'Where a lane has the hits of a batch.'],
  LANE_WAVE: [stacks + 512 * 64, 'usize', 'Where a lane has the fields of its wave.'],
  LANE_LISTS: [stacks + 512 * 64 + fields, 'usize', 'Where a lane has its lists of paths.'],
  BUCKETS: [
    buckets,
    'i32',
    'Finishes sorted by at once; more share a place, which only makes groups smaller.',
  ],
  LANE_BUCKETS: [stacks + 512 * 64 + fields + lists, 'usize', 'Where a lane sorts its paths by finish.'],
  LANE_SCRATCH: [scratchAt, 'usize', 'Where a lane has vectors of a group while single numbers are put in.'],
  LANE_NEAR: [
    scratchAt + scratch,
    'usize',
    'Where a lane has the photons near each of a group, NEAR of them for each.',
  ],
  LANE_WEIGHTS: [
    scratchAt + scratch + near * 16,
    'usize',
    'Where a lane has the importances of the children of two nodes of the light tree.',
  ],
  NEAR: [near, 'i32', 'Photons a path may take in at once; where more are near, every so manieth.'],
  LANE_BYTES: [Math.ceil((scratchAt + scratch + near * 16 + weights) / 64) * 64, 'usize', 'Bytes of a lane.'],
  MOST_PAGES: [32768, 'i32', 'Most memory the shared module declares, in pages of 64 KiB.'],
  AREA: [0, 'i32', 'Kinds of emitters.'],
  SPOT: [1, 'i32', 'A cone of light.'],
  DIRECTIONAL: [2, 'i32', 'Light from infinitely far.'],
  GLOW: [3, 'i32', 'A part that glows.'],
  POINT: [4, 'i32', 'Shines alike all around.'],
};
const table = (prefix, text, what) =>
  words(text).forEach(
    (name, i) => (LAYOUT[`${prefix}_${upper(name)}`] = [i * 4, 'usize', `${what}: ${name}.`]),
  );
LAYOUT.COAT_DIMS = [words(COAT).length * 4, 'usize', 'Where a coat has the axes of its grid.'];
LAYOUT.MOST_DIMS = [dims, 'i32', 'Most axes of a coat’s grid.'];
LAYOUT.DIM_BYTES = [
  16,
  'usize',
  'Bytes of an axis of a grid: number, places, where they stand, whether the next shares its draw.',
];
LAYOUT.COAT_BYTES = [(words(COAT).length + 4 * dims) * 4, 'usize', 'Bytes of a coat.'];
LAYOUT.PICTURE_TABLE = [words(PICTURE).length * 4, 'usize', 'Where a picture has what its bytes stand for.'];
LAYOUT.PICTURE_LEVELS = [
  (words(PICTURE).length + 256) * 4,
  'usize',
  'Where a picture has the addresses of its levels.',
];
LAYOUT.PICTURE_BYTES = [
  (words(PICTURE).length + 256 + levels) * 4,
  'usize',
  'Bytes of a picture before its pixels.',
];
LAYOUT.RECIPE_BYTES = [words(RECIPE).length * 4, 'usize', 'Bytes of a recipe before its coats.'];
LAYOUT.AXIS_BYTES = [words(AXIS).length * 4, 'usize', 'Bytes of an axis.'];
LAYOUT.SITE_BYTES = [words(SITE).length * 4, 'usize', 'Bytes of a site.'];
table('R', RECIPE, 'Recipe');
table('C', COAT, 'Coat');
table('A', AXIS, 'Axis');
table('S', SITE, 'Site');
table('PI', PICTURE, 'Picture');
words(FINISH).forEach((name, i) => (LAYOUT[`F_${upper(name)}`] = [i * 4, 'usize', `Finish: ${name}.`]));
words(SURROUND).forEach((name, i) => (LAYOUT[`SU_${upper(name)}`] = [i * 4, 'usize', `Surround: ${name}.`]));
words(EMITTER).forEach((name, i) => (LAYOUT[`E_${upper(name)}`] = [i * 4, 'usize', `Emitter: ${name}.`]));
words(PHOTON).forEach((name, i) => (LAYOUT[`PH_${upper(name)}`] = [i * 4, 'usize', `Photon: ${name}.`]));
words(SOURCE).forEach((name, i) => (LAYOUT[`SO_${upper(name)}`] = [i * 4, 'usize', `Source: ${name}.`]));
words(PATH).forEach((name, i) => (LAYOUT[`P_${upper(name)}`] = [i * stride * 4, 'usize', `Path: ${name}.`]));

const HEAD = 'Written by core/kernel/compile.mjs from layout.mjs, where it is drawn: change it there.';

export const assemblyScript = () =>
  `// ${HEAD}\n${Object.entries(LAYOUT)
    .map(
      ([name, [value, type, what]]) =>
        `\n// ${what}\n// @ts-ignore: decorator\n@inline export const ${name}: ${type} = ${value};\n`,
    )
    .join('')}`;

export const typeScript = () =>
  `/** ${HEAD} */\n${Object.entries(LAYOUT)
    .filter(([name]) => !name.startsWith('P_'))
    .map(([name, [value, , what]]) => `\n/** ${what} */\nexport const ${name} = ${value};\n`)
    .join('')}`;
