/** The one-way rule: app → features → workers → core; server → core; cli → core. Nothing points back, nothing runs in a circle. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from },
  to: { path: '^(src|cli|bench|e2e|scripts)/', pathNot: allowed },
});

/** The rooms of the core, each seeing only those before it. */
const ROOMS = 'math body ground gait course schedule solve clip motion steps directions travel measure formats check sheet handover project'.split(' ');
const later = (room) => ROOMS.slice(ROOMS.indexOf(room) + 1);
const roomOrder = ROOMS.slice(0, -1).map((room) => ({
  name: `core-${room}-sees-only-rooms-before-it`,
  severity: 'error',
  // Tests stand beside the code but look from outside.
  from: { path: `^src/core/${room}/`, pathNot: '\\.test\\.ts$' },
  to: { path: `^src/core/(${later(room).join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...roomOrder,
    {
      name: 'core-has-only-these-rooms',
      severity: 'error',
      from: {},
      to: { path: '^src/core/[^/]+/', pathNot: `^src/core/(${ROOMS.join('|')}|tests)/` },
    },
    {
      name: 'tests-alone-see-tests',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '(\\.test\\.ts$|^src/core/tests/)' },
      to: { path: '^src/core/tests/' },
    },
    {
      name: 'motion-is-the-seam',
      comment: 'Outside the core nothing names schedule, solve or the pendulum: a motion is all that walkway, measures and files know.',
      severity: 'error',
      from: { path: '^(src/(features|workers|server|app)|cli)/' },
      to: { path: '^src/core/(schedule|solve)/' },
    },
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
