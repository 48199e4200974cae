// What every command does first: install what is missing, build what has changed. Uses nothing but Node.js.
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

export const ROOT = resolve(import.meta.dirname, '..');
const LOCK_STAMP = join(ROOT, 'node_modules', '.installed-from');

/** Runs a program in the project's folder and shows what it prints. */
export function runProgram(program, args, options = {}) {
  return new Promise((done, fail) => {
    const child = spawn(program, args, { cwd: ROOT, stdio: 'inherit', ...options });
    child.on('error', fail);
    child.on('exit', (code) =>
      code === 0 ? done() : fail(new Error(`${program} ${args.join(' ')} failed`)),
    );
  });
}

/** Runs a program of an installed package. */
export function runPackage(name, args, options) {
  return runProgram(process.execPath, [join(ROOT, 'node_modules', '.bin', name), ...args], options);
}

/** Where the packages were installed without what only builds and tests need, nothing is installed or built. */
const IN_PRODUCTION = process.env.NODE_ENV === 'production';

/** Installs the packages when they are missing or the lock file has changed. */
export function installPackages() {
  if (IN_PRODUCTION) return;
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(LOCK_STAMP) && readFileSync(LOCK_STAMP, 'utf8') === lock) return;
  console.log('Installing packages …');
  execFileSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: ROOT, stdio: 'inherit' });
  writeFileSync(LOCK_STAMP, lock);
}

function newest(folder, wanted) {
  let time = 0;
  for (const entry of readdirSync(join(ROOT, folder), { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) time = Math.max(time, newest(path, wanted));
    else if (wanted(entry.name)) time = Math.max(time, statSync(join(ROOT, path)).mtimeMs);
  }
  return time;
}

const isSource = (name) => !name.endsWith('.test.ts') && !name.endsWith('.md');
const PARTS = {
  server: { folders: ['core', 'contract', 'server', 'devices', 'demo'], config: 'vite.server.config.ts' },
  web: { folders: ['core', 'contract', 'web'], config: 'vite.config.ts' },
};

/** Builds the server or the pages when something they are made of has changed. */
export async function build(part) {
  const { folders, config } = PARTS[part];
  const stamp = join(ROOT, 'dist', `${part}.built`);
  if (IN_PRODUCTION) {
    if (existsSync(stamp)) return;
    throw new Error(
      'Mondrel is not built yet. Run `npm ci && npm run build` without NODE_ENV=production first.',
    );
  }
  const changed = Math.max(
    ...folders.map((folder) => newest(folder, isSource)),
    ...[config, 'package-lock.json'].map((file) => statSync(join(ROOT, file)).mtimeMs),
  );
  if (existsSync(stamp) && Number(readFileSync(stamp, 'utf8')) === changed) return;
  console.log(part === 'web' ? 'Building the pages …' : 'Building the server …');
  // Also where tests build it: what they try is what a shop runs.
  const env = { ...process.env, NODE_ENV: 'production' };
  await runPackage('vite', ['build', '--config', config, '--logLevel', 'warn'], { env });
  mkdirSync(join(ROOT, 'dist'), { recursive: true });
  writeFileSync(stamp, String(changed));
}

/** Everything that the built application needs. */
export async function prepare() {
  installPackages();
  await Promise.all([build('server'), build('web')]);
}

/** The built server. */
export const serverFile = (name) => join(ROOT, 'dist', 'server', name);
export const WEB_FOLDER = join(ROOT, 'dist', 'web');
