// Written by core/kernel/compile.mjs from layout.mjs, where it is drawn: change it there.

// Bytes of a node.
// @ts-ignore: decorator
@inline export const NODE_BYTES: usize = 128;

// Where a node has its child references.
// @ts-ignore: decorator
@inline export const NODE_CHILDREN: usize = 96;

// Bytes of a pack of four triangles.
// @ts-ignore: decorator
@inline export const PACK_BYTES: usize = 160;

// From one corner of a pack to the next.
// @ts-ignore: decorator
@inline export const PACK_CORNER: usize = 48;

// Where a pack has its triangle numbers.
// @ts-ignore: decorator
@inline export const PACK_IDS: usize = 144;

// A leaf reference is the complement of (first pack << this | packs).
// @ts-ignore: decorator
@inline export const LEAF_SHIFT: i32 = 3;

// Bytes of a triangle as it is shaded: corners, normals, tangents, run.
// @ts-ignore: decorator
@inline export const TRIANGLE_BYTES: usize = 112;

// Where a triangle has its normals.
// @ts-ignore: decorator
@inline export const TRIANGLE_NORMALS: usize = 36;

// Where a triangle has its tangents.
// @ts-ignore: decorator
@inline export const TRIANGLE_TANGENTS: usize = 72;

// Where a triangle has the number of its run of triangles.
// @ts-ignore: decorator
@inline export const TRIANGLE_RUN: usize = 108;

// Bytes of an instance.
// @ts-ignore: decorator
@inline export const INSTANCE_BYTES: usize = 160;

// Where an instance has its way from the world into the solid.
// @ts-ignore: decorator
@inline export const INSTANCE_TO_SOLID: usize = 64;

// Where an instance has the address of its nodes; packs and triangles follow.
// @ts-ignore: decorator
@inline export const INSTANCE_NODES: usize = 128;

// Where an instance has the address of its packs.
// @ts-ignore: decorator
@inline export const INSTANCE_PACKS: usize = 132;

// Where an instance has the address of its triangles.
// @ts-ignore: decorator
@inline export const INSTANCE_TRIANGLES: usize = 136;

// Where an instance has the number of its first part.
// @ts-ignore: decorator
@inline export const INSTANCE_PART: usize = 140;

// Where an instance has its flags.
// @ts-ignore: decorator
@inline export const INSTANCE_FLAGS: usize = 144;

// Where an area light’s instance has its emitter.
// @ts-ignore: decorator
@inline export const INSTANCE_EMITTER: usize = 148;

// Where an instance has the number of its turn and size: alike ones have the same.
// @ts-ignore: decorator
@inline export const INSTANCE_TURN: usize = 152;

// Flag of instances that stop shadow rays.
// @ts-ignore: decorator
@inline export const CASTS_SHADOW: i32 = 1;

// Flag of instances that are area lights.
// @ts-ignore: decorator
@inline export const IS_LIGHT: i32 = 2;

// Flag of instances that are there before all else: what catches shadows, and plates.
// @ts-ignore: decorator
@inline export const STAYS: i32 = 4;

// Bytes of a part: finish, flags, emitter, group, links.
// @ts-ignore: decorator
@inline export const PART_BYTES: usize = 32;

// Where a part has its flags.
// @ts-ignore: decorator
@inline export const PART_FLAGS: usize = 4;

// Where a part has its emitter, or -1.
// @ts-ignore: decorator
@inline export const PART_EMITTER: usize = 8;

// Flag of parts that primary rays pass through.
// @ts-ignore: decorator
@inline export const PART_HIDDEN: i32 = 1;

// Flag of parts that glow from both sides.
// @ts-ignore: decorator
@inline export const PART_TWO_SIDED: i32 = 2;

// Flag of parts that throw caustics: their light to others comes by photons.
// @ts-ignore: decorator
@inline export const PART_CASTER: i32 = 4;

// Flag of parts that leave only shadow and reflection.
// @ts-ignore: decorator
@inline export const PART_CATCHES: i32 = 8;

// Where a part has its share group.
// @ts-ignore: decorator
@inline export const PART_GROUP: usize = 12;

// Where a part has a bit for each choice of things that it is among.
// @ts-ignore: decorator
@inline export const PART_LINKS: usize = 16;

// Flag of the medium a path is in: it is what lies beneath a finish’s surface, not its glass.
// @ts-ignore: decorator
@inline export const BENEATH: i32 = 1073741824;

// Flag of emitters that throw shadows.
// @ts-ignore: decorator
@inline export const CASTS: i32 = 1;

// Flag of emitters whose caustics come by photons.
// @ts-ignore: decorator
@inline export const BY_PHOTONS: i32 = 2;

// Flag of emitters that give different light in different places.
// @ts-ignore: decorator
@inline export const FED: i32 = 4;

// Flag of emitters that stand in the way of what mirrors see.
// @ts-ignore: decorator
@inline export const CARD: i32 = 8;

// Flag of area lights that are ellipses in their rectangles.
// @ts-ignore: decorator
@inline export const ROUND: i32 = 16;

// Flag of cards that show mirrors their own lit surface.
// @ts-ignore: decorator
@inline export const WHITE: i32 = 32;

// Flag of lights that the camera sees.
// @ts-ignore: decorator
@inline export const SEEN: i32 = 64;

// Whether a light is scattered by diffuse lobes.
// @ts-ignore: decorator
@inline export const FEEDS_DIFFUSE: i32 = 1;

// Whether a light is mirrored.
// @ts-ignore: decorator
@inline export const FEEDS_MIRROR: i32 = 2;

// Whether a light comes through.
// @ts-ignore: decorator
@inline export const FEEDS_THROUGH: i32 = 4;

// A light that does all of it.
// @ts-ignore: decorator
@inline export const FEEDS_ALL: i32 = 7;

// Fades with the square of the distance, as light does.
// @ts-ignore: decorator
@inline export const FALL_SQUARE: i32 = 0;

// Fades with the distance; true at the reference.
// @ts-ignore: decorator
@inline export const FALL_LINEAR: i32 = 1;

// Does not fade; true at the reference.
// @ts-ignore: decorator
@inline export const FALL_NONE: i32 = 2;

// Fades with the square of the distance, but no brighter than at the reference.
// @ts-ignore: decorator
@inline export const FALL_CLAMPED: i32 = 3;

// Lights that a path may seek at once.
// @ts-ignore: decorator
@inline export const MOST_SOUGHT: i32 = 4;

// Entries of a finish’s rows over the cosine.
// @ts-ignore: decorator
@inline export const ROWS: i32 = 32;

// Where a finish has its metal’s reflectance: red, green, blue, and a sheet’s spread.
// @ts-ignore: decorator
@inline export const METAL_ROWS: usize = 304;

// Where a finish has: gloss, coat, lost outside, lost inside.
// @ts-ignore: decorator
@inline export const LAYER_ROWS: usize = 816;

// Where a finish has its interface’s reflectance under a film: red, green, blue, and their mean.
// @ts-ignore: decorator
@inline export const FILM_ROWS: usize = 1328;

// Where a finish has its fuzz’s reflectance, and the two numbers of its lobe.
// @ts-ignore: decorator
@inline export const FUZZ_ROWS: usize = 1840;

// Where a finish has what of its gloss each channel is under a film, over their mean.
// @ts-ignore: decorator
@inline export const FILM_GLOSS_ROWS: usize = 2352;

// Where a finish has what its widened lobe returns, seen along its brushing and across, and what it loses more there than on the whole.
// @ts-ignore: decorator
@inline export const BRUSHED_ROWS: usize = 2864;

// Where a finish has the colour of light that its metal loses and gives back, red, green, blue, and how it goes from along its brushing to across.
// @ts-ignore: decorator
@inline export const AGAIN_ROWS: usize = 3376;

// Bytes of a finish.
// @ts-ignore: decorator
@inline export const FINISH_BYTES: usize = 3888;

// Bytes of four children of a node of the light tree.
// @ts-ignore: decorator
@inline export const LIGHT_NODE_BYTES: usize = 240;

// Most children of a node of the light tree.
// @ts-ignore: decorator
@inline export const LIGHT_CHILDREN: i32 = 256;

// Most records of four children of a node of the light tree.
// @ts-ignore: decorator
@inline export const LIGHT_NODE_RECORDS: usize = 64;

// Bytes of the surround.
// @ts-ignore: decorator
@inline export const SURROUND_BYTES: usize = 144;

// Bytes of an emitter.
// @ts-ignore: decorator
@inline export const EMITTER_BYTES: usize = 160;

// Paths of a wave.
// @ts-ignore: decorator
@inline export const WAVE: i32 = 256;

// Pixels of a wave’s tile each way.
// @ts-ignore: decorator
@inline export const WAVE_SIDE: i32 = 16;

// Words a path leaves: r g b alpha, albedo, normal, distance and count, light past its limits, whether it was caught.
// @ts-ignore: decorator
@inline export const FILM_WORDS: i32 = 14;

// What a wave sees: all there is.
// @ts-ignore: decorator
@inline export const WHOLE: i32 = 0;

// Only what stays, and the lights.
// @ts-ignore: decorator
@inline export const ALONE: i32 = 1;

// All there is, but the camera sees past what catches shadows.
// @ts-ignore: decorator
@inline export const PAST: i32 = 2;

// Bytes of a photon.
// @ts-ignore: decorator
@inline export const PHOTON_BYTES: usize = 48;

// Bytes of a source of photons.
// @ts-ignore: decorator
@inline export const SOURCE_BYTES: usize = 16;

// Cells that landed photons are sorted into; places further apart share them.
// @ts-ignore: decorator
@inline export const CELLS: i32 = 262144;

// Ways photons are sent: from a point of the emitter towards the casters’ box.
// @ts-ignore: decorator
@inline export const TO_BOX: i32 = 0;

// From far away along the emitter’s or the surround’s direction.
// @ts-ignore: decorator
@inline export const ALONG: i32 = 1;

// The kernel keeps its own constants below this address.
// @ts-ignore: decorator
@inline export const FLOOR: usize = 4096;

// Where a lane has the stack of the tree over instances; the solids’ comes first.
// @ts-ignore: decorator
@inline export const LANE_TOP_STACK: usize = 16384;

// Where a lane has the rays and hits of a batch, and what a wave leaves for the film.
// @ts-ignore: decorator
@inline export const LANE_RAYS: usize = 24576;

// Rays a batch may hold.
// @ts-ignore: decorator
@inline export const BATCH_RAYS: i32 = 512;

// Bytes of a ray: origin, tmin, direction, tmax.
// @ts-ignore: decorator
@inline export const RAY_BYTES: usize = 32;

// Bytes of a hit: t, b1, b2, triangle, instance.
// @ts-ignore: decorator
@inline export const HIT_BYTES: usize = 32;

// Where a lane has the hits of a batch.
// @ts-ignore: decorator
@inline export const LANE_HITS: usize = 40960;

// Where a lane has the fields of its wave.
// @ts-ignore: decorator
@inline export const LANE_WAVE: usize = 57344;

// Where a lane has its lists of paths.
// @ts-ignore: decorator
@inline export const LANE_LISTS: usize = 161344;

// Finishes sorted by at once; more share a place, which only makes groups smaller.
// @ts-ignore: decorator
@inline export const BUCKETS: i32 = 512;

// Where a lane sorts its paths by finish.
// @ts-ignore: decorator
@inline export const LANE_BUCKETS: usize = 165440;

// Where a lane has vectors of a group while single numbers are put in.
// @ts-ignore: decorator
@inline export const LANE_SCRATCH: usize = 169536;

// Where a lane has the photons near each of a group, NEAR of them for each.
// @ts-ignore: decorator
@inline export const LANE_NEAR: usize = 169920;

// Where a lane has the importances of the children of two nodes of the light tree.
// @ts-ignore: decorator
@inline export const LANE_WEIGHTS: usize = 170944;

// Photons a path may take in at once; where more are near, every so manieth.
// @ts-ignore: decorator
@inline export const NEAR: i32 = 64;

// Bytes of a lane.
// @ts-ignore: decorator
@inline export const LANE_BYTES: usize = 172992;

// Most memory the shared module declares, in pages of 64 KiB.
// @ts-ignore: decorator
@inline export const MOST_PAGES: i32 = 32768;

// Kinds of emitters.
// @ts-ignore: decorator
@inline export const AREA: i32 = 0;

// A cone of light.
// @ts-ignore: decorator
@inline export const SPOT: i32 = 1;

// Light from infinitely far.
// @ts-ignore: decorator
@inline export const DIRECTIONAL: i32 = 2;

// A part that glows.
// @ts-ignore: decorator
@inline export const GLOW: i32 = 3;

// Shines alike all around.
// @ts-ignore: decorator
@inline export const POINT: i32 = 4;

// Where a coat has the axes of its grid.
// @ts-ignore: decorator
@inline export const COAT_DIMS: usize = 48;

// Most axes of a coat’s grid.
// @ts-ignore: decorator
@inline export const MOST_DIMS: i32 = 8;

// Bytes of an axis of a grid: number, places, where they stand, whether the next shares its draw.
// @ts-ignore: decorator
@inline export const DIM_BYTES: usize = 16;

// Bytes of a coat.
// @ts-ignore: decorator
@inline export const COAT_BYTES: usize = 176;

// Where a picture has what its bytes stand for.
// @ts-ignore: decorator
@inline export const PICTURE_TABLE: usize = 16;

// Where a picture has the addresses of its levels.
// @ts-ignore: decorator
@inline export const PICTURE_LEVELS: usize = 1040;

// Bytes of a picture before its pixels.
// @ts-ignore: decorator
@inline export const PICTURE_BYTES: usize = 1104;

// Bytes of a recipe before its coats.
// @ts-ignore: decorator
@inline export const RECIPE_BYTES: usize = 16;

// Bytes of an axis.
// @ts-ignore: decorator
@inline export const AXIS_BYTES: usize = 112;

// Bytes of a site.
// @ts-ignore: decorator
@inline export const SITE_BYTES: usize = 192;

// Recipe: coats.
// @ts-ignore: decorator
@inline export const R_COATS: usize = 0;

// Recipe: axes.
// @ts-ignore: decorator
@inline export const R_AXES: usize = 4;

// Recipe: free0.
// @ts-ignore: decorator
@inline export const R_FREE0: usize = 8;

// Recipe: free1.
// @ts-ignore: decorator
@inline export const R_FREE1: usize = 12;

// Coat: coverAxis.
// @ts-ignore: decorator
@inline export const C_COVER_AXIS: usize = 0;

// Coat: cover.
// @ts-ignore: decorator
@inline export const C_COVER: usize = 4;

// Coat: coverCount.
// @ts-ignore: decorator
@inline export const C_COVER_COUNT: usize = 8;

// Coat: coverAt.
// @ts-ignore: decorator
@inline export const C_COVER_AT: usize = 12;

// Coat: reliefAxis.
// @ts-ignore: decorator
@inline export const C_RELIEF_AXIS: usize = 16;

// Coat: reliefCount.
// @ts-ignore: decorator
@inline export const C_RELIEF_COUNT: usize = 20;

// Coat: reliefAt.
// @ts-ignore: decorator
@inline export const C_RELIEF_AT: usize = 24;

// Coat: first.
// @ts-ignore: decorator
@inline export const C_FIRST: usize = 28;

// Coat: dims.
// @ts-ignore: decorator
@inline export const C_DIMS: usize = 32;

// Coat: free0.
// @ts-ignore: decorator
@inline export const C_FREE0: usize = 36;

// Coat: free1.
// @ts-ignore: decorator
@inline export const C_FREE1: usize = 40;

// Coat: free2.
// @ts-ignore: decorator
@inline export const C_FREE2: usize = 44;

// Axis: source.
// @ts-ignore: decorator
@inline export const A_SOURCE: usize = 0;

// Axis: over.
// @ts-ignore: decorator
@inline export const A_OVER: usize = 4;

// Axis: late.
// @ts-ignore: decorator
@inline export const A_LATE: usize = 8;

// Axis: octaves.
// @ts-ignore: decorator
@inline export const A_OCTAVES: usize = 12;

// Axis: perScale.
// @ts-ignore: decorator
@inline export const A_PER_SCALE: usize = 16;

// Axis: stretch.
// @ts-ignore: decorator
@inline export const A_STRETCH: usize = 20;

// Axis: turnCos.
// @ts-ignore: decorator
@inline export const A_TURN_COS: usize = 24;

// Axis: turnSin.
// @ts-ignore: decorator
@inline export const A_TURN_SIN: usize = 28;

// Axis: contrast.
// @ts-ignore: decorator
@inline export const A_CONTRAST: usize = 32;

// Axis: seed.
// @ts-ignore: decorator
@inline export const A_SEED: usize = 36;

// Axis: from.
// @ts-ignore: decorator
@inline export const A_FROM: usize = 40;

// Axis: per.
// @ts-ignore: decorator
@inline export const A_PER: usize = 44;

// Axis: breakup.
// @ts-ignore: decorator
@inline export const A_BREAKUP: usize = 48;

// Axis: perBreak.
// @ts-ignore: decorator
@inline export const A_PER_BREAK: usize = 52;

// Axis: free0.
// @ts-ignore: decorator
@inline export const A_FREE0: usize = 56;

// Axis: free1.
// @ts-ignore: decorator
@inline export const A_FREE1: usize = 60;

// Axis: picture.
// @ts-ignore: decorator
@inline export const A_PICTURE: usize = 64;

// Axis: channel.
// @ts-ignore: decorator
@inline export const A_CHANNEL: usize = 68;

// Axis: lay.
// @ts-ignore: decorator
@inline export const A_LAY: usize = 72;

// Axis: edges.
// @ts-ignore: decorator
@inline export const A_EDGES: usize = 76;

// Axis: zoom.
// @ts-ignore: decorator
@inline export const A_ZOOM: usize = 80;

// Axis: shiftX.
// @ts-ignore: decorator
@inline export const A_SHIFT_X: usize = 84;

// Axis: shiftY.
// @ts-ignore: decorator
@inline export const A_SHIFT_Y: usize = 88;

// Axis: perPeak.
// @ts-ignore: decorator
@inline export const A_PER_PEAK: usize = 92;

// Axis: tile.
// @ts-ignore: decorator
@inline export const A_TILE: usize = 96;

// Axis: free2.
// @ts-ignore: decorator
@inline export const A_FREE2: usize = 100;

// Axis: free3.
// @ts-ignore: decorator
@inline export const A_FREE3: usize = 104;

// Axis: free4.
// @ts-ignore: decorator
@inline export const A_FREE4: usize = 108;

// Site: xx.
// @ts-ignore: decorator
@inline export const S_XX: usize = 0;

// Site: xy.
// @ts-ignore: decorator
@inline export const S_XY: usize = 4;

// Site: xz.
// @ts-ignore: decorator
@inline export const S_XZ: usize = 8;

// Site: xw.
// @ts-ignore: decorator
@inline export const S_XW: usize = 12;

// Site: yx.
// @ts-ignore: decorator
@inline export const S_YX: usize = 16;

// Site: yy.
// @ts-ignore: decorator
@inline export const S_YY: usize = 20;

// Site: yz.
// @ts-ignore: decorator
@inline export const S_YZ: usize = 24;

// Site: yw.
// @ts-ignore: decorator
@inline export const S_YW: usize = 28;

// Site: zx.
// @ts-ignore: decorator
@inline export const S_ZX: usize = 32;

// Site: zy.
// @ts-ignore: decorator
@inline export const S_ZY: usize = 36;

// Site: zz.
// @ts-ignore: decorator
@inline export const S_ZZ: usize = 40;

// Site: zw.
// @ts-ignore: decorator
@inline export const S_ZW: usize = 44;

// Site: letterX.
// @ts-ignore: decorator
@inline export const S_LETTER_X: usize = 48;

// Site: letterY.
// @ts-ignore: decorator
@inline export const S_LETTER_Y: usize = 52;

// Site: letterZ.
// @ts-ignore: decorator
@inline export const S_LETTER_Z: usize = 56;

// Site: unit.
// @ts-ignore: decorator
@inline export const S_UNIT: usize = 60;

// Site: letterPerX.
// @ts-ignore: decorator
@inline export const S_LETTER_PER_X: usize = 64;

// Site: letterPerY.
// @ts-ignore: decorator
@inline export const S_LETTER_PER_Y: usize = 68;

// Site: letterPerZ.
// @ts-ignore: decorator
@inline export const S_LETTER_PER_Z: usize = 72;

// Site: uv.
// @ts-ignore: decorator
@inline export const S_UV: usize = 76;

// Site: blockX.
// @ts-ignore: decorator
@inline export const S_BLOCK_X: usize = 80;

// Site: blockY.
// @ts-ignore: decorator
@inline export const S_BLOCK_Y: usize = 84;

// Site: blockZ.
// @ts-ignore: decorator
@inline export const S_BLOCK_Z: usize = 88;

// Site: placement.
// @ts-ignore: decorator
@inline export const S_PLACEMENT: usize = 92;

// Site: blockPerX.
// @ts-ignore: decorator
@inline export const S_BLOCK_PER_X: usize = 96;

// Site: blockPerY.
// @ts-ignore: decorator
@inline export const S_BLOCK_PER_Y: usize = 100;

// Site: blockPerZ.
// @ts-ignore: decorator
@inline export const S_BLOCK_PER_Z: usize = 104;

// Site: kind.
// @ts-ignore: decorator
@inline export const S_KIND: usize = 108;

// Site: wordX.
// @ts-ignore: decorator
@inline export const S_WORD_X: usize = 112;

// Site: wordY.
// @ts-ignore: decorator
@inline export const S_WORD_Y: usize = 116;

// Site: wordZ.
// @ts-ignore: decorator
@inline export const S_WORD_Z: usize = 120;

// Site: perMetre.
// @ts-ignore: decorator
@inline export const S_PER_METRE: usize = 124;

// Site: wordPerX.
// @ts-ignore: decorator
@inline export const S_WORD_PER_X: usize = 128;

// Site: wordPerY.
// @ts-ignore: decorator
@inline export const S_WORD_PER_Y: usize = 132;

// Site: wordPerZ.
// @ts-ignore: decorator
@inline export const S_WORD_PER_Z: usize = 136;

// Site: free2.
// @ts-ignore: decorator
@inline export const S_FREE2: usize = 140;

// Site: wrapX.
// @ts-ignore: decorator
@inline export const S_WRAP_X: usize = 144;

// Site: wrapY.
// @ts-ignore: decorator
@inline export const S_WRAP_Y: usize = 148;

// Site: wrapWidth.
// @ts-ignore: decorator
@inline export const S_WRAP_WIDTH: usize = 152;

// Site: wrapHeight.
// @ts-ignore: decorator
@inline export const S_WRAP_HEIGHT: usize = 156;

// Site: wordWrapX.
// @ts-ignore: decorator
@inline export const S_WORD_WRAP_X: usize = 160;

// Site: wordWrapY.
// @ts-ignore: decorator
@inline export const S_WORD_WRAP_Y: usize = 164;

// Site: wordWrapWidth.
// @ts-ignore: decorator
@inline export const S_WORD_WRAP_WIDTH: usize = 168;

// Site: wordWrapHeight.
// @ts-ignore: decorator
@inline export const S_WORD_WRAP_HEIGHT: usize = 172;

// Site: blockWrapX.
// @ts-ignore: decorator
@inline export const S_BLOCK_WRAP_X: usize = 176;

// Site: blockWrapY.
// @ts-ignore: decorator
@inline export const S_BLOCK_WRAP_Y: usize = 180;

// Site: blockWrapWidth.
// @ts-ignore: decorator
@inline export const S_BLOCK_WRAP_WIDTH: usize = 184;

// Site: blockWrapHeight.
// @ts-ignore: decorator
@inline export const S_BLOCK_WRAP_HEIGHT: usize = 188;

// Picture: width.
// @ts-ignore: decorator
@inline export const PI_WIDTH: usize = 0;

// Picture: height.
// @ts-ignore: decorator
@inline export const PI_HEIGHT: usize = 4;

// Picture: levels.
// @ts-ignore: decorator
@inline export const PI_LEVELS: usize = 8;

// Picture: deep.
// @ts-ignore: decorator
@inline export const PI_DEEP: usize = 12;

// Finish: metal.
// @ts-ignore: decorator
@inline export const F_METAL: usize = 0;

// Finish: glass.
// @ts-ignore: decorator
@inline export const F_GLASS: usize = 4;

// Finish: opaque.
// @ts-ignore: decorator
@inline export const F_OPAQUE: usize = 8;

// Finish: coat.
// @ts-ignore: decorator
@inline export const F_COAT: usize = 12;

// Finish: baseR.
// @ts-ignore: decorator
@inline export const F_BASE_R: usize = 16;

// Finish: baseG.
// @ts-ignore: decorator
@inline export const F_BASE_G: usize = 20;

// Finish: baseB.
// @ts-ignore: decorator
@inline export const F_BASE_B: usize = 24;

// Finish: diffuseRoughness.
// @ts-ignore: decorator
@inline export const F_DIFFUSE_ROUGHNESS: usize = 28;

// Finish: specularR.
// @ts-ignore: decorator
@inline export const F_SPECULAR_R: usize = 32;

// Finish: specularG.
// @ts-ignore: decorator
@inline export const F_SPECULAR_G: usize = 36;

// Finish: specularB.
// @ts-ignore: decorator
@inline export const F_SPECULAR_B: usize = 40;

// Finish: ior.
// @ts-ignore: decorator
@inline export const F_IOR: usize = 44;

// Finish: coatR.
// @ts-ignore: decorator
@inline export const F_COAT_R: usize = 48;

// Finish: coatG.
// @ts-ignore: decorator
@inline export const F_COAT_G: usize = 52;

// Finish: coatB.
// @ts-ignore: decorator
@inline export const F_COAT_B: usize = 56;

// Finish: coatIor.
// @ts-ignore: decorator
@inline export const F_COAT_IOR: usize = 60;

// Finish: alphaX.
// @ts-ignore: decorator
@inline export const F_ALPHA_X: usize = 64;

// Finish: alphaY.
// @ts-ignore: decorator
@inline export const F_ALPHA_Y: usize = 68;

// Finish: coatAlphaX.
// @ts-ignore: decorator
@inline export const F_COAT_ALPHA_X: usize = 72;

// Finish: sheet.
// @ts-ignore: decorator
@inline export const F_SHEET: usize = 76;

// Finish: emissionR.
// @ts-ignore: decorator
@inline export const F_EMISSION_R: usize = 80;

// Finish: emissionG.
// @ts-ignore: decorator
@inline export const F_EMISSION_G: usize = 84;

// Finish: emissionB.
// @ts-ignore: decorator
@inline export const F_EMISSION_B: usize = 88;

// Finish: lostOut.
// @ts-ignore: decorator
@inline export const F_LOST_OUT: usize = 92;

// Finish: tintR.
// @ts-ignore: decorator
@inline export const F_TINT_R: usize = 96;

// Finish: tintG.
// @ts-ignore: decorator
@inline export const F_TINT_G: usize = 100;

// Finish: tintB.
// @ts-ignore: decorator
@inline export const F_TINT_B: usize = 104;

// Finish: lostIn.
// @ts-ignore: decorator
@inline export const F_LOST_IN: usize = 108;

// Finish: absorptionR.
// @ts-ignore: decorator
@inline export const F_ABSORPTION_R: usize = 112;

// Finish: absorptionG.
// @ts-ignore: decorator
@inline export const F_ABSORPTION_G: usize = 116;

// Finish: absorptionB.
// @ts-ignore: decorator
@inline export const F_ABSORPTION_B: usize = 120;

// Finish: throughOut.
// @ts-ignore: decorator
@inline export const F_THROUGH_OUT: usize = 124;

// Finish: residualR.
// @ts-ignore: decorator
@inline export const F_RESIDUAL_R: usize = 128;

// Finish: residualG.
// @ts-ignore: decorator
@inline export const F_RESIDUAL_G: usize = 132;

// Finish: residualB.
// @ts-ignore: decorator
@inline export const F_RESIDUAL_B: usize = 136;

// Finish: throughIn.
// @ts-ignore: decorator
@inline export const F_THROUGH_IN: usize = 140;

// Finish: albedoR.
// @ts-ignore: decorator
@inline export const F_ALBEDO_R: usize = 144;

// Finish: albedoG.
// @ts-ignore: decorator
@inline export const F_ALBEDO_G: usize = 148;

// Finish: albedoB.
// @ts-ignore: decorator
@inline export const F_ALBEDO_B: usize = 152;

// Finish: glossMean.
// @ts-ignore: decorator
@inline export const F_GLOSS_MEAN: usize = 156;

// Finish: turnCos.
// @ts-ignore: decorator
@inline export const F_TURN_COS: usize = 160;

// Finish: turnSin.
// @ts-ignore: decorator
@inline export const F_TURN_SIN: usize = 164;

// Finish: sheetAlpha.
// @ts-ignore: decorator
@inline export const F_SHEET_ALPHA: usize = 168;

// Finish: sharp.
// @ts-ignore: decorator
@inline export const F_SHARP: usize = 172;

// Finish: chooseDiffuse.
// @ts-ignore: decorator
@inline export const F_CHOOSE_DIFFUSE: usize = 176;

// Finish: chooseSpecular.
// @ts-ignore: decorator
@inline export const F_CHOOSE_SPECULAR: usize = 180;

// Finish: chooseAlpha2.
// @ts-ignore: decorator
@inline export const F_CHOOSE_ALPHA2: usize = 184;

// Finish: lit.
// @ts-ignore: decorator
@inline export const F_LIT: usize = 188;

// Finish: recipe.
// @ts-ignore: decorator
@inline export const F_RECIPE: usize = 192;

// Finish: within.
// @ts-ignore: decorator
@inline export const F_WITHIN: usize = 196;

// Finish: cast.
// @ts-ignore: decorator
@inline export const F_CAST: usize = 200;

// Finish: dispersion.
// @ts-ignore: decorator
@inline export const F_DISPERSION: usize = 204;

// Finish: fuzzR.
// @ts-ignore: decorator
@inline export const F_FUZZ_R: usize = 208;

// Finish: fuzzG.
// @ts-ignore: decorator
@inline export const F_FUZZ_G: usize = 212;

// Finish: fuzzB.
// @ts-ignore: decorator
@inline export const F_FUZZ_B: usize = 216;

// Finish: fuzz.
// @ts-ignore: decorator
@inline export const F_FUZZ: usize = 220;

// Finish: scatterR.
// @ts-ignore: decorator
@inline export const F_SCATTER_R: usize = 224;

// Finish: scatterG.
// @ts-ignore: decorator
@inline export const F_SCATTER_G: usize = 228;

// Finish: scatterB.
// @ts-ignore: decorator
@inline export const F_SCATTER_B: usize = 232;

// Finish: phase.
// @ts-ignore: decorator
@inline export const F_PHASE: usize = 236;

// Finish: depthR.
// @ts-ignore: decorator
@inline export const F_DEPTH_R: usize = 240;

// Finish: depthG.
// @ts-ignore: decorator
@inline export const F_DEPTH_G: usize = 244;

// Finish: depthB.
// @ts-ignore: decorator
@inline export const F_DEPTH_B: usize = 248;

// Finish: depthPhase.
// @ts-ignore: decorator
@inline export const F_DEPTH_PHASE: usize = 252;

// Finish: againR.
// @ts-ignore: decorator
@inline export const F_AGAIN_R: usize = 256;

// Finish: againG.
// @ts-ignore: decorator
@inline export const F_AGAIN_G: usize = 260;

// Finish: againB.
// @ts-ignore: decorator
@inline export const F_AGAIN_B: usize = 264;

// Finish: subsurface.
// @ts-ignore: decorator
@inline export const F_SUBSURFACE: usize = 268;

// Finish: film.
// @ts-ignore: decorator
@inline export const F_FILM: usize = 272;

// Finish: priority.
// @ts-ignore: decorator
@inline export const F_PRIORITY: usize = 276;

// Finish: coatAlphaY.
// @ts-ignore: decorator
@inline export const F_COAT_ALPHA_Y: usize = 280;

// Finish: brush.
// @ts-ignore: decorator
@inline export const F_BRUSH: usize = 284;

// Finish: wide.
// @ts-ignore: decorator
@inline export const F_WIDE: usize = 288;

// Finish: wideX.
// @ts-ignore: decorator
@inline export const F_WIDE_X: usize = 292;

// Finish: wideY.
// @ts-ignore: decorator
@inline export const F_WIDE_Y: usize = 296;

// Finish: turns.
// @ts-ignore: decorator
@inline export const F_TURNS: usize = 300;

// Surround: picture.
// @ts-ignore: decorator
@inline export const SU_PICTURE: usize = 0;

// Surround: width.
// @ts-ignore: decorator
@inline export const SU_WIDTH: usize = 4;

// Surround: height.
// @ts-ignore: decorator
@inline export const SU_HEIGHT: usize = 8;

// Surround: unit.
// @ts-ignore: decorator
@inline export const SU_UNIT: usize = 12;

// Surround: behind.
// @ts-ignore: decorator
@inline export const SU_BEHIND: usize = 16;

// Surround: behindWidth.
// @ts-ignore: decorator
@inline export const SU_BEHIND_WIDTH: usize = 20;

// Surround: behindHeight.
// @ts-ignore: decorator
@inline export const SU_BEHIND_HEIGHT: usize = 24;

// Surround: behindUnit.
// @ts-ignore: decorator
@inline export const SU_BEHIND_UNIT: usize = 28;

// Surround: mirrored.
// @ts-ignore: decorator
@inline export const SU_MIRRORED: usize = 32;

// Surround: mirroredWidth.
// @ts-ignore: decorator
@inline export const SU_MIRRORED_WIDTH: usize = 36;

// Surround: mirroredHeight.
// @ts-ignore: decorator
@inline export const SU_MIRRORED_HEIGHT: usize = 40;

// Surround: mirroredUnit.
// @ts-ignore: decorator
@inline export const SU_MIRRORED_UNIT: usize = 44;

// Surround: xx.
// @ts-ignore: decorator
@inline export const SU_XX: usize = 48;

// Surround: xy.
// @ts-ignore: decorator
@inline export const SU_XY: usize = 52;

// Surround: xz.
// @ts-ignore: decorator
@inline export const SU_XZ: usize = 56;

// Surround: red.
// @ts-ignore: decorator
@inline export const SU_RED: usize = 60;

// Surround: yx.
// @ts-ignore: decorator
@inline export const SU_YX: usize = 64;

// Surround: yy.
// @ts-ignore: decorator
@inline export const SU_YY: usize = 68;

// Surround: yz.
// @ts-ignore: decorator
@inline export const SU_YZ: usize = 72;

// Surround: green.
// @ts-ignore: decorator
@inline export const SU_GREEN: usize = 76;

// Surround: zx.
// @ts-ignore: decorator
@inline export const SU_ZX: usize = 80;

// Surround: zy.
// @ts-ignore: decorator
@inline export const SU_ZY: usize = 84;

// Surround: zz.
// @ts-ignore: decorator
@inline export const SU_ZZ: usize = 88;

// Surround: blue.
// @ts-ignore: decorator
@inline export const SU_BLUE: usize = 92;

// Surround: map.
// @ts-ignore: decorator
@inline export const SU_MAP: usize = 96;

// Surround: columns.
// @ts-ignore: decorator
@inline export const SU_COLUMNS: usize = 100;

// Surround: rows.
// @ts-ignore: decorator
@inline export const SU_ROWS: usize = 104;

// Surround: weight.
// @ts-ignore: decorator
@inline export const SU_WEIGHT: usize = 108;

// Surround: group.
// @ts-ignore: decorator
@inline export const SU_GROUP: usize = 112;

// Surround: seen.
// @ts-ignore: decorator
@inline export const SU_SEEN: usize = 116;

// Surround: feeds.
// @ts-ignore: decorator
@inline export const SU_FEEDS: usize = 120;

// Surround: grounded.
// @ts-ignore: decorator
@inline export const SU_GROUNDED: usize = 124;

// Surround: groundX.
// @ts-ignore: decorator
@inline export const SU_GROUND_X: usize = 128;

// Surround: groundY.
// @ts-ignore: decorator
@inline export const SU_GROUND_Y: usize = 132;

// Surround: groundZ.
// @ts-ignore: decorator
@inline export const SU_GROUND_Z: usize = 136;

// Surround: eyeHeight.
// @ts-ignore: decorator
@inline export const SU_EYE_HEIGHT: usize = 140;

// Emitter: kind.
// @ts-ignore: decorator
@inline export const E_KIND: usize = 0;

// Emitter: flags.
// @ts-ignore: decorator
@inline export const E_FLAGS: usize = 4;

// Emitter: parent.
// @ts-ignore: decorator
@inline export const E_PARENT: usize = 8;

// Emitter: group.
// @ts-ignore: decorator
@inline export const E_GROUP: usize = 12;

// Emitter: x.
// @ts-ignore: decorator
@inline export const E_X: usize = 16;

// Emitter: y.
// @ts-ignore: decorator
@inline export const E_Y: usize = 20;

// Emitter: z.
// @ts-ignore: decorator
@inline export const E_Z: usize = 24;

// Emitter: area.
// @ts-ignore: decorator
@inline export const E_AREA: usize = 28;

// Emitter: rightX.
// @ts-ignore: decorator
@inline export const E_RIGHT_X: usize = 32;

// Emitter: rightY.
// @ts-ignore: decorator
@inline export const E_RIGHT_Y: usize = 36;

// Emitter: rightZ.
// @ts-ignore: decorator
@inline export const E_RIGHT_Z: usize = 40;

// Emitter: cosInner.
// @ts-ignore: decorator
@inline export const E_COS_INNER: usize = 44;

// Emitter: upX.
// @ts-ignore: decorator
@inline export const E_UP_X: usize = 48;

// Emitter: upY.
// @ts-ignore: decorator
@inline export const E_UP_Y: usize = 52;

// Emitter: upZ.
// @ts-ignore: decorator
@inline export const E_UP_Z: usize = 56;

// Emitter: cosOuter.
// @ts-ignore: decorator
@inline export const E_COS_OUTER: usize = 60;

// Emitter: forwardX.
// @ts-ignore: decorator
@inline export const E_FORWARD_X: usize = 64;

// Emitter: forwardY.
// @ts-ignore: decorator
@inline export const E_FORWARD_Y: usize = 68;

// Emitter: forwardZ.
// @ts-ignore: decorator
@inline export const E_FORWARD_Z: usize = 72;

// Emitter: range.
// @ts-ignore: decorator
@inline export const E_RANGE: usize = 76;

// Emitter: red.
// @ts-ignore: decorator
@inline export const E_RED: usize = 80;

// Emitter: green.
// @ts-ignore: decorator
@inline export const E_GREEN: usize = 84;

// Emitter: blue.
// @ts-ignore: decorator
@inline export const E_BLUE: usize = 88;

// Emitter: luminance.
// @ts-ignore: decorator
@inline export const E_LUMINANCE: usize = 92;

// Emitter: cdf.
// @ts-ignore: decorator
@inline export const E_CDF: usize = 96;

// Emitter: count.
// @ts-ignore: decorator
@inline export const E_COUNT: usize = 100;

// Emitter: first.
// @ts-ignore: decorator
@inline export const E_FIRST: usize = 104;

// Emitter: instance.
// @ts-ignore: decorator
@inline export const E_INSTANCE: usize = 108;

// Emitter: feeds.
// @ts-ignore: decorator
@inline export const E_FEEDS: usize = 112;

// Emitter: links.
// @ts-ignore: decorator
@inline export const E_LINKS: usize = 116;

// Emitter: fall.
// @ts-ignore: decorator
@inline export const E_FALL: usize = 120;

// Emitter: reference.
// @ts-ignore: decorator
@inline export const E_REFERENCE: usize = 124;

// Emitter: pattern.
// @ts-ignore: decorator
@inline export const E_PATTERN: usize = 128;

// Emitter: patternScale.
// @ts-ignore: decorator
@inline export const E_PATTERN_SCALE: usize = 132;

// Emitter: patternLevel.
// @ts-ignore: decorator
@inline export const E_PATTERN_LEVEL: usize = 136;

// Emitter: profile.
// @ts-ignore: decorator
@inline export const E_PROFILE: usize = 140;

// Emitter: radius.
// @ts-ignore: decorator
@inline export const E_RADIUS: usize = 144;

// Emitter: spare0.
// @ts-ignore: decorator
@inline export const E_SPARE0: usize = 148;

// Emitter: spare1.
// @ts-ignore: decorator
@inline export const E_SPARE1: usize = 152;

// Emitter: spare2.
// @ts-ignore: decorator
@inline export const E_SPARE2: usize = 156;

// Photon: x.
// @ts-ignore: decorator
@inline export const PH_X: usize = 0;

// Photon: y.
// @ts-ignore: decorator
@inline export const PH_Y: usize = 4;

// Photon: z.
// @ts-ignore: decorator
@inline export const PH_Z: usize = 8;

// Photon: group.
// @ts-ignore: decorator
@inline export const PH_GROUP: usize = 12;

// Photon: red.
// @ts-ignore: decorator
@inline export const PH_RED: usize = 16;

// Photon: green.
// @ts-ignore: decorator
@inline export const PH_GREEN: usize = 20;

// Photon: blue.
// @ts-ignore: decorator
@inline export const PH_BLUE: usize = 24;

// Photon: free.
// @ts-ignore: decorator
@inline export const PH_FREE: usize = 28;

// Photon: dx.
// @ts-ignore: decorator
@inline export const PH_DX: usize = 32;

// Photon: dy.
// @ts-ignore: decorator
@inline export const PH_DY: usize = 36;

// Photon: dz.
// @ts-ignore: decorator
@inline export const PH_DZ: usize = 40;

// Photon: ends.
// @ts-ignore: decorator
@inline export const PH_ENDS: usize = 44;

// Source: emitter.
// @ts-ignore: decorator
@inline export const SO_EMITTER: usize = 0;

// Source: way.
// @ts-ignore: decorator
@inline export const SO_WAY: usize = 4;

// Source: chance.
// @ts-ignore: decorator
@inline export const SO_CHANCE: usize = 8;

// Source: upTo.
// @ts-ignore: decorator
@inline export const SO_UP_TO: usize = 12;

// Path: pixel.
// @ts-ignore: decorator
@inline export const P_PIXEL: usize = 0;

// Path: depth.
// @ts-ignore: decorator
@inline export const P_DEPTH: usize = 1040;

// Path: passes.
// @ts-ignore: decorator
@inline export const P_PASSES: usize = 2080;

// Path: medium.
// @ts-ignore: decorator
@inline export const P_MEDIUM: usize = 3120;

// Path: mediumOf.
// @ts-ignore: decorator
@inline export const P_MEDIUM_OF: usize = 4160;

// Path: under0.
// @ts-ignore: decorator
@inline export const P_UNDER0: usize = 5200;

// Path: under0Of.
// @ts-ignore: decorator
@inline export const P_UNDER0_OF: usize = 6240;

// Path: under1.
// @ts-ignore: decorator
@inline export const P_UNDER1: usize = 7280;

// Path: under1Of.
// @ts-ignore: decorator
@inline export const P_UNDER1_OF: usize = 8320;

// Path: under2.
// @ts-ignore: decorator
@inline export const P_UNDER2: usize = 9360;

// Path: under2Of.
// @ts-ignore: decorator
@inline export const P_UNDER2_OF: usize = 10400;

// Path: ox.
// @ts-ignore: decorator
@inline export const P_OX: usize = 11440;

// Path: oy.
// @ts-ignore: decorator
@inline export const P_OY: usize = 12480;

// Path: oz.
// @ts-ignore: decorator
@inline export const P_OZ: usize = 13520;

// Path: dx.
// @ts-ignore: decorator
@inline export const P_DX: usize = 14560;

// Path: dy.
// @ts-ignore: decorator
@inline export const P_DY: usize = 15600;

// Path: dz.
// @ts-ignore: decorator
@inline export const P_DZ: usize = 16640;

// Path: near.
// @ts-ignore: decorator
@inline export const P_NEAR: usize = 17680;

// Path: from.
// @ts-ignore: decorator
@inline export const P_FROM: usize = 18720;

// Path: travelled.
// @ts-ignore: decorator
@inline export const P_TRAVELLED: usize = 19760;

// Path: t.
// @ts-ignore: decorator
@inline export const P_T: usize = 20800;

// Path: b1.
// @ts-ignore: decorator
@inline export const P_B1: usize = 21840;

// Path: b2.
// @ts-ignore: decorator
@inline export const P_B2: usize = 22880;

// Path: triangle.
// @ts-ignore: decorator
@inline export const P_TRIANGLE: usize = 23920;

// Path: instance.
// @ts-ignore: decorator
@inline export const P_INSTANCE: usize = 24960;

// Path: x.
// @ts-ignore: decorator
@inline export const P_X: usize = 26000;

// Path: y.
// @ts-ignore: decorator
@inline export const P_Y: usize = 27040;

// Path: z.
// @ts-ignore: decorator
@inline export const P_Z: usize = 28080;

// Path: gx.
// @ts-ignore: decorator
@inline export const P_GX: usize = 29120;

// Path: gy.
// @ts-ignore: decorator
@inline export const P_GY: usize = 30160;

// Path: gz.
// @ts-ignore: decorator
@inline export const P_GZ: usize = 31200;

// Path: nx.
// @ts-ignore: decorator
@inline export const P_NX: usize = 32240;

// Path: ny.
// @ts-ignore: decorator
@inline export const P_NY: usize = 33280;

// Path: nz.
// @ts-ignore: decorator
@inline export const P_NZ: usize = 34320;

// Path: ux.
// @ts-ignore: decorator
@inline export const P_UX: usize = 35360;

// Path: uy.
// @ts-ignore: decorator
@inline export const P_UY: usize = 36400;

// Path: uz.
// @ts-ignore: decorator
@inline export const P_UZ: usize = 37440;

// Path: lift.
// @ts-ignore: decorator
@inline export const P_LIFT: usize = 38480;

// Path: part.
// @ts-ignore: decorator
@inline export const P_PART: usize = 39520;

// Path: finish.
// @ts-ignore: decorator
@inline export const P_FINISH: usize = 40560;

// Path: inside.
// @ts-ignore: decorator
@inline export const P_INSIDE: usize = 41600;

// Path: behind.
// @ts-ignore: decorator
@inline export const P_BEHIND: usize = 42640;

// Path: tr.
// @ts-ignore: decorator
@inline export const P_TR: usize = 43680;

// Path: tg.
// @ts-ignore: decorator
@inline export const P_TG: usize = 44720;

// Path: tb.
// @ts-ignore: decorator
@inline export const P_TB: usize = 45760;

// Path: red.
// @ts-ignore: decorator
@inline export const P_RED: usize = 46800;

// Path: green.
// @ts-ignore: decorator
@inline export const P_GREEN: usize = 47840;

// Path: blue.
// @ts-ignore: decorator
@inline export const P_BLUE: usize = 48880;

// Path: alpha.
// @ts-ignore: decorator
@inline export const P_ALPHA: usize = 49920;

// Path: pdf.
// @ts-ignore: decorator
@inline export const P_PDF: usize = 50960;

// Path: vx.
// @ts-ignore: decorator
@inline export const P_VX: usize = 52000;

// Path: vy.
// @ts-ignore: decorator
@inline export const P_VY: usize = 53040;

// Path: vz.
// @ts-ignore: decorator
@inline export const P_VZ: usize = 54080;

// Path: vnx.
// @ts-ignore: decorator
@inline export const P_VNX: usize = 55120;

// Path: vny.
// @ts-ignore: decorator
@inline export const P_VNY: usize = 56160;

// Path: vnz.
// @ts-ignore: decorator
@inline export const P_VNZ: usize = 57200;

// Path: vrx.
// @ts-ignore: decorator
@inline export const P_VRX: usize = 58240;

// Path: vry.
// @ts-ignore: decorator
@inline export const P_VRY: usize = 59280;

// Path: vrz.
// @ts-ignore: decorator
@inline export const P_VRZ: usize = 60320;

// Path: vdiffuse.
// @ts-ignore: decorator
@inline export const P_VDIFFUSE: usize = 61360;

// Path: vspecular.
// @ts-ignore: decorator
@inline export const P_VSPECULAR: usize = 62400;

// Path: valpha2.
// @ts-ignore: decorator
@inline export const P_VALPHA2: usize = 63440;

// Path: vsum.
// @ts-ignore: decorator
@inline export const P_VSUM: usize = 64480;

// Path: vthrough.
// @ts-ignore: decorator
@inline export const P_VTHROUGH: usize = 65520;

// Path: sx.
// @ts-ignore: decorator
@inline export const P_SX: usize = 66560;

// Path: sy.
// @ts-ignore: decorator
@inline export const P_SY: usize = 67600;

// Path: sz.
// @ts-ignore: decorator
@inline export const P_SZ: usize = 68640;

// Path: sdx.
// @ts-ignore: decorator
@inline export const P_SDX: usize = 69680;

// Path: sdy.
// @ts-ignore: decorator
@inline export const P_SDY: usize = 70720;

// Path: sdz.
// @ts-ignore: decorator
@inline export const P_SDZ: usize = 71760;

// Path: sreach.
// @ts-ignore: decorator
@inline export const P_SREACH: usize = 72800;

// Path: sfrom.
// @ts-ignore: decorator
@inline export const P_SFROM: usize = 73840;

// Path: snear.
// @ts-ignore: decorator
@inline export const P_SNEAR: usize = 74880;

// Path: sred.
// @ts-ignore: decorator
@inline export const P_SRED: usize = 75920;

// Path: sgreen.
// @ts-ignore: decorator
@inline export const P_SGREEN: usize = 76960;

// Path: sblue.
// @ts-ignore: decorator
@inline export const P_SBLUE: usize = 78000;

// Path: sgroup.
// @ts-ignore: decorator
@inline export const P_SGROUP: usize = 79040;

// Path: kinds.
// @ts-ignore: decorator
@inline export const P_KINDS: usize = 80080;

// Path: beyond.
// @ts-ignore: decorator
@inline export const P_BEYOND: usize = 81120;

// Path: caster.
// @ts-ignore: decorator
@inline export const P_CASTER: usize = 82160;

// Path: kept.
// @ts-ignore: decorator
@inline export const P_KEPT: usize = 83200;

// Path: now.
// @ts-ignore: decorator
@inline export const P_NOW: usize = 84240;

// Path: hue.
// @ts-ignore: decorator
@inline export const P_HUE: usize = 85280;

// Path: diffuseR.
// @ts-ignore: decorator
@inline export const P_DIFFUSE_R: usize = 86320;

// Path: diffuseG.
// @ts-ignore: decorator
@inline export const P_DIFFUSE_G: usize = 87360;

// Path: diffuseB.
// @ts-ignore: decorator
@inline export const P_DIFFUSE_B: usize = 88400;

// Path: sdiffuseR.
// @ts-ignore: decorator
@inline export const P_SDIFFUSE_R: usize = 89440;

// Path: sdiffuseG.
// @ts-ignore: decorator
@inline export const P_SDIFFUSE_G: usize = 90480;

// Path: sdiffuseB.
// @ts-ignore: decorator
@inline export const P_SDIFFUSE_B: usize = 91520;

// Path: links.
// @ts-ignore: decorator
@inline export const P_LINKS: usize = 92560;

// Path: albedoR.
// @ts-ignore: decorator
@inline export const P_ALBEDO_R: usize = 93600;

// Path: albedoG.
// @ts-ignore: decorator
@inline export const P_ALBEDO_G: usize = 94640;

// Path: albedoB.
// @ts-ignore: decorator
@inline export const P_ALBEDO_B: usize = 95680;

// Path: normalX.
// @ts-ignore: decorator
@inline export const P_NORMAL_X: usize = 96720;

// Path: normalY.
// @ts-ignore: decorator
@inline export const P_NORMAL_Y: usize = 97760;

// Path: normalZ.
// @ts-ignore: decorator
@inline export const P_NORMAL_Z: usize = 98800;

// Path: distance.
// @ts-ignore: decorator
@inline export const P_DISTANCE: usize = 99840;

// Path: count.
// @ts-ignore: decorator
@inline export const P_COUNT: usize = 100880;

// Path: lost.
// @ts-ignore: decorator
@inline export const P_LOST: usize = 101920;

// Path: caught.
// @ts-ignore: decorator
@inline export const P_CAUGHT: usize = 102960;
