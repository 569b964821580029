/** Who may import whom (docs/ARCHITECTURE.md, rooms). */
const only = (room, allowed) => ({
  name: `${room}-imports`,
  severity: 'error',
  from: { path: `^${room}/src` },
  to: {
    path: '^(core|contracts|storage|server|edge|web|demo|replay|standins|bench|e2e)/',
    pathNot: `^(${[room, ...allowed].join('|')})/`,
  },
});

module.exports = {
  forbidden: [
    only('core', []),
    only('contracts', ['core']),
    only('storage', ['core']),
    only('server', ['contracts', 'core', 'storage']),
    only('replay', ['contracts', 'core', 'storage', 'server', 'demo']),
    only('edge', ['core', 'storage']),
    only('web', ['contracts', 'core']),
    only('demo', ['core']),
    only('standins', []),
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'core has no I/O',
      from: { path: '^core/src' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'edge-has-no-express-and-no-query-builder',
      severity: 'error',
      from: { path: '^edge/src' },
      to: { path: 'node_modules/(express|knex)/' },
    },
    {
      name: 'server-floors',
      severity: 'error',
      comment: 'The platform stands below the heart, the heart below the features.',
      from: { path: '^server/src/platform/' },
      to: { path: '^server/src/(heart|features)/' },
    },
    {
      name: 'server-heart-knows-no-feature',
      severity: 'error',
      from: { path: '^server/src/heart/' },
      to: { path: '^server/src/features/' },
    },
    {
      name: 'server-rooms-through-their-index',
      severity: 'error',
      from: { path: '^server/src/(heart|features)/([^/]+)/' },
      to: {
        path: '^server/src/(heart|features)/[^/]+/',
        pathNot: ['^server/src/$1/$2/', '^server/src/(heart|features)/[^/]+/index\\.ts$'],
      },
    },
    {
      name: 'web-hub-is-below',
      severity: 'error',
      from: { path: '^web/src/app/hub/' },
      to: { path: '^web/src/app/', pathNot: '^web/src/app/hub/' },
    },
    {
      name: 'web-shared-knows-the-hub-alone',
      severity: 'error',
      from: { path: '^web/src/app/shared/' },
      to: { path: '^web/src/app/', pathNot: '^web/src/app/(hub|shared)/' },
    },
    {
      name: 'web-shell-is-on-top',
      severity: 'error',
      from: { path: '^web/src/app/[^/]+/', pathNot: '^web/src/app/shell/' },
      to: { path: '^web/src/app/shell/' },
    },
    {
      name: 'documents-know-no-view',
      severity: 'error',
      comment: 'Whoever reads a document needs what blocks hold, not what they look like.',
      from: { path: '^core/src/(document|register|source|starts)/' },
      to: { path: '^core/src/blocks/(views|[^/]+/view)\\.ts$', reachable: true },
    },
    {
      name: 'no-circles-of-rooms',
      severity: 'error',
      comment: 'Between folders, types counted.',
      scope: 'folder',
      from: { path: '^(core/src|web/src/app|server/src/[a-z]+)/[^/]+$' },
      to: { circular: true },
    },
    {
      name: 'no-circles',
      severity: 'error',
      comment: 'Types count: what knows a type of a room knows the room.',
      from: { path: '^(core|contracts|storage|server|edge|demo|replay|standins|web)/src' },
      to: { circular: true },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
