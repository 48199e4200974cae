import { createServer, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';

/** A printer on the network as the tests need it: it understands the questions and keeps what it would print. */
export interface RawPrinter {
  readonly port: number;
  /** What it has printed, a text for each connection that printed anything. */
  readonly papers: readonly string[];
  /** How it is from now on. */
  set(state: Partial<PrinterState>): void;
  stop(): Promise<void>;
}

export interface PrinterState {
  paperOut: boolean;
  coverOpen: boolean;
  /** Takes connections and says nothing. */
  mute: boolean;
  /** Breaks the connection off after so many bytes of a paper. */
  cutAfter: number | null;
  /** Runs out of paper after so many bytes, and keeps the rest until it has some. */
  runsOutAfter: number | null;
}

const DLE_EOT = Buffer.from([0x10, 0x04]);
const GS_R = Buffer.from([0x1d, 0x72]);

/** @returns a printer that listens on this machine, on a port of its own or the one given */
export async function rawPrinter(port = 0): Promise<RawPrinter> {
  const state: PrinterState = {
    paperOut: false,
    coverOpen: false,
    mute: false,
    cutAfter: null,
    runsOutAfter: null,
  };
  const papers: string[] = [];
  const sockets = new Set<Socket>();
  const whenChanged: (() => void)[] = [];

  const server = createServer((socket) => {
    sockets.add(socket);
    let paper = -1;
    /** Bytes that wait for paper, with the question at their end. */
    const kept: Buffer[] = [];
    let bytes = 0;
    socket.on('error', () => {});
    socket.on('close', () => sockets.delete(socket));

    const put = (part: Buffer) => {
      if (part.length === 0) return;
      if (paper < 0) paper = papers.push('') - 1;
      papers[paper] = (papers[paper] ?? '') + part.toString('latin1');
      bytes += part.length;
    };
    const work = () => {
      while (kept.length > 0 && !state.paperOut) {
        const [next] = kept;
        if (!next) return;
        if (next.equals(GS_R)) {
          kept.shift();
          socket.write(Buffer.from([0]));
          continue;
        }
        const room = state.runsOutAfter === null ? next.length : state.runsOutAfter - bytes;
        if (room < next.length) {
          put(next.subarray(0, room));
          kept[0] = next.subarray(room);
          state.runsOutAfter = null;
          state.paperOut = true;
          return;
        }
        kept.shift();
        put(next);
      }
    };
    whenChanged.push(work);

    socket.on('data', (data) => {
      if (state.mute) return;
      for (let rest = data; rest.length > 0;) {
        if (rest.subarray(0, 2).equals(DLE_EOT)) {
          const offline = 0x12 | (state.coverOpen ? 0x04 : 0) | (state.paperOut ? 0x20 : 0);
          socket.write(Buffer.from([rest[2] === 2 ? offline : 0x12 | (state.paperOut ? 0x60 : 0)]));
          rest = rest.subarray(3);
        } else if (rest.subarray(0, 2).equals(GS_R)) {
          kept.push(GS_R);
          rest = rest.subarray(3);
        } else {
          const ends = [rest.indexOf(DLE_EOT), rest.indexOf(GS_R)].filter((at) => at > 0);
          const part = rest.subarray(0, Math.min(rest.length, ...ends));
          if (state.cutAfter !== null && part.length > state.cutAfter) {
            put(part.subarray(0, state.cutAfter));
            state.cutAfter = null;
            socket.destroy();
            return;
          }
          kept.push(part);
          rest = rest.subarray(part.length);
        }
      }
      work();
    });
  });
  await new Promise<void>((done) => server.listen(port, '127.0.0.1', done));

  return {
    port: (server.address() as AddressInfo).port,
    papers,
    set(change) {
      Object.assign(state, change);
      for (const work of whenChanged) work();
    },
    async stop() {
      for (const socket of sockets) socket.destroy();
      await new Promise((done) => server.close(done));
    },
  };
}
