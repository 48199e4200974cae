import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawerState } from '../../contract/drawer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { verify } from '../books/verify.ts';
import { approveNeeded } from '../testing/returning.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let test: TestHouse;
let maren: Browser;
let noor: Browser;
beforeAll(async () => {
  test = await openHouse();
  maren = test.browser();
  noor = test.browser();
  await maren.signIn('3690', 1);
  await noor.signIn('1357', 1);
  await openDrawer(maren);
});
afterAll(() => test.stop());

const move = (browser: Browser, body: object, id = newKey()) =>
  browser.ask<ProblemDetails>(
    'POST',
    '/drawer/cash-moves',
    { reason: 'Parcels', person: '', ...body },
    { 'idempotency-key': id },
  );
const drawer = async () => (await maren.ask<DrawerState>('GET', '/drawer')).body;

describe(`cash that moves without a sale, on ${ENGINE}`, () => {
  it('changes what is expected, once however often it is asked for', async () => {
    const id = newKey();
    const out = { kind: 'out', amount: 1250, person: 'Corran parcels' };
    const answers = await Promise.all([1, 2, 3].map(() => move(maren, out, id)));
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200]);
    expect((await move(maren, { kind: 'in', amount: 5000 })).status).toBe(200);
    expect((await move(noor, { kind: 'drop', amount: 10_000 })).status).toBe(200);
    const { expected, movements } = await drawer();
    expect(expected).toBe(20_000 - 1250 + 5000 - 10_000);
    expect(movements).toMatchObject({ cashIn: 5000, cashOut: 1250, drops: 10_000 });
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('needs the right, a reason, and no more than is in the drawer', async () => {
    const id = newKey();
    const out = { kind: 'out', amount: 100 };
    const refused = await move(noor, out, id);
    expect(refused.body.type).toBe('countersign-needed');
    const countersign = await approveNeeded(noor, refused);
    const raised = await move(noor, { ...out, amount: 200, countersign }, id);
    expect(raised.body.detail).toContain('Approved: 1.00. Now: 2.00.');
    expect((await move(noor, { ...out, kind: 'in', countersign }, id)).status).toBe(403);
    expect((await move(noor, { ...out, countersign }, newKey())).status).toBe(403);
    expect((await move(noor, { ...out, countersign }, id)).status).toBe(200);
    expect((await move(maren, { ...out, kind: 'in' })).status).toBe(200);
    const wrong = await move(maren, { kind: 'sideways', amount: 0, reason: ' ' });
    expect(wrong.body.fields?.map(({ field }) => field).sort()).toEqual(['amount', 'kind', 'reason']);
    const more = await move(maren, { kind: 'out', amount: 13_751 });
    expect(more.body.fields?.[0]?.message).toBe('Only 137.50 is expected to be in the drawer.');
  });

  it('is in the report of the shift, which closes on it', async () => {
    expect((await pay(maren, await ringUp(test, ['MET-C']))).status).toBe(200);
    const { expected } = await drawer();
    const closed = await maren.ask<{ id: number; variance: number }>('POST', '/drawer/closings', {
      pieces: { 10_000: 1, 1000: 8, 100: 5, 25: 3, 10: 1, 1: 3 },
      expected,
      float: 0,
      bagNumber: '',
      note: '',
      signature: { name: 'Maren K.', path: '' },
    });
    expect(closed.body.variance).toBe(0);
    const { body } = await maren.ask<string>('GET', `/drawer/shifts/${closed.body.id}/report.txt`);
    expect(body).toMatch(/Cash in +51\.00/);
    expect(body).toMatch(/Cash out +−13\.50/);
    expect(body).toMatch(/Safe drops +−100\.00/);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });
});
