/** The direction of imports: a room imports only downward, a circle is a defect. */

/** Rooms of core, each with those it may import from; all may use maths and the ceilings. */
const CORE = {
  maths: [],
  document: [],
  plane: [],
  type: ['document', 'plane'],
  drawing: ['document', 'plane', 'type', 'picture'],
  solid: ['document', 'plane', 'type'],
  texture: ['document', 'picture'],
  finish: ['document', 'texture'],
  exchange: ['document', 'finish', 'texture'],
  light: ['document'],
  stage: ['document'],
  model: ['document', 'finish', 'stage', 'texture'],
  motion: ['document', 'finish', 'light', 'stage'],
  edits: ['document', 'finish', 'light', 'motion'],
  preflight: ['document', 'stage'],
  scene: [
    'document',
    'plane',
    'type',
    'drawing',
    'solid',
    'finish',
    'light',
    'model',
    'stage',
    'preflight',
    'texture',
  ],
  trace: ['document', 'finish', 'light', 'stage', 'scene', 'texture'],
  // the denoiser's memory is shared out as the kernel's is
  picture: ['document', 'light', 'trace'],
};
/** Rooms of the page, from the ground up: each may import from those before it. */
const WEB = ['workers', 'state', 'engine', 'actions', 'desk', 'stage', 'band', 'steps', 'app'];
/** Workspaces, each with those it may import from. */
const HOUSE = {
  core: [],
  wire: ['core'],
  store: ['core', 'wire'],
  demo: ['core', 'store', 'wire', 'render'],
  render: ['core', 'store', 'wire'],
  server: ['core', 'store', 'wire', 'demo', 'render'],
  web: ['core', 'wire'],
  journeys: ['core', 'store', 'wire', 'demo', 'render', 'server'],
};

const coreRules = Object.entries(CORE).map(([room, below]) => ({
  name: `core-${room}`,
  severity: 'error',
  from: { path: `^core/src/${room}/` },
  to: { path: `^core/src/(?!(${[room, 'maths', ...below].join('|')})/|ceilings)` },
}));
const webRules = WEB.slice(0, -1).map((room, i) => ({
  name: `web-${room}`,
  severity: 'error',
  from: { path: `^web/src/${room}/` },
  to: { path: `^web/src/(${WEB.slice(i + 1).join('|')})/` },
}));
const houseRules = Object.entries(HOUSE).map(([room, below]) => ({
  name: `house-${room}`,
  severity: 'error',
  // tests may reach for the fixtures of others
  from: { path: `^${room}/(src|bench|trials|[^/]+\\.ts)` },
  to: { path: `^(${Object.keys(HOUSE).join('|')})/`, pathNot: `^(${[room, ...below].join('|')})/` },
}));

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      comment: 'core has no Node, no DOM, no I/O',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'tracer-only-in-workers',
      comment: 'the page holds films and control words, and never traces',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '^web/src/workers/' },
      to: { path: '^core/src/trace/(?!(film|tiles)\\.ts)', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'declared',
      comment: 'what a workspace imports stands in its package.json, or in the root’s for tools',
      severity: 'error',
      from: { path: '^(core|wire|store|server|render|web|demo)/src/' },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown', 'unknown'] },
    },
    ...houseRules,
    ...coreRules,
    ...webRules,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(core/kernel|web/dist)/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
    },
  },
};
