// One direction of imports, type imports included:
//   base <- units <- board, sums, safety, inference <- circuit, faults, readings <- play <- cold <- expectations <- dictionary <- trace <- diagnosis <- report
// and each core folder is entered only through its index.ts.
const coreOrder = [
  ['base'],
  ['units'],
  ['board', 'sums', 'safety', 'inference'],
  ['first-sheet', 'words'],
  ['circuit', 'faults', 'readings', 'sheet-edit'],
  ['play', 'record', 'schematic'],
  ['cold'],
  ['expectations'],
  ['dictionary'],
  ['trace', 'naming'],
  ['diagnosis'],
  ['prepare', 'short-hunt', 'taking-apart'],
  ['repair'],
  ['report', 'formats'],
];
const coreRules = coreOrder.flatMap((level, depth) =>
  level.map((folder) => {
    const allowed = [...coreOrder.slice(0, depth).flat(), folder];
    return {
      name: `core-${folder}-imports-only-what-stands-below-it`,
      severity: 'error',
      from: { path: `^packages/core/src/${folder}/` },
      to: {
        path: '^packages/core/src/',
        pathNot: `^packages/core/src/(${allowed.join('|')})/`,
      },
    };
  }),
);

// Inside diagnosis: what was observed, its weight, what a technician would name, what to do next. Only
// diagnose.ts and the index stand above all four.
const diagnosisLevels = ['evidence', 'weighing', 'grouping', 'proposing'];
const diagnosisRules = diagnosisLevels.map((level, depth) => ({
  name: `diagnosis-${level}-imports-only-what-stands-below-it`,
  severity: 'error',
  from: { path: `^packages/core/src/diagnosis/${level}/` },
  to: {
    path: '^packages/core/src/diagnosis/',
    pathNot: `^packages/core/src/diagnosis/(${diagnosisLevels.slice(0, depth + 1).join('|')})/`,
  },
}));

module.exports = {
  forbidden: [
    ...coreRules,
    ...diagnosisRules,
    {
      name: 'core-folders-are-entered-by-their-index',
      severity: 'error',
      from: { path: '^packages/core/src/([^/]+)/' },
      to: {
        path: '^packages/core/src/([^/]+)/',
        pathNot: ['^packages/core/src/$1/', '^packages/core/src/[^/]+/index\\.ts$'],
      },
    },
    {
      name: 'packages-are-entered-by-their-index',
      severity: 'error',
      from: { path: '^packages/([^/]+)/' },
      to: {
        path: '^packages/[^/]+/src/',
        pathNot: [
          '^packages/$1/',
          '^packages/core/src/[^/]+/index\\.ts$',
          '^packages/contract/src/index\\.ts$',
          '^packages/(pdf|bench|testing)/src/(index|strange-files)\\.ts$',
        ],
      },
    },
    {
      name: 'contract-uses-core-only',
      severity: 'error',
      from: { path: '^packages/contract/' },
      to: { path: '^packages/(server|web)/' },
    },
    {
      name: 'pdf-uses-core-only',
      severity: 'error',
      from: { path: '^packages/pdf/' },
      to: { path: '^packages/(contract|server|web|cli)/' },
    },
    {
      name: 'core-uses-nothing-of-ours',
      severity: 'error',
      from: { path: '^packages/core/' },
      to: { path: '^packages/(contract|pdf|server|web|cli|bench|testing)/' },
    },
    {
      name: 'cli-uses-core-only',
      severity: 'error',
      from: { path: '^packages/cli/' },
      to: { path: '^packages/(contract|server|web|bench|testing)/' },
    },
    {
      name: 'bench-measures-core-and-pdf',
      severity: 'error',
      from: { path: '^packages/(bench|testing)/' },
      to: { path: '^packages/(contract|server|web|cli)/' },
    },
    {
      name: 'nothing-that-ships-uses-what-only-tests-do',
      severity: 'error',
      from: { path: '^packages/(core|contract|pdf|server|web|cli)/' },
      to: { path: '^packages/(bench|testing)/' },
    },
    {
      name: 'web-and-server-do-not-meet',
      severity: 'error',
      from: { path: '^packages/web/' },
      to: { path: '^packages/server/' },
    },
    {
      name: 'use-cases-know-no-adapter',
      severity: 'error',
      from: { path: '^packages/server/src/(jobs|boards|dictionaries|shop|aside)/' },
      to: { path: '^packages/server/src/(http|persistence|live|instruments)/' },
    },
    {
      name: 'adapters-do-not-meet',
      severity: 'error',
      from: { path: '^packages/server/src/(http|persistence|live|instruments)/' },
      to: {
        path: '^packages/server/src/(http|persistence|live|instruments)/',
        pathNot: '^packages/server/src/$1/',
      },
    },
    {
      name: 'threads-know-nothing-of-what-they-run',
      severity: 'error',
      from: { path: '^packages/server/src/aside/' },
      to: { path: '^packages/server/src/', pathNot: '^packages/server/src/aside/' },
    },
    {
      name: 'dictionaries-and-shop-stand-alone',
      comment: 'What they need of boards, jobs or the demo is handed to them.',
      severity: 'error',
      from: { path: '^packages/server/src/(dictionaries|shop)/' },
      to: {
        path: '^packages/server/src/(jobs|boards|dictionaries|shop)/',
        pathNot: '^packages/server/src/$1/',
      },
    },
    {
      name: 'the-demo-goes-by-the-use-cases',
      comment: 'Only its own file, and main, know that there is a demo.',
      severity: 'error',
      from: { path: '^packages/server/src/(jobs|boards|dictionaries|persistence|aside)/' },
      to: { path: '^packages/server/src/demo/' },
    },
    {
      name: 'offline-knows-only-what-is-kept',
      comment: 'Entries have to be kept whatever becomes of the rest of the app.',
      severity: 'error',
      from: { path: '^packages/web/src/offline/' },
      to: { path: '^packages/web/src/', pathNot: '^packages/web/src/(offline|data)/' },
    },
    {
      name: 'data-knows-no-drawing',
      severity: 'error',
      from: { path: '^packages/web/src/data/' },
      to: { path: ['^packages/web/src/(widgets|pages|app)/', '^node_modules/antd/'] },
    },
    {
      name: 'workers-know-the-core-alone',
      severity: 'error',
      from: { path: '^packages/web/src/workers/' },
      to: { path: '^packages/web/src/', pathNot: '^packages/web/src/workers/' },
    },
    {
      name: 'a-page-never-uses-another-page',
      severity: 'error',
      from: { path: '^packages/web/src/pages/([^/]+)/' },
      to: { path: '^packages/web/src/pages/', pathNot: '^packages/web/src/pages/$1/' },
    },
    {
      name: 'widgets-know-no-page',
      severity: 'error',
      from: { path: '^packages/web/src/(widgets|data|offline)/' },
      to: { path: '^packages/web/src/(pages|app)/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    // Tests, and what they share.
    exclude: { path: '\\.test\\.tsx?$|/test-[\\w-]+\\.ts$' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types'] },
  },
};
