/** Dependencies point inwards: core knows nobody, contracts know core, web and server never know each other. */

/** The rooms of core; each knows the ones before it alone, by value and by type. */
const ROOMS = [
  'values',
  'text',
  'time',
  'library',
  'rotation',
  'clocks',
  'week',
  'sequence',
  'rules',
  'engine',
  'log',
  'station',
  'judge',
  'headroom',
  'generate',
  'formats',
  'traffic',
  'limits',
  'hand-over',
  'sheet',
  'reports',
  'forecast',
  'begin',
];

function rooms() {
  return ROOMS.map((room, at) => ({
    name: `room-${room}`,
    severity: 'error',
    from: { path: `^packages/core/src/${room}/`, pathNot: '\\.spec\\.ts$' },
    to: { path: `^packages/core/src/(${ROOMS.slice(at + 1).join('|') || 'none'})/` },
  }));
}

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...rooms(),
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^packages/core/' },
      to: { path: '^(packages/contracts|apps|demo|e2e|bench)/' },
    },
    {
      name: 'core-does-no-input-or-output',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.spec\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'contracts-know-core-alone',
      severity: 'error',
      from: { path: '^packages/contracts/' },
      to: { path: '^(apps|demo|e2e|bench)/' },
    },
    {
      name: 'web-does-not-know-server',
      severity: 'error',
      from: { path: '^apps/web/' },
      to: { path: '^(apps/(server|cli)|demo)/' },
    },
    {
      name: 'server-does-not-know-web',
      severity: 'error',
      from: { path: '^apps/server/' },
      to: { path: '^(apps/(web|cli)|demo)/' },
    },
    {
      name: 'packages-have-one-door',
      severity: 'error',
      from: { path: '^(apps|packages|demo|bench|e2e)/([^/]+)/' },
      to: {
        path: '^packages/([^/]+)/src/(?!index\\.ts|formats/(?:decode|encode)-text\\.ts|testing/small-station\\.ts)',
        pathNot: '^packages/$2/',
      },
    },
    {
      name: 'routes-hold-no-queries',
      severity: 'error',
      from: { path: '/routes\\.ts$' },
      to: { path: '^apps/server/src/db/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules)/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types'],
      extensions: ['.ts', '.js', '.mjs'],
    },
  },
};
