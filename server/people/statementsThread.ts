/** The thread that sets many statements as one file: setting them is slow, and tills go on meanwhile. */
import { parentPort, workerData } from 'node:worker_threads';
import { setPdf } from '../setPdf.ts';
import { statementsOn, type StatementSheet } from './statementPdf.ts';

const port = parentPort;
if (!port) throw new Error('this file runs in a worker thread');

const { size } = workerData as { size: 'A4' | 'LETTER' };
const sheets: StatementSheet[] = [];

/** What the thread is sent: sheets, bit by bit, and that these were all. */
export type StatementsMessage = { sheets: StatementSheet[] } | 'all';

port.on('message', (message: StatementsMessage) => {
  if (message !== 'all') {
    sheets.push(...message.sheets);
    return;
  }
  setPdf(statementsOn(sheets, size), (part) => port.postMessage({ part })).then(
    (pdf) => port.postMessage({ pdf }),
    (error: unknown) => port.postMessage({ trouble: error instanceof Error ? error.message : String(error) }),
  );
});
