/** The one-way rule: app → features → workers → core; server → core; cli → core. Nothing points back, nothing runs in a circle. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from },
  to: { path: '^(src|cli|bench|e2e|scripts)/', pathNot: allowed },
});

module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    only('core-sees-only-core', '^src/core/(?!tests)', '^src/core/'),
    only('workers-see-core', '^src/workers/', '^src/(core|workers)/'),
    only('features-see-workers-and-core', '^src/features/', '^src/(core|workers|features)/'),
    only('server-sees-core', '^src/server/', '^src/(core|server)/'),
    only('app-sees-features-and-server', '^src/app/', '^src/(core|features|server|app)/'),
    only('cli-sees-core', '^cli/', '^(src/core|cli)/'),
    {
      name: 'core-stays-plain',
      comment: 'No React, no three.js, no Node in the core: a schema, a glTF model and a zip codec are all it may use.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '(\\.test\\.ts$|^src/core/tests/)' },
      to: { dependencyTypes: ['npm', 'npm-dev', 'core'], pathNot: 'node_modules/(zod|@gltf-transform/core|fflate)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default'] },
  },
};
