// The direction of imports between floors, and between the rooms of a floor.
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

/** Rooms of each floor, from the ground up: a room imports those of the rows above its own here, and no other. */
const ROOMS = {
  core: [
    ['backups', 'counts', 'goods', 'offers', 'setup', 'staff'],
    ['giftCards', 'pricing'],
    ['journal', 'nudges', 'payment', 'people', 'supply'],
    ['promises'],
    ['counter', 'drawer'],
    ['figures', 'books'],
  ],
  server: [
    ['db'],
    ['http'],
    ['shop', 'staff', 'tenders', 'outbox'],
    ['imports'],
    ['books'],
    ['offers'],
    ['goods', 'promises'],
    ['people', 'supply'],
    ['counts', 'transfers'],
    ['backups', 'journal'],
    ['counter', 'drawer'],
    ['cardPayments', 'giftCards'],
    ['figures', 'payment', 'waiting'],
    ['setup'],
  ],
  web: [
    ['keys', 'net'],
    ['notices', 'shop'],
    ['look'],
    ['staff'],
    ['backups', 'sale'],
    ['imports'],
    ['supply'],
    ['counts', 'goods', 'people', 'transfers'],
    ['journal', 'offers', 'terminal', 'waiting'],
    ['cardPayments'],
    ['books', 'drawer', 'figures', 'payment', 'printer', 'setup'],
    ['display', 'giftCards'],
    ['counter'],
    ['frame'],
  ],
};
const NOT_ROOMS = '\\.test\\.ts$|/testing/';

const roomRules = Object.entries(ROOMS).flatMap(([floor, rows]) => [
  ...rows.flatMap((rooms, row) =>
    rooms.map((room) => ({
      name: `${floor}-room-${room}`,
      comment: `${floor}/${room} imports rooms beneath it only`,
      severity: 'error',
      from: { path: `^${floor}/${room}/`, pathNot: NOT_ROOMS },
      to: {
        path: `^${floor}/[^/]+/`,
        pathNot: `^${floor}/(${[room, ...rows.slice(0, row).flat()].join('|')})/|${NOT_ROOMS}`,
      },
    })),
  ),
  {
    name: `${floor}-rooms-have-their-place`,
    comment: 'a new room is given its row above',
    severity: 'error',
    from: { path: `^${floor}/`, pathNot: NOT_ROOMS },
    to: { path: `^${floor}/[^/]+/`, pathNot: `^${floor}/(${rows.flat().join('|')})/|${NOT_ROOMS}` },
  },
]);

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    only('core', []),
    only('contract', ['core']),
    only('server', ['core', 'contract', 'devices']),
    // The page of the stand-in terminal is its face.
    only('web', ['core', 'contract', 'devices/terminal/face']),
    only('devices', ['core']),
    only('demo', ['core', 'contract', 'server', 'devices']),
    ...roomRules,
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
