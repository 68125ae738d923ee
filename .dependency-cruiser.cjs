// Who may import whom. The arrows are those of docs/architecture.md.
const parts = ['protocol', 'core', 'motley', 'client', 'service', 'cli', 'console'];
const mayImport = {
  protocol: [],
  core: [],
  motley: ['core'],
  client: ['protocol'],
  service: ['protocol', 'core', 'motley'],
  cli: ['core', 'motley', 'client', 'protocol'],
  console: ['core', 'motley', 'client', 'protocol'],
};
const arrows = parts.map((from) => ({
  name: `${from}-imports-only-what-it-may`,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: `^(${parts.filter((to) => to !== from && !mayImport[from].includes(to)).join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...arrows,
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: 'src/', pathNot: 'generated' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'engine-knows-nothing-of-play',
      severity: 'error',
      from: { path: '^core/src/', pathNot: '^core/src/(play|index)' },
      to: { path: '^core/src/play/' },
    },
    { name: 'core-has-no-io', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    {
      name: 'only-motley-parses',
      severity: 'error',
      from: { path: 'src/', pathNot: '^motley/' },
      to: { path: 'node_modules/(langium|chevrotain)' },
    },
    {
      name: 'service-compiles-in-its-worker',
      severity: 'error',
      from: { path: '^service/src', pathNot: '^service/src/sheets/worker' },
      to: { path: '^motley/' },
    },
    { name: 'nothing-imports-tests', severity: 'error', from: { path: 'src/' }, to: { path: '/test/|^e2e/' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules|dist' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.js', '.vue', '.json'],
    },
  },
};
