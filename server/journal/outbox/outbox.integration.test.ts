import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { JournalSale } from '../../../contract/journal.ts';
import type { SetupFacts } from '../../../contract/setup.ts';
import { openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../../testing/testHouse.ts';

const SOON = { timeout: 20_000, interval: 20 };

let house: TestHouse;
let manager: Browser;
const taken: string[] = [];
let busy = true;
const answer = (words: string, code: number) => Object.assign(new Error(words), { responseCode: code });
const server = new SMTPServer({
  disabledCommands: ['AUTH', 'STARTTLS'],
  onRcptTo({ address }, _session, done) {
    if (address.startsWith('nobody')) done(answer('5.1.1 No such mailbox', 550));
    else if (busy) done(answer('4.3.2 Come again later', 451));
    else done();
  },
  onData(stream, _session, done) {
    let text = '';
    stream.on('data', (part: Buffer) => (text += part.toString()));
    stream.on('end', () => {
      taken.push(text);
      done();
    });
  },
});

beforeAll(async () => {
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.server.address() as AddressInfo;
  house = await openHouse('demo', { MONDREL_SMTP: `smtp://127.0.0.1:${port}` });
  manager = house.browser();
  await manager.signIn('8024', 1);
  await openDrawer(manager);
});
afterAll(async () => {
  await house.stop();
  await new Promise<void>((closed) => server.close(closed));
});

async function sellAndSend(to: string): Promise<() => Promise<JournalSale['sent']>> {
  const sale = await ringUp(house, ['REE-BC-25']);
  await pay(manager, sale);
  const sent = await manager.ask('POST', `/journal/sales/${sale.basket.id}/sent`, { by: 'mail', to });
  expect(sent.status).toBe(200);
  return async () => (await manager.ask<JournalSale>('GET', `/journal/sales/${sale.basket.id}`)).body.sent;
}
async function mailFrom(address: string): Promise<void> {
  const { body } = await manager.ask<SetupFacts>('GET', '/setup/facts');
  const { status } = await manager.ask('PUT', '/setup/settings', { ...body.shop, mailFrom: address });
  expect(status).toBe(200);
}

describe('mail', () => {
  it('that is refused for good is not tried again, and the sale says so', async () => {
    const sent = await sellAndSend('nobody@reader.example');
    await vi.waitFor(async () => {
      expect(await sent()).toMatchObject([
        { state: 'failed', trouble: expect.stringContaining('No such mailbox') as string },
      ]);
    }, SOON);
  });

  it('that cannot go out now waits, and goes out when it can', async () => {
    const sent = await sellAndSend('ada@reader.example');
    await vi.waitFor(async () => {
      expect(await sent()).toMatchObject([
        { state: 'waiting', trouble: expect.stringContaining('Come again later') as string },
      ]);
    }, SOON);
    expect(taken).toEqual([]);
    busy = false;
    // Not before its time, unless somebody has set something right.
    house.house.outbox.wake();
    const later = await sellAndSend('ben@reader.example');
    await vi.waitFor(async () => expect(await later()).toMatchObject([{ state: 'sent' }]), SOON);
    expect(await sent()).toMatchObject([{ state: 'waiting' }]);
    await mailFrom('shop@ostlerlane.example');
    await vi.waitFor(async () => expect(await sent()).toMatchObject([{ state: 'sent', trouble: '' }]), SOON);
    const ids = taken.map((mail) => /^Message-ID: <(.+)>/m.exec(mail)?.[1] ?? '');
    expect(new Set(ids).size).toBe(2);
    for (const id of ids) expect(id).toMatch(/^\d+\.[0-9a-f-]{36}@ostlerlane\.example$/);
  });

  it('does not go out without a sender, and says what is missing', async () => {
    await mailFrom('');
    const sent = await sellAndSend('ada@reader.example');
    await vi.waitFor(async () => {
      expect(await sent()).toMatchObject([
        { state: 'waiting', trouble: expect.stringContaining('set it in Setup, Receipts') as string },
      ]);
    }, SOON);
    await mailFrom('shop@ostlerlane.example');
    await vi.waitFor(async () => expect(await sent()).toMatchObject([{ state: 'sent' }]), SOON);
  });
});
