// The direction of imports between floors.
const only = (floor, allowed) => ({
  name: `${floor}-imports`,
  comment: `${floor}/ imports ${allowed.join(', ') || 'nothing'} besides itself`,
  severity: 'error',
  from: { path: `^${floor}/`, pathNot: '\\.test\\.ts$|^server/testing/' },
  to: {
    path: '^(core|contract|server|web|devices|demo|e2e|bench)/',
    pathNot: `^(${[floor, ...allowed].join('|')})/`,
  },
});

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    only('core', []),
    only('contract', ['core']),
    only('server', ['core', 'contract', 'devices']),
    // The page of the stand-in terminal is its face.
    only('web', ['core', 'contract', 'devices/terminal/face']),
    only('devices', ['core']),
    only('demo', ['core', 'contract', 'server']),
    {
      name: 'pages-ask-their-stores',
      comment: "a page asks its room's store; only stores talk to the server",
      severity: 'error',
      from: { path: '^web/.*\\.vue$' },
      to: { path: '^web/net/api\\.ts$' },
    },
    {
      name: 'core-without-packages',
      comment: 'core/ is pure: nothing of Node.js, and no packages but the tables of a standard',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core', 'npm-no-pkg', 'npm-unknown'],
        pathNot: '^node_modules/(any-ascii|currency-codes)/',
      },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'sql-in-stores',
      comment: 'routes and services go through stores',
      severity: 'error',
      from: { path: '^server/(counter|drawer|goods|journal|setup|staff|waiting)/.*routes\\.ts$' },
      to: { path: '^server/db/(pglite|postgres)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.web.json' },
  },
};
