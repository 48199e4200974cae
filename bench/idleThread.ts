import { once } from 'node:events';
import { Worker } from 'node:worker_threads';

/** Looks every millisecond, as the watch over the server's thread does, and does nothing else. */
const IDLE = `
  const { monitorEventLoopDelay } = require('node:perf_hooks');
  const { parentPort } = require('node:worker_threads');
  const delay = monitorEventLoopDelay({ resolution: 1 });
  delay.enable();
  parentPort.postMessage('watching');
  parentPort.once('message', () => parentPort.postMessage(delay.max / 1e6));
`;

/**
 * A thread that rests, beside the one that is measured: the longest that it was kept waiting is the machine's doing,
 * where more threads want to run than it has cores.
 * @returns ends it, with its longest wait in milliseconds
 */
export async function idleThread(): Promise<() => Promise<number>> {
  const thread = new Worker(IDLE, { eval: true });
  await once(thread, 'message');
  return async () => {
    thread.postMessage('end');
    const [longest] = (await once(thread, 'message')) as [number];
    await thread.terminate();
    return longest;
  };
}
