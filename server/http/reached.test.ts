import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { afterEach, describe, expect, it } from 'vitest';
import { namedHostsOnly } from './session.ts';
import { problemAnswers } from './problem.ts';
import { pino } from 'pino';
import { request } from 'node:http';

let server: Server;
afterEach(() => void server.close());

/** What is answered to a host, with what a proxy says. */
async function ask(
  hosts: string[],
  proxy: number | undefined,
  headers: Record<string, string>,
): Promise<{ status: number; secure: boolean }> {
  const app = express();
  if (proxy !== undefined) app.set('trust proxy', proxy);
  app.use(namedHostsOnly(hosts));
  app.get('/', ({ secure }, response) => void response.json({ secure }));
  app.use(problemAnswers(pino({ level: 'silent' })));
  server = createServer(app).listen(0);
  const { port } = server.address() as AddressInfo;
  return new Promise((resolve, reject) => {
    request({ port, headers }, (answer) => {
      let text = '';
      answer.on('data', (part: Buffer) => (text += part.toString()));
      answer.on('end', () => {
        const { secure } = JSON.parse(text) as { secure?: boolean };
        resolve({ status: answer.statusCode ?? 0, secure: secure ?? false });
      });
    })
      .on('error', reject)
      .end();
  });
}

describe('how the application is reached', () => {
  it('for any host where the shop names none, else for its own only', async () => {
    expect((await ask([], undefined, { host: 'anything.example' })).status).toBe(200);
    server.close();
    expect((await ask(['till.shop.example'], undefined, { host: 'Till.Shop.example:4180' })).status).toBe(
      200,
    );
    server.close();
    expect((await ask(['till.shop.example'], undefined, { host: 'elsewhere.example' })).status).toBe(421);
  });

  it('believes what a proxy says only where it is trusted', async () => {
    const said = { host: 'a.example', 'x-forwarded-proto': 'https' };
    expect((await ask([], undefined, said)).secure).toBe(false);
    server.close();
    expect((await ask([], 1, said)).secure).toBe(true);
  });
});
