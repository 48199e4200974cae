import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { figure, type Figure } from './measure.ts';

const WEB = 'dist/web';
const BUDGET_KB = 350;

/**
 * Every script that a page loads before it works: what the page names, and what those import, not what they load
 * later.
 */
function scriptsOf(page: string): Set<string> {
  const found = new Set<string>();
  const follow = (file: string): void => {
    if (found.has(file)) return;
    found.add(file);
    const code = readFileSync(join(WEB, file), 'utf8');
    for (const [, name] of code.matchAll(/(?:from|import)\s*"\.\/([\w.-]+\.js)"/g))
      if (name) follow(`assets/${name}`);
    // The catalogue's thread starts with the Counter.
    for (const [, name] of code.matchAll(/["'`]\/?assets\/(worker-[\w-]+\.js)["'`]/g))
      if (name) follow(`assets/${name}`);
  };
  const named = [
    ...readFileSync(join(WEB, page), 'utf8').matchAll(/(?:src|href)="\/(assets\/[\w.-]+\.js)"/g),
  ];
  for (const [, name] of named) if (name) follow(name);
  return found;
}

/** Compressed JavaScript before the sign-in page and the Counter work; the floor is the budget. */
export async function firstView(): Promise<Figure[]> {
  const scripts = [...scriptsOf('index.html')];
  if (!scripts.some((name) => name.includes('worker')))
    throw new Error('the catalogue thread was not counted');
  const kilobytes =
    scripts.reduce((total, name) => total + gzipSync(readFileSync(join(WEB, name))).length, 0) / 1000;
  return [
    figure('first-view', 'kB gzip', kilobytes, BUDGET_KB, scripts.length, {
      words: `at most ${BUDGET_KB} kB`,
      met: (value) => value <= BUDGET_KB,
    }),
  ];
}
