import { createServer } from 'node:net';

/** Below the ports that systems hand out by themselves: nobody is given one of these while its shop is closed. */
const [FIRST, COUNT] = [20_000, 10_000];

const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, () => server.close(() => resolve(true)));
  });

/** An address on this machine at which nobody is. */
export async function freePlace(): Promise<string> {
  for (;;) {
    const port = FIRST + Math.floor(Math.random() * COUNT);
    if (await isFree(port)) return `http://localhost:${port}`;
  }
}
