import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { figure, inTurn, median, type Figure } from './measure.ts';

const ROUNDS = 7;

/** Starts a program and waits until it says something; then stops it. */
async function until(said: string, args: readonly string[], folder: string): Promise<void> {
  const child = spawn(process.execPath, args, {
    env: { ...process.env, MONDREL_DATA: folder, PORT: '0', DATABASE_URL: '' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let text = '';
  for await (const part of child.stdout) {
    text += String(part);
    if (text.includes(said)) break;
  }
  if (!text.includes(said)) throw new Error(`the program did not say ${said}`);
  child.kill('SIGTERM');
  if (child.exitCode === null && child.signalCode === null) await once(child, 'exit');
}

const OPEN_ONLY = `import('./dist/server/main.js').then(async ({ openDatabase, readSettings }) => {
  await openDatabase(readSettings(process.env), () => {}, () => {});
  console.log('opened');
  process.exit(0);
});`;

/**
 * The demo on an existing folder until it serves; the floor is a process that only opens the folder. Both end
 * included.
 */
export async function coldStart(): Promise<Figure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-bench-'));
  try {
    await until('is open', ['setup/demo.mjs'], folder);
    const [demo, open] = await inTurn(
      ROUNDS,
      () => until('is open', ['setup/demo.mjs'], folder),
      () => until('opened', ['-e', OPEN_ONLY], folder),
    );
    return [
      figure('cold-start', 'ms median', median(demo), median(open), ROUNDS, {
        words: 'at most 2 times the floor',
        met: (_value, ratio) => ratio <= 2,
      }),
    ];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
