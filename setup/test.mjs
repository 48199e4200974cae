// npm test [-- PART…]: lint, types, unit, integration on both engines, faults and the real interface; the last line counts.
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, installPackages, prepare, ROOT, runPackage } from './steps.mjs';
import { installSystemPackages } from './systemPackages.mjs';

const PROJECTS = {
  unit: ['unit'],
  integration: ['pglite', 'postgres'],
  faults: ['faults'],
  powercut: ['faults'],
  e2e: ['e2e'],
};

installPackages();
const wanted = process.argv.slice(2);
const all = wanted.length === 0;
let passed = 0;
let failed = 0;
/** What did not pass, said again at the end: a long output is read from below. */
const failures = [];

async function check(words, work) {
  console.log(`\n── ${words}`);
  try {
    await work();
    passed += 1;
  } catch {
    failed += 1;
    failures.push(words);
  }
}

if (all) {
  await check('lint', () => runPackage('eslint', ['.']));
  await check('format', () => runPackage('prettier', ['--check', '.', '--log-level', 'warn']));
  await check('direction of imports', () =>
    runPackage('depcruise', [
      '--config',
      'dependencies.config.cjs',
      'core',
      'contract',
      'server',
      'web',
      'devices',
      'demo',
    ]),
  );
  await check('types of core, server and tests', () =>
    runPackage('tsc', ['--noEmit', '-p', 'tsconfig.node.json']),
  );
  await check('types of the pages', () => runPackage('vue-tsc', ['--noEmit', '-p', 'tsconfig.web.json']));
}

await installSystemPackages();
if (all || wanted.includes('e2e')) await prepare();
else await build('server');

const projects = all ? Object.values(PROJECTS).flat() : wanted.flatMap((part) => PROJECTS[part] ?? []);
for (const project of new Set(projects)) {
  console.log(`\n── ${project}`);
  const file = join(ROOT, 'dist', `tests-${project}.json`);
  rmSync(file, { force: true });
  const only = wanted.includes('powercut') ? ['powerCut'] : [];
  await runPackage('vitest', [
    'run',
    '--project',
    project,
    ...only,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]).catch(() => {});
  try {
    const result = JSON.parse(readFileSync(file, 'utf8'));
    passed += result.numPassedTests;
    // A file that could not be run at all counts as one failure.
    const unrun = result.testResults.filter(
      ({ status, assertionResults }) =>
        status === 'failed' && !assertionResults.some((one) => one.status === 'failed'),
    );
    failed += result.numFailedTests + result.numPendingTests + unrun.length;
    failures.push(
      ...unrun.map(({ name, message }) => `${project}: ${name}\n${message}`),
      ...result.testResults
        .flatMap(({ assertionResults }) => assertionResults)
        .filter(({ status }) => status !== 'passed')
        .map(({ fullName, failureMessages }) => [`${project}: ${fullName}`, ...failureMessages].join('\n')),
    );
  } catch {
    failed += 1;
    failures.push(`${project} gave no result`);
  }
}

for (const failure of failures) console.log(`\n✗ ${failure}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
