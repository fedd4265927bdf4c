/** The kinds of things a document names: what may stand where a choice is made. */

/** Parts of a solid's surface, from the front to the back; of a tube's, from outside to inside; of a strip's. */
export const SOLID_ZONES = ['front', 'frontBevel', 'side', 'backBevel', 'back'] as const;
export const TUBE_ZONES = ['glass', 'gas', 'electrode', 'paintOut', 'standOff'] as const;
export const STRIP_ZONES = ['strip', 'points'] as const;
export const ZONES = [...SOLID_ZONES, ...TUBE_ZONES, ...STRIP_ZONES] as const;
export type Zone = (typeof ZONES)[number];

/** What an outline becomes: a bevelled solid, one round all over, a cushion, or a bent glass tube. */
export const FORMS = ['bevelled', 'rounded', 'puffed', 'tube'] as const;
export type Form = (typeof FORMS)[number];

export const PROFILES = [
  'straight',
  'round',
  'cove',
  'step',
  'terrace',
  'keel',
  'ogee',
  'saddle',
  'scallop',
  'rope',
  'gutter',
  'rim',
  'free',
] as const;
export type Profile = (typeof PROFILES)[number];

export const GROWTHS = ['forward', 'backward', 'both'] as const;
export type Growth = (typeof GROWTHS)[number];

/** Which way a bevel runs from the outline. */
export const BEVEL_WAYS = ['inward', 'outward'] as const;
export type BevelWay = (typeof BEVEL_WAYS)[number];

/** Edges of a profile as drawn, all of them rounded off in shading, or none. */
export const SHADINGS = ['drawn', 'smooth', 'crisp'] as const;
export type Shading = (typeof SHADINGS)[number];

export const ALIGNMENTS = ['left', 'centre', 'right', 'justified'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

export const BASELINES = ['straight', 'line', 'arc', 'circle', 'free'] as const;
export type BaselineKind = (typeof BASELINES)[number];

/** Where a tube runs: along the middle of the strokes, inside their edges, or as drawn by hand. */
export const TUBE_COURSES = ['centre', 'edges', 'drawn'] as const;
export type TubeCourse = (typeof TUBE_COURSES)[number];

/** Metals whose complex refractive index the app knows; 'none' takes the colour from base_color. */
export const METALS = [
  'none',
  'gold',
  'silver',
  'copper',
  'brass',
  'aluminium',
  'chromium',
  'iron',
  'titanium',
  'nickel',
  'cobalt',
  'palladium',
  'platinum',
  'rhodium',
  'tungsten',
  'molybdenum',
  'tin',
] as const;
export type Metal = (typeof METALS)[number];

/** Gases whose light the app knows by their lines; 'none' glows in emission_color. */
export const GASES = ['none', 'neon', 'mercury', 'helium', 'argon', 'krypton', 'xenon'] as const;
export type Gas = (typeof GASES)[number];

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
  'silver',
  'satin paint',
  'flake lacquer',
  'patina',
  'woven',
  'stone',
  'brick',
  'wood',
  'anodised',
  'film',
  'translucent',
  'velvet',
  'cut out',
] as const;
export type Family = (typeof FAMILIES)[number];

/** Which way brushed strokes run over a face. */
export const BRUSHINGS = ['outline', 'line', 'around'] as const;
export type Brushing = (typeof BRUSHINGS)[number];

/** What may feed a parameter: an axis over the face. */
export const FEED_SOURCES = [
  'angle',
  'along',
  'up',
  'through',
  'outline',
  'rim',
  'upward',
  'noise',
  'turbulence',
  'cells',
  'cracks',
  'grain',
  'weave',
  'bricks',
  'tiles',
  'picture',
  'near',
] as const;
export type FeedSource = (typeof FEED_SOURCES)[number];

export const LIGHT_KINDS = ['area', 'card', 'spot', 'point', 'directional', 'ambient', 'array'] as const;
export type LightKind = (typeof LIGHT_KINDS)[number];

export const AREA_SHAPES = ['rectangle', 'round', 'outline', 'letters'] as const;
export type AreaShape = (typeof AREA_SHAPES)[number];

/** What a card shows mirrors: light of its own, or a white surface that others light. */
export const CARD_FACES = ['glowing', 'white'] as const;
export type CardFace = (typeof CARD_FACES)[number];

/** How lamps of an arrangement stand. */
export const ARRANGEMENTS = ['ring', 'row', 'pair', 'sides', 'tent', 'triad'] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

/** Where a light stands: around what it aims at, anywhere, or straight before the type's face. */
export const STANDS = ['around', 'free', 'facing'] as const;
export type Stands = (typeof STANDS)[number];

/** How lights without a size fade with their distance. */
export const FALL_OFFS = ['square', 'linear', 'none', 'clamped'] as const;
export type FallOff = (typeof FALL_OFFS)[number];

/** What light is painted with on a surround's sphere. */
export const PANEL_SHAPES = ['box', 'disc', 'ring', 'band', 'ramp', 'picture'] as const;
export type PanelShape = (typeof PANEL_SHAPES)[number];

export const PANEL_BLENDS = ['linear', 'eased', 'held'] as const;
export type PanelBlend = (typeof PANEL_BLENDS)[number];

/** What stands behind the type where nothing else does. */
export const BACKDROPS = ['nothing', 'black', 'colour'] as const;
export type Backdrop = (typeof BACKDROPS)[number];

/** View transforms: how light becomes a picture on a screen. */
export const VIEWS = ['soft', 'plain'] as const;
export type View = (typeof VIEWS)[number];

export const PIECE_KINDS = ['floor', 'wall', 'backdrop', 'table', 'niche', 'grid', 'plate', 'model'] as const;
export type PieceKind = (typeof PIECE_KINDS)[number];

/** Where a plate stands: across all that the camera takes in, or free. */
export type PlateStand = 'frame' | 'free';

/** How a camera sees: as an eye does, or along parallel rays. */
export type CameraView = 'perspective' | 'parallel';

export const FRAMES = ['16:9', '1:1', '4:5', '9:16', 'own'] as const;
export type Frame = (typeof FRAMES)[number];

/** Steady moves, that need no keys. */
export const MOVE_KINDS = ['turn', 'swing', 'drift', 'wander', 'breathe', 'pass', 'flicker'] as const;
export type MoveKind = (typeof MOVE_KINDS)[number];

/** What flicker is like. */
export const FLICKERS = ['tube', 'candle', 'hum', 'relay'] as const;
export type FlickerKind = (typeof FLICKERS)[number];

/** What of a letter stays where it is while it turns. */
export type LetterPivot = 'foot' | 'middle' | 'head';

/** In which order letters are moved. */
export const LETTER_ORDERS = ['together', 'reading', 'middle', 'random'] as const;
export type LetterOrder = (typeof LETTER_ORDERS)[number];

export const TRACK_ENDS = ['hold', 'close', 'again', 'return'] as const;
/** What a track does once its keys are over: stays, goes back to its first key, or goes through them again. */
export type TrackEnd = (typeof TRACK_ENDS)[number];

/** How the value of a key goes over into that of the next. */
export const EASES = ['linear', 'hold', 'eased'] as const;
export type Ease = (typeof EASES)[number];
