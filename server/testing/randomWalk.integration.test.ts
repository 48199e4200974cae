import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { AccountView } from '../../contract/accounts.ts';
import type { FigureProblem } from '../../contract/counter.ts';
import type { DrawerState } from '../../contract/drawer.ts';
import type { Returnable } from '../../contract/returns.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { putAccountMoney } from '../../core/counter/accountLines.ts';
import { seeded } from '../../demo/random.ts';
import type { PaymentView } from '../../contract/payment.ts';
import { accountItem } from '../people/accountStore.ts';
import { addSomebody } from './people.ts';
import { ties } from '../figures/ties.ts';
import { verify } from '../books/verify.ts';
import { verifyTerminals } from '../books/witnesses.ts';
import { take, tenderFor, typesByKind, type RungUp } from './paying.ts';
import { giveBack, linesBack } from './returning.ts';
import { ENGINE, openDrawer, openHouse, ringUp, type Browser, type TestHouse } from './testHouse.ts';

/** So many things happen; more with MONDREL_WALK. */
const EVENTS = Number(process.env.MONDREL_WALK ?? 250);
const GOODS = ['MET-C', 'PIC-M', 'LES-30', 'CLA-0220'];

let house: TestHouse;
let tills: Browser[];
let types: ReadonlyMap<string, number>;
/** Somebody who buys on a house account, also far over its limit: whoever is at the tills may let them. */
let account: { id: number; customer: { id: number; name: string } };

beforeAll(async () => {
  house = await openHouse();
  types = await typesByKind(house);
  tills = [house.browser(), house.browser()];
  for (const [at, till] of tills.entries()) {
    await till.signIn('8024', at + 1);
    await openDrawer(till);
  }
  const [first] = tills as [Browser];
  const customer = { id: await addSomebody(first, 'Wanda Walker'), name: 'Wanda Walker' };
  const { body } = await first.ask<AccountView>('PUT', `/accounts/of/${customer.id}`, {
    ofCompany: false,
    limit: 20_000,
    daysToPay: 30,
    blocked: false,
    asksFor: '',
    buyers: [],
    version: null,
  });
  account = { id: body.id, customer };
});
afterAll(() => house.stop());

/** What a basket comes to, as the server prices it. */
async function totalOf(till: Browser, basket: Basket): Promise<number> {
  const impossible = -987_654_321;
  const { body } = await till.ask<{ data?: FigureProblem }>('POST', '/payment/refunds/plan', {
    basket,
    expectedTotal: impossible,
  });
  const total = body.data?.priced.total;
  if (total === undefined) throw new Error(`no figures: ${JSON.stringify(body)}`);
  return total;
}

it(
  `keeps every figure through ${EVENTS} random events on ${ENGINE}`,
  { timeout: 120_000 + EVENTS * 600 },
  async () => {
    const random = seeded(20_260_302);
    const upTo = (most: number) => Math.floor(random() * most);
    const pick = <One>(all: readonly One[]): One => all[upTo(all.length)] as One;
    const sold: { id: string; till: number; shift: number; paid: 'cash' | 'other' }[] = [];
    const shifts = [0, 0];
    const counts = new Map<string, number>();
    const count = (what: string) => counts.set(what, (counts.get(what) ?? 0) + 1);

    const newLines = async (): Promise<BasketLine[]> => {
      const { basket } = await ringUp(
        house,
        Array.from({ length: 1 + upTo(3) }, () => pick(GOODS)),
      );
      return basket.lines.map((line) => ({ ...line, quantity: 1000 * (1 + upTo(3)) }));
    };

    /** Pays or refunds whatever the basket comes to. */
    async function settle(at: number, basket: Basket): Promise<void> {
      const till = tills[at] as Browser;
      const total = await totalOf(till, basket);
      if (total < 0) {
        const answer = await giveBack(till, basket, total);
        expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
      } else if (total > 0 && !basket.lines.some((line) => line.account) && random() < 0.2) {
        const rung = rungUp(
          { ...basket, customer: account.customer },
          await totalOf(till, { ...basket, customer: account.customer }),
        );
        const wanted = tenderFor(rung, types.get('account') ?? 0, { accountId: account.id });
        const answer = await take(till, wanted);
        expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
        count('charge');
      } else if (total > 0 && random() < 0.3) {
        const kind = pick(['noted-card', 'cheque', 'transfer']);
        const rung = {
          basket: basket as Awaited<ReturnType<typeof ringUp>>['basket'],
          expectedTotal: total,
          handed: total,
        };
        const part = random() < 0.5 ? total : Math.ceil(total / 2);
        const answer = await take(
          till,
          tenderFor(rung, types.get(kind) ?? 0, { amount: part, reference: 'R1' }),
        );
        expect(answer.status, JSON.stringify(answer.body)).toBe(200);
        if (part === total) expect(answer.body.finished, JSON.stringify(answer.body)).toBeTruthy();
        if (part < total) {
          const rest = await take(
            till,
            tenderFor(rung, types.get('cash') ?? 0, { amount: total - part + upTo(2000) }),
          );
          expect(rest.body.finished, JSON.stringify(rest.body)).toBeTruthy();
        }
      } else {
        const handed = total + upTo(3000);
        const answer = await till.ask(
          'POST',
          '/counter/sales',
          { basket, expectedTotal: total, handed },
          { 'idempotency-key': basket.id },
        );
        expect(answer.status, JSON.stringify(answer.body)).toBe(200);
      }
      sold.push({ id: basket.id, till: at, shift: shifts[at] ?? 0, paid: 'cash' });
    }

    async function partsBack(till: Browser, saleId: string) {
      const { body } = await till.ask<Returnable>('GET', `/journal/sales/${saleId}/returnable`);
      if (body.voided) return [];
      return body.lines
        .filter(({ left }) => left > 0 && random() < 0.7)
        .map(({ position, left }) => ({ position, quantity: 1000 * (1 + upTo(left / 1000)) }));
    }

    /** What was taken for a basket that could not be finished is given back. */
    async function clearUp(at: number, basketId: string): Promise<boolean> {
      const till = tills[at] as Browser;
      const { body } = await till.ask<PaymentView>('GET', `/payment/baskets/${basketId}`);
      if (body.finished) return true;
      for (const { id, state } of body.tenders) {
        if (state === 'approved') await till.ask('POST', `/payment/tenders/${id}/undo`);
      }
      return false;
    }

    const sale = (basket: Basket, total: number) => ({ basket, expectedTotal: total, handed: total });
    const rungUp = (basket: Basket, total: number) => sale(basket, total) as unknown as RungUp;

    /**
     * Two want one thing at once: cash and another payment, a return and a void, a correction and a void, two
     * returns.
     */
    async function race(at: number, earlier: { id: string; till: number } | undefined): Promise<string> {
      const till = tills[at] as Browser;
      const other = tills[1 - at] as Browser;
      const dice = upTo(4);
      if (dice === 0 || !earlier) {
        const basket = { id: newId(), lines: await newLines() };
        const total = await totalOf(till, basket);
        const kind = pick(['noted-card', 'cheque', 'stored-value']);
        const part = tenderFor(rungUp(basket, total), types.get(kind) ?? 0, {
          amount: 1,
          reference: 'R1',
          number: '44100771409',
        });
        const cash = () =>
          till.ask('POST', '/counter/sales', sale(basket, total), { 'idempotency-key': basket.id });
        await Promise.all(random() < 0.5 ? [cash(), take(till, part)] : [take(till, part), cash()]);
        if (!(await clearUp(at, basket.id))) expect((await cash()).status).toBe(200);
        sold.push({ id: basket.id, till: at, shift: shifts[at] ?? 0, paid: 'cash' });
        return 'race of payments';
      }
      const back = async (browser: Browser, of: number) => {
        const parts = await partsBack(browser, earlier.id);
        if (parts.length === 0) return;
        const { lines, refund } = await linesBack(browser, earlier.id, parts);
        const basket = { id: newId(), lines };
        await giveBack(browser, basket, 0 - refund);
        if (await clearUp(of, basket.id))
          sold.push({ id: basket.id, till: of, shift: shifts[of] ?? 0, paid: 'other' });
      };
      // Who comes second may find that nothing is left: that is said before anything moves.
      const returning = (browser: Browser, of: number) => back(browser, of).catch(() => {});
      const owner = tills[earlier.till] as Browser;
      const voiding = () =>
        owner.ask('POST', `/journal/sales/${earlier.id}/void`, { reason: 'A random walk' });
      if (dice === 1) await Promise.all([returning(other, 1 - at), voiding()]);
      else if (dice === 2) await Promise.all([returning(till, at), returning(other, 1 - at)]);
      else {
        const wanted = { saleId: earlier.id, position: 1, reason: 'A random walk' };
        await Promise.all([
          owner.ask('POST', '/drawer/corrections', { ...wanted, to: pick(['card', 'cash']) }),
          voiding(),
        ]);
      }
      return 'race after the sale';
    }

    /** Money for the account: at a till, out of it where something is over, or by bank. */
    async function pay(at: number): Promise<string> {
      const till = tills[at] as Browser;
      const { body } = await till.ask<{ account: AccountView }>('GET', `/accounts/of/${account.customer.id}`);
      const { owed, items } = body.account;
      const open = items.filter(({ remaining }) => remaining > 0);
      if (random() < 0.3) {
        const paid = {
          amount: 1 + upTo(8_000),
          day: '2026-03-02',
          items: open.length > 0 ? [pick(open).id] : [],
        };
        expect((await till.ask('POST', `/accounts/${account.id}/payments`, paid)).status).toBe(200);
        return 'paid by bank';
      }
      const item = await house.house.database.ask(accountItem);
      if (!item) throw new Error('no item for money on account');
      const amount = owed < 0 && random() < 0.7 ? owed : 1 + upTo(8_000);
      const { customer, id } = account;
      const of = { id, name: customer.name };
      const picked = amount > 0 && open.length > 0 && random() < 0.5 ? [pick(open).id] : [];
      const basket = putAccountMoney({ id: newId(), lines: [] }, of, amount, {
        item,
        id: newId(),
        items: picked,
      });
      await settle(at, basket);
      return amount > 0 ? 'paid at a till' : 'paid out';
    }

    async function close(at: number): Promise<void> {
      const till = tills[at] as Browser;
      const { expected } = (await till.ask<DrawerState>('GET', '/drawer')).body;
      const counted = Math.max(0, (expected ?? 0) + (random() < 0.5 ? 0 : upTo(4000) - 2000));
      const others = (await till.ask<DrawerState>('GET', '/drawer')).body.others;
      const answer = await till.ask('POST', '/drawer/closings', {
        pieces: { 1: counted % 100_000, 100: Math.floor(counted / 100_000) * 1000 },
        expected,
        float: 20_000,
        bagNumber: '',
        note: '',
        keepHeld: true,
        others: others
          .filter((one) => one.counted)
          .map(({ typeId, amount }) => ({ typeId, counted: Math.max(0, amount) })),
        signature: { name: 'Isolde', path: '' },
      });
      expect(answer.status, JSON.stringify(answer.body)).toBe(200);
      await openDrawer(till);
      shifts[at] = (shifts[at] ?? 0) + 1;
    }

    for (let event = 0; event < EVENTS; event++) {
      const at = upTo(2);
      const till = tills[at] as Browser;
      const dice = random();
      const earlier = sold.length > 0 ? pick(sold) : undefined;
      if (dice < 0.1) {
        count(await race(at, earlier));
      } else if (dice < 0.17) {
        count(await pay(at));
      } else if (dice < 0.47 || !earlier) {
        await settle(at, { id: newId(), lines: await newLines() });
        count('sale');
      } else if (dice < 0.75) {
        const parts = await partsBack(till, earlier.id);
        if (parts.length === 0) continue;
        const { lines } = await linesBack(till, earlier.id, parts, {
          condition: pick(['to-stock', 'damaged', 'to-supplier'] as const),
        });
        const more = dice < 0.62 ? [] : await newLines();
        await settle(at, { id: newId(), lines: [...lines, ...more] });
        count(more.length > 0 ? 'exchange' : 'return');
      } else if (dice < 0.87) {
        const recent = sold.findLast((one) => one.till === at && one.shift === shifts[at]);
        if (!recent) continue;
        const { status } = await till.ask('POST', `/journal/sales/${recent.id}/void`, {
          reason: 'A random walk',
        });
        if (status === 200) count('void');
        else expect(status).toBe(409);
      } else if (dice < 0.97) {
        const kind = pick(['in', 'out', 'drop'] as const);
        const { status } = await till.ask('POST', '/drawer/cash-moves', {
          kind,
          amount: 1 + upTo(5000),
          reason: 'A random walk',
          person: '',
        });
        expect([200, 422]).toContain(status);
        count(`cash ${kind}`);
      } else {
        await close(at);
        count('close');
      }
    }
    for (const what of [
      'sale',
      'return',
      'exchange',
      'void',
      'close',
      'charge',
      'paid at a till',
      'paid by bank',
      'race of payments',
      'race after the sale',
    ])
      expect(counts.get(what) ?? 0, what).toBeGreaterThan(0);
    expect(await house.house.database.ask(verify)).toEqual([]);
    for (const { what, left, right } of await house.house.database.ask((sql) =>
      ties(sql, { from: '2020-01-01', to: '2030-01-01' }),
    ))
      expect([what, left.amount]).toEqual([what, right.amount]);
    expect(await verifyTerminals(house.house.database, house.house.terminal)).toMatchObject({
      differences: [],
    });
  },
);
