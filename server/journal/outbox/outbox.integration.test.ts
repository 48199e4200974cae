import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../../contract/testing/eventually.ts';
import type { JournalSale } from '../../../contract/journal.ts';
import type { CustomerPage, CustomerPanel } from '../../../contract/people.ts';
import type { ProblemDetails } from '../../../contract/problem.ts';
import type { SetupFacts } from '../../../contract/setup.ts';
import { addSomebody } from '../../testing/people.ts';
import { openDrawer, openHouse, pay, ringUp, type Browser, type TestHouse } from '../../testing/testHouse.ts';

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
    await eventually(async () => {
      expect(await sent()).toMatchObject([
        { state: 'failed', trouble: expect.stringContaining('No such mailbox') as string },
      ]);
    });
  });

  it('that cannot go out now waits, and goes out when it can', async () => {
    const sent = await sellAndSend('ada@reader.example');
    await eventually(async () => {
      expect(await sent()).toMatchObject([
        { state: 'waiting', trouble: expect.stringContaining('Come again later') as string },
      ]);
    });
    expect(taken).toEqual([]);
    busy = false;
    // Not before its time, unless somebody has set something right.
    house.house.outbox.wake();
    const later = await sellAndSend('ben@reader.example');
    await eventually(async () => expect(await later()).toMatchObject([{ state: 'sent' }]));
    expect(await sent()).toMatchObject([{ state: 'waiting' }]);
    await mailFrom('shop@ostlerlane.example');
    await eventually(async () => expect(await sent()).toMatchObject([{ state: 'sent', trouble: '' }]));
    const ids = taken.map((mail) => /^Message-ID: <(.+)>/m.exec(mail)?.[1] ?? '');
    expect(new Set(ids).size).toBe(2);
    for (const id of ids) expect(id).toMatch(/^\d+\.[0-9a-f-]{36}@ostlerlane\.example$/);
  });

  it('does not go out without a sender, and says what is missing', async () => {
    await mailFrom('');
    const sent = await sellAndSend('ada@reader.example');
    await eventually(async () => {
      expect(await sent()).toMatchObject([
        { state: 'waiting', trouble: expect.stringContaining('set it in Setup, Receipts') as string },
      ]);
    });
    await mailFrom('shop@ostlerlane.example');
    await eventually(async () => expect(await sent()).toMatchObject([{ state: 'sent' }]));
  });

  describe('with a code for the telephone', () => {
    const codeIn = (mail: string) => /\bP\d{12}\b/.exec(mail)?.[0];
    const mails = (to: string) => taken.filter((mail) => mail.includes(`To: ${to}`));
    const cardsOf = async (id: number) =>
      (await manager.ask<CustomerPage>('GET', `/people/customers/${id}/page`)).body.cards;
    async function buyFor(id: number, to: string): Promise<string> {
      const sale = await ringUp(house, ['REE-BC-25']);
      const basket = { ...sale.basket, customer: { id, name: 'Somebody' } };
      expect((await pay(manager, { ...sale, basket })).status).toBe(200);
      const had = mails(to).length;
      await manager.ask('POST', `/journal/sales/${basket.id}/sent`, { by: 'mail', to });
      await eventually(() => expect(mails(to)).toHaveLength(had + 1));
      return mails(to).at(-1) ?? '';
    }

    it('brings it with the receipt to their own address, the same each time; it is scanned like a card', async () => {
      const id = await addSomebody(manager, 'Wren Halloway', { mail: 'wren@reader.example' });
      const code = codeIn(await buyFor(id, 'wren@reader.example'));
      expect(code).toBeDefined();
      expect(codeIn(await buyFor(id, 'wren@reader.example'))).toBe(code);
      expect(codeIn(await buyFor(id, 'friend@reader.example'))).toBeUndefined();
      expect(await cardsOf(id)).toMatchObject([{ code, forPhone: true, stoppedAt: null }]);
      const scanned = await manager.ask<CustomerPanel>('GET', `/people/cards/${code ?? ''}`);
      expect(scanned.body).toMatchObject({ id, name: 'Wren Halloway' });
    });

    it('brings the code of a card where there is one, which then stops without the other', async () => {
      const id = await addSomebody(manager, 'Odd Perrin', { mail: 'odd@reader.example' });
      const code = codeIn(await buyFor(id, 'odd@reader.example'));
      const give = (card: string, replaces: boolean) =>
        manager.ask('POST', `/people/customers/${id}/cards`, { code: card, replaces });
      expect((await give('PLASTIC-1', false)).status).toBe(200);
      expect(await buyFor(id, 'odd@reader.example')).toContain('PLASTIC-1');
      expect((await give('PLASTIC-2', true)).status).toBe(200);
      const counting = (await cardsOf(id)).filter(({ stoppedAt }) => stoppedAt === null);
      expect(counting.map((card) => card.code).toSorted()).toEqual([code, 'PLASTIC-2'].toSorted());
    });

    it('goes out by itself when it is asked for, and says how their points stand', async () => {
      const id = await addSomebody(manager, 'Ida Brisk', { mail: 'ida@reader.example' });
      await manager.ask('POST', `/people/customers/${id}/points`, { amount: 1240, words: 'a present' });
      const asked = () =>
        manager.ask<{ to: string } & ProblemDetails>('POST', `/people/customers/${id}/code/mails`, {});
      expect((await asked()).body).toEqual({ to: 'ida@reader.example' });
      await eventually(() => expect(mails('ida@reader.example')).toHaveLength(1));
      const [mail = ''] = mails('ida@reader.example');
      expect(mail).toContain('1,240');
      expect(codeIn(mail)).toBe((await cardsOf(id))[0]?.code);
      const silent = await addSomebody(manager, 'No Address');
      const refused = await manager.ask<ProblemDetails>('POST', `/people/customers/${silent}/code/mails`, {});
      expect([refused.status, refused.body.fields?.[0]?.message]).toEqual([
        422,
        'No mail address of No Address is known.',
      ]);
      expect((await manager.ask('POST', '/people/customers/999999/code/mails', {})).status).toBe(404);
    });
  });
});
