// Who may import whom. The arrows are those of docs/architecture.md.
const parts = ['protocol', 'core', 'motley', 'charts', 'client', 'service', 'cli', 'console'];
const mayImport = {
  protocol: [],
  core: [],
  motley: ['core'],
  charts: ['core'],
  client: ['protocol'],
  service: ['protocol', 'core', 'motley'],
  cli: ['core', 'motley', 'charts', 'client', 'protocol'],
  console: ['core', 'motley', 'charts', 'client', 'protocol'],
};
const arrows = parts.map((from) => ({
  name: `${from}-imports-only-what-it-may`,
  severity: 'error',
  from: { path: `^${from}/src` },
  to: { path: `^(${parts.filter((to) => to !== from && !mayImport[from].includes(to)).join('|')})/` },
}));

// The floors of a package, the lowest first: a folder imports itself and those before it.
const floors = {
  core: [
    'cards',
    'chance',
    'statistics',
    'audit',
    'hands',
    'program',
    'patterns',
    'machine',
    'rules',
    'views',
    'simulate',
    'opponents',
    'fair',
    'play',
    'solve',
    'trials',
    'drafts',
  ],
  motley: ['grammar', 'symbols', 'parts', 'check', 'compile', 'format', 'highlight', 'editing'],
  service: [
    'storage',
    'access',
    'workers',
    'thinking',
    'sheets',
    'drafts',
    'trials',
    'broadcast',
    'records',
    'peers',
    'tables',
    'live',
    'http',
  ],
};
const stairs = Object.entries(floors).flatMap(([part, folders]) =>
  folders.slice(0, -1).map((folder, i) => ({
    name: `${part}-${folder}-imports-no-folder-above-it`,
    severity: 'error',
    from: { path: `^${part}/src/${folder}/` },
    to: { path: `^${part}/src/(${folders.slice(i + 1).join('|')})/` },
  })),
);

module.exports = {
  forbidden: [
    ...arrows,
    ...stairs,
    {
      name: 'no-circles',
      severity: 'error',
      comment: 'of types neither',
      from: { path: 'src/', pathNot: '/generated/' },
      to: { circular: true },
    },
    {
      name: 'machine-runs-what-codegen-writes',
      severity: 'error',
      comment: 'generated code and what it calls know nothing of how it is written',
      from: { path: '^core/src/machine/', pathNot: '^core/src/machine/codegen/' },
      to: { path: '^core/src/machine/codegen/' },
    },
    {
      name: 'motley-loads-in-a-browser',
      severity: 'error',
      from: { path: '^motley/src/', pathNot: '^motley/src/editing/(server|within-time)' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'core-has-no-io', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    {
      name: 'only-motley-parses',
      severity: 'error',
      from: { path: 'src/', pathNot: '^motley/' },
      to: { path: 'node_modules/(langium|chevrotain)' },
    },
    {
      name: 'service-compiles-apart',
      severity: 'error',
      from: { path: '^service/src', pathNot: '^service/src/sheets/compile-task' },
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
