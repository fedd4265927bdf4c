// The kernel's memory, described once. `compile.mjs` writes it for AssemblyScript and for TypeScript.
//
//   0        FLOOR         nodes            packs            lanes                     scratch
//   |kernel's |  nodes, 128 B  |  packs, 160 B  |  one a thread      |  positions, then the |
//   |constants|  each          |  each          |  (stack, hit, ...) |  builder's workings  |
//
//   node   0        16       32       48       64       80       96            112      128
//          | min x4 | max x4 | min y4 | max y4 | min z4 | max z4 | 4 children  | (free) |     four boxes
//   pack   0            48           96           144        160
//          | x4 y4 z4   | x4 y4 z4   | x4 y4 z4   | 4 numbers |                              four triangles
//            first corners, second, third
//   lane   0                      STACK            + 64             + rays             + hits
//          | stack of references  | last hit (16)  | 1024 rays, 32 B | 1024 hits, 16 B  |
//   ray    0             12      16              28
//          | origin xyz  | tmin  | direction xyz | tmax |
//   hit    0   4    8    12
//          | t | b1 | b2 | triangle |
//
// A child reference is a node's number, or the complement of (first pack << LEAF_SHIFT | packs).

const LANES = 4;
const FLOAT = 4;
const node = { bounds: 6 * LANES * FLOAT, children: LANES * FLOAT, free: LANES * FLOAT };
const pack = { corners: 9 * LANES * FLOAT, ids: LANES * FLOAT };
const batchRays = 1024;
const stack = 16384;
const rayBytes = 8 * FLOAT;
const hitBytes = 4 * FLOAT;

/** name: [value, type in AssemblyScript, what it is] */
export const LAYOUT = {
  NODE_BYTES: [node.bounds + node.children + node.free, 'usize', 'Bytes of a node.'],
  NODE_CHILDREN: [node.bounds, 'usize', 'Where a node has its child references.'],
  PACK_BYTES: [pack.corners + pack.ids, 'usize', 'Bytes of a pack of four triangles.'],
  PACK_CORNER: [pack.corners / 3, 'usize', 'From one corner of a pack to the next.'],
  PACK_IDS: [pack.corners, 'usize', 'Where a pack has its triangle numbers.'],
  LEAF_SHIFT: [3, 'i32', 'A leaf reference is the complement of (first pack << this | packs).'],
  RAY_BYTES: [rayBytes, 'usize', 'Bytes of a ray: origin, tmin, direction, tmax.'],
  HIT_BYTES: [hitBytes, 'usize', 'Bytes of a hit: t, b1, b2, triangle.'],
  HIT_TRIANGLE: [12, 'usize', 'Where a hit has its triangle; t and the barycentrics come before.'],
  FLOOR: [4096, 'usize', 'The kernel keeps its own constants below this address.'],
  STACK_BYTES: [stack, 'usize', 'Bytes of one instance’s stack.'],
  LANE_HIT: [stack, 'usize', 'Where a lane has its last hit.'],
  LANE_RAYS: [stack + 64, 'usize', 'Where a lane has the rays of a batch.'],
  LANE_HITS: [stack + 64 + batchRays * rayBytes, 'usize', 'Where a lane has the hits of a batch.'],
  LANE_BYTES: [stack + 64 + batchRays * (rayBytes + hitBytes), 'usize', 'Bytes of a lane.'],
  BATCH_RAYS: [batchRays, 'i32', 'Rays a batch may hold.'],
  MOST_PAGES: [32768, 'i32', 'Most memory the shared module declares, in pages of 64 KiB.'],
};

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
    .map(([name, [value, , what]]) => `\n/** ${what} */\nexport const ${name} = ${value};\n`)
    .join('')}`;
