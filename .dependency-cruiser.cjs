/** Dependencies point inwards: core knows nobody, contracts know core, web and server never know each other. */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
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
      to: { path: '^packages/([^/]+)/src/(?!index\\.ts|formats/decode-text\\.ts)', pathNot: '^packages/$2/' },
    },
    {
      name: 'routes-hold-no-queries',
      severity: 'error',
      from: { path: '^apps/server/src/routes/' },
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
