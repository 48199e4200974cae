import { connect, type Socket } from 'node:net';
import type { PrinterSetup } from '../../core/journal/printerSetup.ts';
import type { PrinterDriver, PrinterJob, PrintProgress } from './driver.ts';
import { escPos } from './escPos.ts';

/** How long is waited for what a printer does at once, and how often one that prints is asked how it is. */
export interface PrinterPatience {
  /** For a connection and for each answer, in milliseconds. */
  answer: number;
  /** Between two looks at a printer that has not said yet that the paper is out, in milliseconds. */
  look: number;
}

const PATIENCE: PrinterPatience = { answer: 4000, look: 1500 };

const DLE = 0x10;
const EOT = 0x04;
/** Real-time questions (ESC/POS `DLE EOT n`), answered even by a printer that is off-line. */
const ASK_OFFLINE = Buffer.from([DLE, EOT, 2]);
const ASK_PAPER = Buffer.from([DLE, EOT, 4]);
/** `GS r 1`: answered when everything that was sent before it has been worked off. */
const ASK_WHEN_DONE = Buffer.from([0x1d, 0x72, 1]);

/** Answers to real-time questions have bits 1 and 4 set, and 0 and 7 not: no other answer looks like that. */
const isRealTime = (byte: number) => (byte & 0x93) === 0x12;
/** The answer to `GS r` has bits 4 and 7 clear. */
const isDone = (byte: number) => (byte & 0x90) === 0;

const COVER_OPEN = 0x04;
const STOPPED_FOR_PAPER = 0x20;
const FAULT = 0x40;
const PAPER_AT_END = 0x60;

/** In words, what the two answers say is wrong. */
function troubleIn(offline: number, paper: number): string | undefined {
  if (offline & COVER_OPEN) return 'The cover of the printer is open.';
  if (paper & PAPER_AT_END || offline & STOPPED_FOR_PAPER) return 'The printer is out of paper.';
  if (offline & FAULT) return 'The printer reports a fault. Switch it off and on.';
  return undefined;
}

/** A connection on which one thing at a time is asked. */
class Line {
  readonly #socket: Socket;
  readonly #where: string;
  readonly #answers: number[] = [];
  #ended: Error | undefined;
  #stir: () => void = () => {};

  constructor(socket: Socket, where: string) {
    this.#socket = socket;
    this.#where = where;
    socket.on('data', (bytes) => {
      this.#answers.push(...bytes);
      this.#stir();
    });
    const end = () => {
      this.#ended ??= new Error(`The connection to the printer at ${where} broke off.`);
      this.#stir();
    };
    socket.on('error', end);
    socket.on('close', end);
  }

  /** @throws Error when the connection is gone */
  async send(bytes: Uint8Array): Promise<void> {
    if (this.#ended) throw this.#ended;
    await new Promise<void>((done, fail) => {
      this.#socket.write(bytes, (error) => (error ? fail(error) : done()));
    });
  }

  /**
   * The next answer of a kind; others that came before it are passed over.
   * @returns nothing when none came in time. @throws Error when the connection is gone
   */
  async answer(fits: (byte: number) => boolean, within: number): Promise<number | undefined> {
    let late = false;
    const timer = setTimeout(() => {
      late = true;
      this.#stir();
    }, within);
    try {
      for (;;) {
        const at = this.#answers.findIndex(fits);
        if (at >= 0) return this.#answers.splice(at, 1)[0];
        if (this.#ended) throw this.#ended;
        if (late) return undefined;
        await new Promise<void>((stir) => {
          this.#stir = stir;
        });
      }
    } finally {
      clearTimeout(timer);
    }
  }

  /** What keeps the printer from printing, asked of the printer itself. @throws Error when it is silent */
  async trouble(within: number): Promise<string | undefined> {
    const said: number[] = [];
    for (const question of [ASK_OFFLINE, ASK_PAPER]) {
      await this.send(question);
      const byte = await this.answer(isRealTime, within);
      if (byte === undefined) throw new Error(`The printer at ${this.#where} does not answer.`);
      said.push(byte);
    }
    const [offline = 0, paper = 0] = said;
    return troubleIn(offline, paper);
  }

  /** Lets the other side have what was sent, then hangs up. */
  async hangUp(): Promise<void> {
    if (this.#ended) return;
    await new Promise<void>((done) => {
      this.#socket.end(done);
    });
    this.#socket.destroy();
  }

  /** Hangs up at once. */
  drop(): void {
    this.#socket.destroy();
  }
}

function call({ host, port }: PrinterSetup, within: number): Promise<Line> {
  const where = `${host}:${port}`;
  return new Promise((done, fail) => {
    const socket = connect({ host, port, noDelay: true });
    const give = (words: string) => {
      socket.destroy();
      fail(new Error(words));
    };
    const timer = setTimeout(() => give(`The printer at ${where} does not answer.`), within);
    socket.once('error', () => {
      clearTimeout(timer);
      give(`The printer at ${where} cannot be reached. Is it on?`);
    });
    socket.once('connect', () => {
      clearTimeout(timer);
      socket.removeAllListeners('error');
      done(new Line(socket, where));
    });
  });
}

/**
 * Printers on the network that take raw bytes (TCP, port 9100). One that answers is asked before a paper
 * whether it can print, and is believed to have printed when it says so after the last byte.
 */
export function networkPrinter(patience: PrinterPatience = PATIENCE): PrinterDriver {
  /** A printer takes one connection at a time, whichever tills print on it. */
  const busy = new Map<string, Promise<unknown>>();

  async function printOn({ setup, paper, openDrawer }: PrinterJob, progress: PrintProgress): Promise<void> {
    if (paper.rows.length === 0 && !(openDrawer && setup.pulse)) return;
    // One that waited for another paper, or for the connection, while the server stops does not begin any more.
    progress.ending.throwIfAborted();
    const line = await call(setup, patience.answer);
    const hangUp = () => line.drop();
    progress.ending.addEventListener('abort', hangUp);
    try {
      progress.ending.throwIfAborted();
      if (setup.answers) {
        const trouble = await line.trouble(patience.answer);
        if (trouble) throw new Error(trouble);
      }
      await progress.begins();
      await line.send(escPos(paper, openDrawer, setup));
      if (setup.answers) await waitUntilOut(line, progress);
      await line.hangUp();
    } finally {
      progress.ending.removeEventListener('abort', hangUp);
      line.drop();
    }
  }

  /**
   * A printer that ran out of paper in the middle goes on when it has some: as long as it answers, it is waited for.
   */
  async function waitUntilOut(line: Line, progress: PrintProgress): Promise<void> {
    await line.send(ASK_WHEN_DONE);
    while ((await line.answer(isDone, patience.look)) === undefined) {
      const trouble = await line.trouble(patience.answer);
      if (trouble) progress.trouble(trouble);
    }
  }

  return {
    print(job, progress) {
      const where = `${job.setup.host}:${job.setup.port}`;
      const before = busy.get(where) ?? Promise.resolve();
      const mine = before.then(() => printOn(job, progress));
      const ended = mine.catch(() => {});
      busy.set(where, ended);
      return mine;
    },
  };
}
