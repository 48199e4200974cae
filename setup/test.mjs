// npm test [-- PART…]: lint, types, unit, integration on both engines, faults and the real interface; the last line
// counts.
import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { build, installPackages, ROOT } from './steps.mjs';
import { installSystemPackages } from './systemPackages.mjs';

const FLOORS = ['core', 'contract', 'server', 'web', 'devices', 'demo'];
const CHECKS = [
  ['lint', 'eslint', ['.', '--cache', '--cache-location', 'dist/cache/eslint']],
  [
    'format',
    'prettier',
    ['--check', '.', '--log-level', 'warn', '--cache', '--cache-location', 'dist/cache/prettier'],
  ],
  ['direction of imports', 'depcruise', ['--config', 'dependencies.config.cjs', ...FLOORS]],
  // Four times as quick as the compiler before it, which lint and the pages' types still need.
  ['types of core, server and tests', '../typescript-7/bin/tsc', ['--noEmit', '-p', 'tsconfig.node.json']],
  ['types of the pages', 'vue-tsc', ['--noEmit', '-p', 'tsconfig.web.json']],
];
/** Where two cores have much to do, collecting waste on several threads takes more than it saves. */
const LEAN = ['--single-threaded-gc', '--max-semi-space-size=64'];
const PROJECTS = {
  unit: ['unit', 'unit-pages'],
  integration: ['pglite', 'postgres'],
  faults: ['faults'],
  powercut: ['faults'],
  e2e: ['e2e'],
};

// What the machine lacks comes while the packages do.
const machineReady = installSystemPackages();
machineReady.catch(() => {});
installPackages();
const wanted = process.argv.slice(2);
const all = wanted.length === 0;
let passed = 0;
/** What did not pass, said again at the end: a long output is read from below. */
const failures = [];
const times = [];

/** Runs a program of a package, and shows what it printed when it has ended: two at once would mix. */
function run(title, name, args, priority = constants.priority.PRIORITY_LOW) {
  const began = performance.now();
  const printed = [];
  return new Promise((done) => {
    const program = join(ROOT, 'node_modules', '.bin', name);
    const child = spawn(process.execPath, [...LEAN, program, ...args], { cwd: ROOT });
    setPriority(child.pid, priority);
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => printed.push(part));
    child.on('close', (code) => {
      const seconds = Math.round((performance.now() - began) / 1000);
      times.push(`${String(seconds).padStart(5)} s  ${title}`);
      console.log(`\n── ${title}, ${seconds} s\n${Buffer.concat(printed).toString()}`);
      done(code === 0);
    });
  });
}

async function check([title, name, args]) {
  if (await run(title, name, args)) passed += 1;
  else failures.push(title);
}

async function test(project, priority) {
  const file = join(ROOT, 'dist', `tests-${project}.json`);
  rmSync(file, { force: true });
  const only = wanted.includes('powercut') ? ['powerCut'] : [];
  const reporters = ['--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
  await run(project, 'vitest', ['run', '--project', project, ...only, ...reporters], priority);
  try {
    const result = JSON.parse(readFileSync(file, 'utf8'));
    passed += result.numPassedTests;
    for (const { name, status, message, assertionResults } of result.testResults) {
      const bad = assertionResults.filter((one) => one.status !== 'passed');
      // A file that could not be run at all counts as one failure.
      if (status === 'failed' && bad.length === 0) failures.push(`${project}: ${name}\n${message}`);
      for (const { fullName, failureMessages } of bad) {
        failures.push([`${project}: ${fullName}`, ...failureMessages].join('\n'));
      }
    }
  } catch {
    failures.push(`${project} gave no result`);
  }
}

const projects = new Set(
  all ? Object.values(PROJECTS).flat() : wanted.flatMap((part) => PROJECTS[part] ?? []),
);
const has = (project) => projects.has(project);
/** What needs neither a database's server nor a browser, nor anything built. */
const works = [
  ...(all ? CHECKS : []).map((one) => () => check(one)),
  ...['unit', 'unit-pages'].filter(has).map((one) => () => test(one)),
];
async function lane() {
  for (let work = works.shift(); work; work = works.shift()) await work();
}
// The first lane begins while the rest is being built.
const first = lane();
await build('server');
if (has('e2e')) await build('web');
await machineReady;
works.unshift(...['postgres', 'faults'].filter(has).map((one) => () => test(one)));
// The real interface, where somebody waits for answers, goes before all of them. What takes longest has most of what
// that leaves, so that it is not left over at the end, when there is nothing to do beside it; then the rest, two at a
// time, for each waits now and then.
const { PRIORITY_NORMAL, PRIORITY_BELOW_NORMAL } = constants.priority;
await Promise.all([
  ...(has('e2e') ? [test('e2e', PRIORITY_NORMAL)] : []),
  ...(has('pglite') ? [test('pglite', PRIORITY_BELOW_NORMAL)] : []),
  first,
  lane(),
]);

for (const failure of failures) console.log(`\n✗ ${failure}`);
console.log(`\nWhere the time goes:\n${times.join('\n')}`);
console.log(`\n${passed} passed, ${failures.length} failed`);
process.exit(failures.length === 0 && passed > 0 ? 0 : 1);
