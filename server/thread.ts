import { Worker } from 'node:worker_threads';

/** Starts one of the server's threads, by the name of its entry in `vite.server.config.ts`. */
export function startThread(name: string, workerData?: unknown): Worker {
  // A thread cannot be started from TypeScript: where this file is source, the built thread is taken.
  const folder = import.meta.url.endsWith('.ts') ? '../dist/server/' : './';
  return new Worker(new URL(`${folder}${name}.js`, import.meta.url), { workerData });
}
