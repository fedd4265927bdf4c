/** The direction of imports: a room imports only downward, a circle is a defect. */
const coreRoom = (name) => `^core/src/${name}/`;
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-imports-nothing-above',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(store|server|render|web|demo|journeys)/' },
    },
    {
      name: 'core-is-pure',
      comment: 'core has no Node, no DOM, no I/O',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'store-on-core',
      severity: 'error',
      from: { path: '^store/' },
      to: { path: '^(server|render|web|journeys)/' },
    },
    {
      name: 'server-beside',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(web|journeys)/' },
    },
    {
      name: 'render-beside',
      severity: 'error',
      from: { path: '^render/' },
      to: { path: '^(server|web|journeys)/' },
    },
    {
      name: 'web-on-core',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(store|server|render|demo|journeys)/' },
    },
    {
      name: 'tracer-only-in-workers',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '^web/src/workers/' },
      to: { path: coreRoom('trace'), dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'document-is-the-ground',
      severity: 'error',
      from: { path: coreRoom('document') },
      to: { path: '^core/src/(?!document/|maths/|ceilings)' },
    },
    {
      name: 'subjects-below-scene',
      severity: 'error',
      from: { path: '^core/src/(type|finish|light|stage)/' },
      to: { path: '^core/src/(scene|trace|picture)/' },
    },
    {
      name: 'scene-below-trace',
      severity: 'error',
      from: { path: coreRoom('scene') },
      to: { path: '^core/src/(trace|picture)/' },
    },
    {
      name: 'picture-is-last',
      severity: 'error',
      from: { path: coreRoom('picture') },
      to: { path: '^core/src/(type|finish|light|stage|scene|trace)/', dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'core/kernel/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
    },
  },
};
