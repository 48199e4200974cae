/** The thread that sets documents as PDF, one after the other, while tills go on. */
import { parentPort } from 'node:worker_threads';
import type { ToSet, WasSet } from './pdf.ts';
import { setPdf } from './setPdf.ts';

const port = parentPort;
if (!port) throw new Error('this file runs in a worker thread');
const answer = (said: WasSet) => port.postMessage(said);

port.on('message', ({ id, sheet }: ToSet) => {
  setPdf(sheet).then(
    (pdf) => answer({ to: id, pdf }),
    (error: unknown) => answer({ to: id, trouble: error instanceof Error ? error.message : String(error) }),
  );
});
