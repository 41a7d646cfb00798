// The layers, from top to bottom. A file may import its own layer and those below it.
const layers = ['app', 'places', 'parts', 'client', 'audio', 'standins', 'server', 'core'];
// The server and the browser layers stand side by side: neither may see the other.
const browserOnly = ['places', 'parts', 'client', 'audio', 'standins'];

const upward = layers.slice(1).map((layer, i) => ({
  name: `${layer}-imports-downwards-only`,
  comment: `src/${layer} may not import a layer above it`,
  severity: 'error',
  from: { path: `^src/${layer}/` },
  to: { path: `^src/(${layers.slice(0, i + 1).join('|')})/` },
}));

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    ...upward,
    {
      name: 'browser-does-not-import-the-server',
      severity: 'error',
      from: { path: `^src/(${browserOnly.join('|')})/` },
      to: { path: '^src/server/' },
    },
    {
      name: 'core-is-pure',
      comment: 'src/core has no interface, DOM or Node code',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-has-no-interface',
      severity: 'error',
      from: { path: '^src/core/' },
      to: { path: 'node_modules/(react|next|zustand|radix-ui)' },
    },
    {
      name: 'core-folders-by-their-face',
      comment: 'Another core folder is entered through its index.ts only',
      severity: 'error',
      from: { path: '^src/core/([^/]+)/' },
      to: { path: '^src/core/[^/]+/', pathNot: ['^src/core/$1/', '^src/core/[^/]+/index\\.ts$'] },
    },
    // Beside src: what is shipped sees nothing of what builds, fills, measures or tests it.
    {
      name: 'the-application-stands-alone',
      comment: 'src and what is shipped of it may not lean on demo, scripts, bench or tests',
      severity: 'error',
      from: { path: '^src/', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^(demo|scripts|bench|tests)/' },
    },
    {
      name: 'the-demo-is-data',
      comment: 'the scenario is made of the core, and laid out by the server; it knows no page',
      severity: 'error',
      from: { path: '^demo/' },
      to: { path: '^(scripts|bench|tests|src/(app|places|parts|client|audio))/' },
    },
    {
      name: 'scripts-need-no-tests',
      severity: 'error',
      from: { path: '^scripts/', pathNot: '^scripts/vitest-' },
      to: { path: '^(bench|tests)/' },
    },
    {
      name: 'benchmarks-have-no-page',
      comment: 'they may start servers and references as the tests do; pages they open in a browser',
      severity: 'error',
      from: { path: '^bench/' },
      to: { path: '^src/(app|places|parts|client)/' },
    },
    {
      name: 'the-interface-is-tested-from-outside',
      comment: 'its tests press keys: they may read files and sessions by the core, and know which commands there are',
      severity: 'error',
      from: { path: '^tests/e2e/' },
      to: { path: '^src/', pathNot: '^src/(core/|places/frame/actions)' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    exclude: { path: '^(src/kernels|\\.next|build|dist)' },
  },
};
