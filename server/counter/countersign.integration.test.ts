import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { Countersign } from '../../contract/staff.ts';
import type { Step } from '../../core/staff/approval.ts';
import { verify } from '../books/verify.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';
import { anyAmount } from '../testing/returning.ts';

const problemOf = ({ body }: { body: unknown }) => body as ProblemDetails;

let test: TestHouse;
let noor: Browser;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
});
afterAll(() => test.stop());

const approve = (basketId: string, pin: string, right = 'price.change', covers = [anyAmount('x')]) =>
  noor.ask<Countersign & ProblemDetails>('POST', '/staff/countersigns', {
    pin,
    right,
    basketId,
    covers,
    reason: 'Dented box',
  });

async function cheaper(countersign?: string) {
  const sale = await ringUp(test, ['STA-ORCH']);
  const [line] = sale.basket.lines;
  if (!line) throw new Error('nothing was rung up');
  const typedPrice = { unitPrice: 5000, reason: 'Dented box', ...(countersign ? { countersign } : {}) };
  return { basket: { ...sale.basket, lines: [{ ...line, typedPrice }] }, expectedTotal: 5375, handed: 5375 };
}

describe(`steps that need more rights on ${ENGINE}`, () => {
  it('are refused at the end when nobody approved them, whatever the page let through', async () => {
    const refused = await pay(noor, await cheaper());
    expect(refused.status).toBe(403);
    expect(refused.body as unknown).toMatchObject({
      type: 'countersign-needed',
      title: 'Noor A. may not do this alone: Type another price.',
    });
    expect((await pay(noor, await cheaper(newKey()))).status).toBe(403);
  });

  it('go through with the approval given for this basket, and only this one', async () => {
    const sale = await cheaper();
    const [line] = sale.basket.lines;
    const price: Step = { subject: `line:${line?.id}`, from: 5900, to: 5000, unit: 'money', amount: 900 };
    const { body } = await approve(sale.basket.id, '3690', 'price.change', [price]);
    expect(body.by).toBe('Maren K.');
    const at = (unitPrice: number, more: object = {}, total = 1) => ({
      ...sale,
      expectedTotal: total,
      handed: 100_000,
      basket: {
        ...sale.basket,
        lines: [{ ...line, typedPrice: { ...line?.typedPrice, unitPrice, countersign: body.id }, ...more }],
      } as typeof sale.basket,
    });
    // Another price, more units at it, another line: each is asked for again, with both figures.
    const dear = problemOf(await pay(noor, at(1)));
    expect([dear.type, dear.detail]).toEqual([
      'countersign-needed',
      'Approved: 59.00 to 50.00, 9.00. Now: 59.00 to 0.01, 58.99. Somebody with more rights can approve it here with their PIN.',
    ]);
    expect(problemOf(await pay(noor, at(5000, { quantity: 2000 }))).detail).toContain(
      'Now: 59.00 to 50.00, 18.00',
    );
    expect(problemOf(await pay(noor, at(5000, { id: newKey() }))).type).toBe('countersign-needed');
    // Another session of the same person did not ask for it, and it is worth nothing after two minutes.
    const elsewhere = test.browser();
    await elsewhere.signIn('1357', 1);
    expect(problemOf(await pay(elsewhere, at(5000, {}, 5375))).detail).toContain('somebody else');
    const now = test.house.clock.now();
    const clock = vi.spyOn(test.house.clock, 'now').mockReturnValue(new Date(now.getTime() + 120_001));
    expect(problemOf(await pay(noor, at(5000, {}, 5375))).detail).toContain('too long ago');
    clock.mockRestore();
    // The basket that carries it uses it; from then on it may take its time.
    const { lines, id } = at(5000).basket;
    const put = await noor.ask('PUT', '/counter/basket', { basket: { id, lines }, revision: 0 });
    expect(put.status, JSON.stringify(put.body)).toBe(200);
    const { status } = await pay(noor, at(5000, {}, 5375));
    expect(status).toBe(200);
    const other = await cheaper(body.id);
    expect((await pay(noor, other)).status).toBe(403);
    const { body: text } = await noor.ask<string>('GET', `/journal/sales/${sale.basket.id}/receipt.txt`);
    expect(text).toContain('Dented box                         −9.00');
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('record who asked, who approved and why', async () => {
    const [row] = await test.house.database.ask((sql) =>
      sql.query('select "right", reason, asked_by, granted_by from countersign'),
    );
    expect(row).toEqual({ right: 'price.change', reason: 'Dented box', asked_by: 1, granted_by: 3 });
  });

  it('are not approved by somebody who may not do it either, nor by a wrong PIN', async () => {
    const { status, body } = await approve(newKey(), '2468');
    expect([status, body.title]).toEqual([403, 'Teo V. may not do this either: Type another price.']);
    expect((await approve(newKey(), '0000')).status).toBe(401);
    expect((await approve(newKey(), '3690', 'no-such-right')).status).toBe(422);
  });

  it('need no second person for those who may', async () => {
    const maren = test.browser();
    await maren.signIn('3690', 1);
    expect((await pay(maren, await cheaper())).status).toBe(200);
  });

  it('cover a sale without tax, with reason and certificate on the receipt', async () => {
    const sale = await ringUp(test, ['STA-ORCH']);
    const { body } = await approve(sale.basket.id, '8024', 'tax.exempt', [
      { ...anyAmount('exemption:School'), amount: null },
    ]);
    const exemption = { reason: 'School', certificate: 'E-77', countersign: body.id };
    const paid = await pay(noor, {
      basket: { ...sale.basket, exemption } as never,
      expectedTotal: 5900,
      handed: 5900,
    });
    expect(paid.body).toMatchObject({ total: 5900 });
    const { body: text } = await noor.ask<string>('GET', `/journal/sales/${sale.basket.id}/receipt.txt`);
    expect(text).toContain('Without tax: School, certificate E-77');
  });

  it('cover an open price above the limit', async () => {
    const [item] = await test.house.database.ask((sql) =>
      sql.query<{ id: number; tax: number }>(
        "select id, tax_category_id as tax from item where number = 'REP-OPEN'",
      ),
    );
    const line = {
      id: newKey(),
      itemId: item?.id,
      number: 'REP-OPEN',
      name: 'Repair work',
      unit: 'each',
      decimals: 0,
      taxCategoryId: item?.tax,
      quantity: 1000,
    };
    const sale = (listPrice: number, total: number) => ({
      basket: { id: newKey(), lines: [{ ...line, listPrice }] },
      expectedTotal: total,
      handed: total,
    });
    expect((await pay(noor, sale(50_000, 53_750) as never)).status).toBe(200);
    expect((await pay(noor, sale(50_001, 53_751) as never)).status).toBe(403);
  });
});

describe('notes and gifts', () => {
  it('are on the receipt, and a gift receipt comes without prices', async () => {
    const sale = await ringUp(test, ['MET-C', 'PIC-M']);
    const [first, second] = sale.basket.lines;
    const basket = {
      ...sale.basket,
      note: 'Collected by Sam.',
      lines: [{ ...first, gift: true, note: 'wrapped' }, second],
    };
    const printed = new Promise<void>((resolve) => {
      let papers = 0;
      const tell = test.house.events.tell;
      test.house.events.tell = (event) => {
        tell(event);
        if (event.kind === 'printed' && event.saleId === sale.basket.id && ++papers === 2) resolve();
      };
    });
    await pay(noor, { ...sale, basket: basket as never });
    await printed;
    const { body } = await noor.ask<{ text: string }[]>('GET', '/printer/papers');
    expect(body[0]?.text).toContain('GIFT RECEIPT');
    expect(body[0]?.text).not.toContain('Pick');
    expect(body[0]?.text).not.toMatch(/\d\.\d\d\b/);
    expect(body[1]?.text).toContain('  wrapped');
    expect(body[1]?.text).toContain('Collected by Sam.');
  });
});
