import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * How long a connection that nobody uses stays open, in milliseconds: longer than those who ask keep theirs (browsers
 * five minutes, proxies one). Whoever closes first must be the one who asks: a connection that closes beneath a
 * question loses it.
 */
const RESTS_MS = 6 * 60_000;

/**
 * Answers at a port of this machine.
 * @param port 0 is any
 * @throws Error where the port is in use
 */
export async function listening(
  answer: RequestListener,
  port: number,
): Promise<{ server: Server; url: string }> {
  const server = createServer({ keepAliveTimeout: RESTS_MS }, answer);
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error) => {
      const taken = 'code' in error && error.code === 'EADDRINUSE';
      reject(taken ? new Error(`Port ${port} is in use. Set PORT to another one.`) : error);
    });
    server.listen(port, resolve);
  });
  return { server, url: `http://localhost:${(server.address() as AddressInfo).port}` };
}
