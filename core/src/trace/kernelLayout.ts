/** Written by core/kernel/compile.mjs from layout.mjs, where it is drawn: change it there. */

/** Bytes of a node. */
export const NODE_BYTES = 128;

/** Where a node has its child references. */
export const NODE_CHILDREN = 96;

/** Bytes of a pack of four triangles. */
export const PACK_BYTES = 160;

/** From one corner of a pack to the next. */
export const PACK_CORNER = 48;

/** Where a pack has its triangle numbers. */
export const PACK_IDS = 144;

/** A leaf reference is the complement of (first pack << this | packs). */
export const LEAF_SHIFT = 3;

/** Bytes of a triangle as it is shaded: corners, normals, tangents, run. */
export const TRIANGLE_BYTES = 112;

/** Where a triangle has its normals. */
export const TRIANGLE_NORMALS = 36;

/** Where a triangle has its tangents. */
export const TRIANGLE_TANGENTS = 72;

/** Where a triangle has the number of its run of triangles. */
export const TRIANGLE_RUN = 108;

/** Bytes of an instance. */
export const INSTANCE_BYTES = 160;

/** Where an instance has its way from the world into the solid. */
export const INSTANCE_TO_SOLID = 64;

/** Where an instance has the address of its nodes; packs and triangles follow. */
export const INSTANCE_NODES = 128;

/** Where an instance has the address of its packs. */
export const INSTANCE_PACKS = 132;

/** Where an instance has the address of its triangles. */
export const INSTANCE_TRIANGLES = 136;

/** Where an instance has the number of its first part. */
export const INSTANCE_PART = 140;

/** Where an instance has its flags. */
export const INSTANCE_FLAGS = 144;

/** Where an area light’s instance has its emitter. */
export const INSTANCE_EMITTER = 148;

/** Where an instance has the number of its turn and size: alike ones have the same. */
export const INSTANCE_TURN = 152;

/** Flag of instances that stop shadow rays. */
export const CASTS_SHADOW = 1;

/** Flag of instances that are area lights. */
export const IS_LIGHT = 2;

/** Flag of instances that are there before all else: what catches shadows, and plates. */
export const STAYS = 4;

/** Bytes of a part: finish, flags, emitter, group, links. */
export const PART_BYTES = 32;

/** Where a part has its flags. */
export const PART_FLAGS = 4;

/** Where a part has its emitter, or -1. */
export const PART_EMITTER = 8;

/** Flag of parts that primary rays pass through. */
export const PART_HIDDEN = 1;

/** Flag of parts that glow from both sides. */
export const PART_TWO_SIDED = 2;

/** Flag of parts that throw caustics: their light to others comes by photons. */
export const PART_CASTER = 4;

/** Flag of parts that leave only shadow and reflection. */
export const PART_CATCHES = 8;

/** Where a part has its share group. */
export const PART_GROUP = 12;

/** Where a part has a bit for each choice of things that it is among. */
export const PART_LINKS = 16;

/** Flag of the medium a path is in: it is what lies beneath a finish’s surface, not its glass. */
export const BENEATH = 1073741824;

/** Flag of emitters that throw shadows. */
export const CASTS = 1;

/** Flag of emitters whose caustics come by photons. */
export const BY_PHOTONS = 2;

/** Flag of emitters that give different light in different places. */
export const FED = 4;

/** Flag of emitters that stand in the way of what mirrors see. */
export const CARD = 8;

/** Flag of area lights that are ellipses in their rectangles. */
export const ROUND = 16;

/** Flag of cards that show mirrors their own lit surface. */
export const WHITE = 32;

/** Flag of lights that the camera sees. */
export const SEEN = 64;

/** Whether a light is scattered by diffuse lobes. */
export const FEEDS_DIFFUSE = 1;

/** Whether a light is mirrored. */
export const FEEDS_MIRROR = 2;

/** Whether a light comes through. */
export const FEEDS_THROUGH = 4;

/** A light that does all of it. */
export const FEEDS_ALL = 7;

/** Fades with the square of the distance, as light does. */
export const FALL_SQUARE = 0;

/** Fades with the distance; true at the reference. */
export const FALL_LINEAR = 1;

/** Does not fade; true at the reference. */
export const FALL_NONE = 2;

/** Fades with the square of the distance, but no brighter than at the reference. */
export const FALL_CLAMPED = 3;

/** Lights that a path may seek at once. */
export const MOST_SOUGHT = 4;

/** Entries of a finish’s rows over the cosine. */
export const ROWS = 32;

/** Where a finish has its metal’s reflectance: red, green, blue, and a sheet’s spread. */
export const METAL_ROWS = 304;

/** Where a finish has: gloss, coat, lost outside, lost inside. */
export const LAYER_ROWS = 816;

/** Where a finish has its interface’s reflectance under a film: red, green, blue, and their mean. */
export const FILM_ROWS = 1328;

/** Where a finish has its fuzz’s reflectance, and the two numbers of its lobe. */
export const FUZZ_ROWS = 1840;

/** Where a finish has what of its gloss each channel is under a film, over their mean. */
export const FILM_GLOSS_ROWS = 2352;

/** Where a finish has what its widened lobe returns, seen along its brushing and across, and what it loses more there than on the whole. */
export const BRUSHED_ROWS = 2864;

/** Where a finish has the colour of light that its metal loses and gives back, red, green, blue, and how it goes from along its brushing to across. */
export const AGAIN_ROWS = 3376;

/** Bytes of a finish. */
export const FINISH_BYTES = 3888;

/** Bytes of four children of a node of the light tree. */
export const LIGHT_NODE_BYTES = 240;

/** Most children of a node of the light tree. */
export const LIGHT_CHILDREN = 256;

/** Most records of four children of a node of the light tree. */
export const LIGHT_NODE_RECORDS = 64;

/** Bytes of the surround. */
export const SURROUND_BYTES = 144;

/** Bytes of an emitter. */
export const EMITTER_BYTES = 160;

/** Paths of a wave. */
export const WAVE = 256;

/** Pixels of a wave’s tile each way. */
export const WAVE_SIDE = 16;

/** Words a path leaves: r g b alpha, albedo, normal, distance and count, light past its limits, whether it was caught. */
export const FILM_WORDS = 14;

/** What a wave sees: all there is. */
export const WHOLE = 0;

/** Only what stays, and the lights. */
export const ALONE = 1;

/** All there is, but the camera sees past what catches shadows. */
export const PAST = 2;

/** Bytes of a photon. */
export const PHOTON_BYTES = 48;

/** Bytes of a source of photons. */
export const SOURCE_BYTES = 16;

/** Cells that landed photons are sorted into; places further apart share them. */
export const CELLS = 262144;

/** Ways photons are sent: from a point of the emitter towards the casters’ box. */
export const TO_BOX = 0;

/** From far away along the emitter’s or the surround’s direction. */
export const ALONG = 1;

/** The kernel keeps its own constants below this address. */
export const FLOOR = 4096;

/** Where a lane has the stack of the tree over instances; the solids’ comes first. */
export const LANE_TOP_STACK = 16384;

/** Where a lane has the rays and hits of a batch, and what a wave leaves for the film. */
export const LANE_RAYS = 24576;

/** Rays a batch may hold. */
export const BATCH_RAYS = 512;

/** Bytes of a ray: origin, tmin, direction, tmax. */
export const RAY_BYTES = 32;

/** Bytes of a hit: t, b1, b2, triangle, instance. */
export const HIT_BYTES = 32;

/** Where a lane has the hits of a batch. */
export const LANE_HITS = 40960;

/** Where a lane has the fields of its wave. */
export const LANE_WAVE = 57344;

/** Where a lane has its lists of paths. */
export const LANE_LISTS = 161344;

/** Finishes sorted by at once; more share a place, which only makes groups smaller. */
export const BUCKETS = 512;

/** Where a lane sorts its paths by finish. */
export const LANE_BUCKETS = 165440;

/** Where a lane has vectors of a group while single numbers are put in. */
export const LANE_SCRATCH = 169536;

/** Where a lane has the photons near each of a group, NEAR of them for each. */
export const LANE_NEAR = 169920;

/** Where a lane has the importances of the children of two nodes of the light tree. */
export const LANE_WEIGHTS = 170944;

/** Photons a path may take in at once; where more are near, every so manieth. */
export const NEAR = 64;

/** Bytes of a lane. */
export const LANE_BYTES = 172992;

/** Most memory the shared module declares, in pages of 64 KiB. */
export const MOST_PAGES = 32768;

/** Kinds of emitters. */
export const AREA = 0;

/** A cone of light. */
export const SPOT = 1;

/** Light from infinitely far. */
export const DIRECTIONAL = 2;

/** A part that glows. */
export const GLOW = 3;

/** Shines alike all around. */
export const POINT = 4;

/** Where a coat has the axes of its grid. */
export const COAT_DIMS = 48;

/** Most axes of a coat’s grid. */
export const MOST_DIMS = 8;

/** Bytes of an axis of a grid: number, places, where they stand, whether the next shares its draw. */
export const DIM_BYTES = 16;

/** Bytes of a coat. */
export const COAT_BYTES = 176;

/** Where a picture has what its bytes stand for. */
export const PICTURE_TABLE = 16;

/** Where a picture has the addresses of its levels. */
export const PICTURE_LEVELS = 1040;

/** Bytes of a picture before its pixels. */
export const PICTURE_BYTES = 1104;

/** Bytes of a recipe before its coats. */
export const RECIPE_BYTES = 16;

/** Bytes of an axis. */
export const AXIS_BYTES = 112;

/** Bytes of a site. */
export const SITE_BYTES = 192;

/** Recipe: coats. */
export const R_COATS = 0;

/** Recipe: axes. */
export const R_AXES = 4;

/** Recipe: free0. */
export const R_FREE0 = 8;

/** Recipe: free1. */
export const R_FREE1 = 12;

/** Coat: coverAxis. */
export const C_COVER_AXIS = 0;

/** Coat: cover. */
export const C_COVER = 4;

/** Coat: coverCount. */
export const C_COVER_COUNT = 8;

/** Coat: coverAt. */
export const C_COVER_AT = 12;

/** Coat: reliefAxis. */
export const C_RELIEF_AXIS = 16;

/** Coat: reliefCount. */
export const C_RELIEF_COUNT = 20;

/** Coat: reliefAt. */
export const C_RELIEF_AT = 24;

/** Coat: first. */
export const C_FIRST = 28;

/** Coat: dims. */
export const C_DIMS = 32;

/** Coat: free0. */
export const C_FREE0 = 36;

/** Coat: free1. */
export const C_FREE1 = 40;

/** Coat: free2. */
export const C_FREE2 = 44;

/** Axis: source. */
export const A_SOURCE = 0;

/** Axis: over. */
export const A_OVER = 4;

/** Axis: late. */
export const A_LATE = 8;

/** Axis: octaves. */
export const A_OCTAVES = 12;

/** Axis: perScale. */
export const A_PER_SCALE = 16;

/** Axis: stretch. */
export const A_STRETCH = 20;

/** Axis: turnCos. */
export const A_TURN_COS = 24;

/** Axis: turnSin. */
export const A_TURN_SIN = 28;

/** Axis: contrast. */
export const A_CONTRAST = 32;

/** Axis: seed. */
export const A_SEED = 36;

/** Axis: from. */
export const A_FROM = 40;

/** Axis: per. */
export const A_PER = 44;

/** Axis: breakup. */
export const A_BREAKUP = 48;

/** Axis: perBreak. */
export const A_PER_BREAK = 52;

/** Axis: free0. */
export const A_FREE0 = 56;

/** Axis: free1. */
export const A_FREE1 = 60;

/** Axis: picture. */
export const A_PICTURE = 64;

/** Axis: channel. */
export const A_CHANNEL = 68;

/** Axis: lay. */
export const A_LAY = 72;

/** Axis: edges. */
export const A_EDGES = 76;

/** Axis: zoom. */
export const A_ZOOM = 80;

/** Axis: shiftX. */
export const A_SHIFT_X = 84;

/** Axis: shiftY. */
export const A_SHIFT_Y = 88;

/** Axis: perPeak. */
export const A_PER_PEAK = 92;

/** Axis: tile. */
export const A_TILE = 96;

/** Axis: free2. */
export const A_FREE2 = 100;

/** Axis: free3. */
export const A_FREE3 = 104;

/** Axis: free4. */
export const A_FREE4 = 108;

/** Site: xx. */
export const S_XX = 0;

/** Site: xy. */
export const S_XY = 4;

/** Site: xz. */
export const S_XZ = 8;

/** Site: xw. */
export const S_XW = 12;

/** Site: yx. */
export const S_YX = 16;

/** Site: yy. */
export const S_YY = 20;

/** Site: yz. */
export const S_YZ = 24;

/** Site: yw. */
export const S_YW = 28;

/** Site: zx. */
export const S_ZX = 32;

/** Site: zy. */
export const S_ZY = 36;

/** Site: zz. */
export const S_ZZ = 40;

/** Site: zw. */
export const S_ZW = 44;

/** Site: letterX. */
export const S_LETTER_X = 48;

/** Site: letterY. */
export const S_LETTER_Y = 52;

/** Site: letterZ. */
export const S_LETTER_Z = 56;

/** Site: unit. */
export const S_UNIT = 60;

/** Site: letterPerX. */
export const S_LETTER_PER_X = 64;

/** Site: letterPerY. */
export const S_LETTER_PER_Y = 68;

/** Site: letterPerZ. */
export const S_LETTER_PER_Z = 72;

/** Site: uv. */
export const S_UV = 76;

/** Site: blockX. */
export const S_BLOCK_X = 80;

/** Site: blockY. */
export const S_BLOCK_Y = 84;

/** Site: blockZ. */
export const S_BLOCK_Z = 88;

/** Site: placement. */
export const S_PLACEMENT = 92;

/** Site: blockPerX. */
export const S_BLOCK_PER_X = 96;

/** Site: blockPerY. */
export const S_BLOCK_PER_Y = 100;

/** Site: blockPerZ. */
export const S_BLOCK_PER_Z = 104;

/** Site: kind. */
export const S_KIND = 108;

/** Site: wordX. */
export const S_WORD_X = 112;

/** Site: wordY. */
export const S_WORD_Y = 116;

/** Site: wordZ. */
export const S_WORD_Z = 120;

/** Site: perMetre. */
export const S_PER_METRE = 124;

/** Site: wordPerX. */
export const S_WORD_PER_X = 128;

/** Site: wordPerY. */
export const S_WORD_PER_Y = 132;

/** Site: wordPerZ. */
export const S_WORD_PER_Z = 136;

/** Site: free2. */
export const S_FREE2 = 140;

/** Site: wrapX. */
export const S_WRAP_X = 144;

/** Site: wrapY. */
export const S_WRAP_Y = 148;

/** Site: wrapWidth. */
export const S_WRAP_WIDTH = 152;

/** Site: wrapHeight. */
export const S_WRAP_HEIGHT = 156;

/** Site: wordWrapX. */
export const S_WORD_WRAP_X = 160;

/** Site: wordWrapY. */
export const S_WORD_WRAP_Y = 164;

/** Site: wordWrapWidth. */
export const S_WORD_WRAP_WIDTH = 168;

/** Site: wordWrapHeight. */
export const S_WORD_WRAP_HEIGHT = 172;

/** Site: blockWrapX. */
export const S_BLOCK_WRAP_X = 176;

/** Site: blockWrapY. */
export const S_BLOCK_WRAP_Y = 180;

/** Site: blockWrapWidth. */
export const S_BLOCK_WRAP_WIDTH = 184;

/** Site: blockWrapHeight. */
export const S_BLOCK_WRAP_HEIGHT = 188;

/** Picture: width. */
export const PI_WIDTH = 0;

/** Picture: height. */
export const PI_HEIGHT = 4;

/** Picture: levels. */
export const PI_LEVELS = 8;

/** Picture: deep. */
export const PI_DEEP = 12;

/** Finish: metal. */
export const F_METAL = 0;

/** Finish: glass. */
export const F_GLASS = 4;

/** Finish: opaque. */
export const F_OPAQUE = 8;

/** Finish: coat. */
export const F_COAT = 12;

/** Finish: baseR. */
export const F_BASE_R = 16;

/** Finish: baseG. */
export const F_BASE_G = 20;

/** Finish: baseB. */
export const F_BASE_B = 24;

/** Finish: diffuseRoughness. */
export const F_DIFFUSE_ROUGHNESS = 28;

/** Finish: specularR. */
export const F_SPECULAR_R = 32;

/** Finish: specularG. */
export const F_SPECULAR_G = 36;

/** Finish: specularB. */
export const F_SPECULAR_B = 40;

/** Finish: ior. */
export const F_IOR = 44;

/** Finish: coatR. */
export const F_COAT_R = 48;

/** Finish: coatG. */
export const F_COAT_G = 52;

/** Finish: coatB. */
export const F_COAT_B = 56;

/** Finish: coatIor. */
export const F_COAT_IOR = 60;

/** Finish: alphaX. */
export const F_ALPHA_X = 64;

/** Finish: alphaY. */
export const F_ALPHA_Y = 68;

/** Finish: coatAlphaX. */
export const F_COAT_ALPHA_X = 72;

/** Finish: sheet. */
export const F_SHEET = 76;

/** Finish: emissionR. */
export const F_EMISSION_R = 80;

/** Finish: emissionG. */
export const F_EMISSION_G = 84;

/** Finish: emissionB. */
export const F_EMISSION_B = 88;

/** Finish: lostOut. */
export const F_LOST_OUT = 92;

/** Finish: tintR. */
export const F_TINT_R = 96;

/** Finish: tintG. */
export const F_TINT_G = 100;

/** Finish: tintB. */
export const F_TINT_B = 104;

/** Finish: lostIn. */
export const F_LOST_IN = 108;

/** Finish: absorptionR. */
export const F_ABSORPTION_R = 112;

/** Finish: absorptionG. */
export const F_ABSORPTION_G = 116;

/** Finish: absorptionB. */
export const F_ABSORPTION_B = 120;

/** Finish: throughOut. */
export const F_THROUGH_OUT = 124;

/** Finish: residualR. */
export const F_RESIDUAL_R = 128;

/** Finish: residualG. */
export const F_RESIDUAL_G = 132;

/** Finish: residualB. */
export const F_RESIDUAL_B = 136;

/** Finish: throughIn. */
export const F_THROUGH_IN = 140;

/** Finish: albedoR. */
export const F_ALBEDO_R = 144;

/** Finish: albedoG. */
export const F_ALBEDO_G = 148;

/** Finish: albedoB. */
export const F_ALBEDO_B = 152;

/** Finish: glossMean. */
export const F_GLOSS_MEAN = 156;

/** Finish: turnCos. */
export const F_TURN_COS = 160;

/** Finish: turnSin. */
export const F_TURN_SIN = 164;

/** Finish: sheetAlpha. */
export const F_SHEET_ALPHA = 168;

/** Finish: sharp. */
export const F_SHARP = 172;

/** Finish: chooseDiffuse. */
export const F_CHOOSE_DIFFUSE = 176;

/** Finish: chooseSpecular. */
export const F_CHOOSE_SPECULAR = 180;

/** Finish: chooseAlpha2. */
export const F_CHOOSE_ALPHA2 = 184;

/** Finish: lit. */
export const F_LIT = 188;

/** Finish: recipe. */
export const F_RECIPE = 192;

/** Finish: within. */
export const F_WITHIN = 196;

/** Finish: cast. */
export const F_CAST = 200;

/** Finish: dispersion. */
export const F_DISPERSION = 204;

/** Finish: fuzzR. */
export const F_FUZZ_R = 208;

/** Finish: fuzzG. */
export const F_FUZZ_G = 212;

/** Finish: fuzzB. */
export const F_FUZZ_B = 216;

/** Finish: fuzz. */
export const F_FUZZ = 220;

/** Finish: scatterR. */
export const F_SCATTER_R = 224;

/** Finish: scatterG. */
export const F_SCATTER_G = 228;

/** Finish: scatterB. */
export const F_SCATTER_B = 232;

/** Finish: phase. */
export const F_PHASE = 236;

/** Finish: depthR. */
export const F_DEPTH_R = 240;

/** Finish: depthG. */
export const F_DEPTH_G = 244;

/** Finish: depthB. */
export const F_DEPTH_B = 248;

/** Finish: depthPhase. */
export const F_DEPTH_PHASE = 252;

/** Finish: againR. */
export const F_AGAIN_R = 256;

/** Finish: againG. */
export const F_AGAIN_G = 260;

/** Finish: againB. */
export const F_AGAIN_B = 264;

/** Finish: subsurface. */
export const F_SUBSURFACE = 268;

/** Finish: film. */
export const F_FILM = 272;

/** Finish: priority. */
export const F_PRIORITY = 276;

/** Finish: coatAlphaY. */
export const F_COAT_ALPHA_Y = 280;

/** Finish: brush. */
export const F_BRUSH = 284;

/** Finish: wide. */
export const F_WIDE = 288;

/** Finish: wideX. */
export const F_WIDE_X = 292;

/** Finish: wideY. */
export const F_WIDE_Y = 296;

/** Finish: turns. */
export const F_TURNS = 300;

/** Surround: picture. */
export const SU_PICTURE = 0;

/** Surround: width. */
export const SU_WIDTH = 4;

/** Surround: height. */
export const SU_HEIGHT = 8;

/** Surround: unit. */
export const SU_UNIT = 12;

/** Surround: behind. */
export const SU_BEHIND = 16;

/** Surround: behindWidth. */
export const SU_BEHIND_WIDTH = 20;

/** Surround: behindHeight. */
export const SU_BEHIND_HEIGHT = 24;

/** Surround: behindUnit. */
export const SU_BEHIND_UNIT = 28;

/** Surround: mirrored. */
export const SU_MIRRORED = 32;

/** Surround: mirroredWidth. */
export const SU_MIRRORED_WIDTH = 36;

/** Surround: mirroredHeight. */
export const SU_MIRRORED_HEIGHT = 40;

/** Surround: mirroredUnit. */
export const SU_MIRRORED_UNIT = 44;

/** Surround: xx. */
export const SU_XX = 48;

/** Surround: xy. */
export const SU_XY = 52;

/** Surround: xz. */
export const SU_XZ = 56;

/** Surround: red. */
export const SU_RED = 60;

/** Surround: yx. */
export const SU_YX = 64;

/** Surround: yy. */
export const SU_YY = 68;

/** Surround: yz. */
export const SU_YZ = 72;

/** Surround: green. */
export const SU_GREEN = 76;

/** Surround: zx. */
export const SU_ZX = 80;

/** Surround: zy. */
export const SU_ZY = 84;

/** Surround: zz. */
export const SU_ZZ = 88;

/** Surround: blue. */
export const SU_BLUE = 92;

/** Surround: map. */
export const SU_MAP = 96;

/** Surround: columns. */
export const SU_COLUMNS = 100;

/** Surround: rows. */
export const SU_ROWS = 104;

/** Surround: weight. */
export const SU_WEIGHT = 108;

/** Surround: group. */
export const SU_GROUP = 112;

/** Surround: seen. */
export const SU_SEEN = 116;

/** Surround: feeds. */
export const SU_FEEDS = 120;

/** Surround: grounded. */
export const SU_GROUNDED = 124;

/** Surround: groundX. */
export const SU_GROUND_X = 128;

/** Surround: groundY. */
export const SU_GROUND_Y = 132;

/** Surround: groundZ. */
export const SU_GROUND_Z = 136;

/** Surround: eyeHeight. */
export const SU_EYE_HEIGHT = 140;

/** Emitter: kind. */
export const E_KIND = 0;

/** Emitter: flags. */
export const E_FLAGS = 4;

/** Emitter: parent. */
export const E_PARENT = 8;

/** Emitter: group. */
export const E_GROUP = 12;

/** Emitter: x. */
export const E_X = 16;

/** Emitter: y. */
export const E_Y = 20;

/** Emitter: z. */
export const E_Z = 24;

/** Emitter: area. */
export const E_AREA = 28;

/** Emitter: rightX. */
export const E_RIGHT_X = 32;

/** Emitter: rightY. */
export const E_RIGHT_Y = 36;

/** Emitter: rightZ. */
export const E_RIGHT_Z = 40;

/** Emitter: cosInner. */
export const E_COS_INNER = 44;

/** Emitter: upX. */
export const E_UP_X = 48;

/** Emitter: upY. */
export const E_UP_Y = 52;

/** Emitter: upZ. */
export const E_UP_Z = 56;

/** Emitter: cosOuter. */
export const E_COS_OUTER = 60;

/** Emitter: forwardX. */
export const E_FORWARD_X = 64;

/** Emitter: forwardY. */
export const E_FORWARD_Y = 68;

/** Emitter: forwardZ. */
export const E_FORWARD_Z = 72;

/** Emitter: range. */
export const E_RANGE = 76;

/** Emitter: red. */
export const E_RED = 80;

/** Emitter: green. */
export const E_GREEN = 84;

/** Emitter: blue. */
export const E_BLUE = 88;

/** Emitter: luminance. */
export const E_LUMINANCE = 92;

/** Emitter: cdf. */
export const E_CDF = 96;

/** Emitter: count. */
export const E_COUNT = 100;

/** Emitter: first. */
export const E_FIRST = 104;

/** Emitter: instance. */
export const E_INSTANCE = 108;

/** Emitter: feeds. */
export const E_FEEDS = 112;

/** Emitter: links. */
export const E_LINKS = 116;

/** Emitter: fall. */
export const E_FALL = 120;

/** Emitter: reference. */
export const E_REFERENCE = 124;

/** Emitter: pattern. */
export const E_PATTERN = 128;

/** Emitter: patternScale. */
export const E_PATTERN_SCALE = 132;

/** Emitter: patternLevel. */
export const E_PATTERN_LEVEL = 136;

/** Emitter: profile. */
export const E_PROFILE = 140;

/** Emitter: radius. */
export const E_RADIUS = 144;

/** Emitter: spare0. */
export const E_SPARE0 = 148;

/** Emitter: spare1. */
export const E_SPARE1 = 152;

/** Emitter: spare2. */
export const E_SPARE2 = 156;

/** Photon: x. */
export const PH_X = 0;

/** Photon: y. */
export const PH_Y = 4;

/** Photon: z. */
export const PH_Z = 8;

/** Photon: group. */
export const PH_GROUP = 12;

/** Photon: red. */
export const PH_RED = 16;

/** Photon: green. */
export const PH_GREEN = 20;

/** Photon: blue. */
export const PH_BLUE = 24;

/** Photon: free. */
export const PH_FREE = 28;

/** Photon: dx. */
export const PH_DX = 32;

/** Photon: dy. */
export const PH_DY = 36;

/** Photon: dz. */
export const PH_DZ = 40;

/** Photon: ends. */
export const PH_ENDS = 44;

/** Source: emitter. */
export const SO_EMITTER = 0;

/** Source: way. */
export const SO_WAY = 4;

/** Source: chance. */
export const SO_CHANCE = 8;

/** Source: upTo. */
export const SO_UP_TO = 12;
