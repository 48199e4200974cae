import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawerState } from '../../contract/drawer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import type { FoundCustomer } from '../../contract/people.ts';
import type { TypedDiscount } from '../../core/pricing/discount.ts';
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
import { approveNeeded } from '../testing/returning.ts';

let test: TestHouse;
let noor: Browser;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  isolde = test.browser();
  await noor.signIn('1357', 1);
  await isolde.signIn('8024', 2);
  await openDrawer(noor);
});
afterAll(async () => {
  expect(await test.house.database.ask(verify)).toEqual([]);
  await test.stop();
});

const problemOf = ({ body }: { body: unknown }) => body as ProblemDetails;
const facts = async () => (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;

/** A metronome at 45.00 and a stand at 59.00 with a discount on both, at the total that the till would show. */
async function discounted(discount: Partial<TypedDiscount>, total: number, basketMore = {}) {
  const sale = await ringUp(test, ['MET-C', 'STA-ORCH']);
  const size = { kind: 'percent', rate: 100_000 } as const;
  const discounts = [{ id: newId(), lineIds: null, size, reason: 'Agreed price', ...discount }];
  return { basket: { ...sale.basket, discounts, ...basketMore }, expectedTotal: total, handed: total };
}

describe(`typed discounts on ${ENGINE}`, () => {
  it('up to the limit of the role are given alone, stored with their reason, and printed', async () => {
    const sale = await discounted({}, 10_062);
    const { body } = await pay(noor, sale);
    expect(body.total).toBe(10_062);
    const { body: text } = await noor.ask<string>('GET', `/journal/sales/${sale.basket.id}/receipt.txt`);
    expect(text).toMatch(/Agreed price +−4\.50/);
    expect(text).toMatch(/Reductions +−10\.40/);
  });

  it('above it need an approval for this very basket', async () => {
    const large = { size: { kind: 'amount' as const, amount: 2000 } };
    const refused = await pay(noor, await discounted(large, 9030));
    expect([refused.status, problemOf(refused).type]).toEqual([403, 'countersign-needed']);
    const sale = await discounted(large, 9030);
    const countersign = await approveNeeded(noor, await pay(noor, sale));
    const [given] = sale.basket.discounts;
    const withSize = (size: object) => ({
      ...sale,
      basket: { ...sale.basket, discounts: [{ ...given, size, countersign }] } as typeof sale.basket,
    });
    const all = problemOf(await pay(noor, withSize({ kind: 'percent', rate: 1_000_000 })));
    expect(all.type).toBe('countersign-needed');
    const more = problemOf(await pay(noor, withSize({ kind: 'amount', amount: 2001 })));
    expect(more.detail).toContain('Approved: 20.00. Now: 20.01.');
    const approved = withSize({ kind: 'amount', amount: 2000 });
    expect((await pay(noor, approved)).body.total).toBe(9030);
    await isolde.ask('PUT', '/setup/discount-limits', { role: 'cashier', rate: 250_000 });
    expect((await pay(noor, await discounted(large, 9030))).body.total).toBe(9030);
  });

  it('that the shop has ready need none, but the customer that they are for', async () => {
    const { groups } = await facts();
    const teachers = groups.find(({ name }) => name === 'Teachers');
    const preset = {
      name: 'Staff room',
      kind: 'percent',
      value: 300_000,
      needsCustomer: false,
      groupId: teachers?.id,
    };
    const added = await isolde.ask<{ id: number }>('POST', '/setup/discount-presets', preset);
    expect(problemOf(await isolde.ask('POST', '/setup/discount-presets', preset)).fields?.[0]?.field).toBe(
      'name',
    );
    const ready = {
      presetId: added.body.id,
      size: { kind: 'percent' as const, rate: 300_000 },
      reason: 'Staff room',
    };
    const nobody = await pay(noor, await discounted(ready, 7826));
    expect([nobody.status, problemOf(nobody).title]).toEqual([422, 'Staff room is for members of Teachers.']);
    const find = async (name: string) =>
      (await noor.ask<FoundCustomer[]>('GET', `/people/customers?find=${name}`)).body.map((one) => ({
        id: one.id,
        name: one.name,
      }))[0];
    const kai = await pay(noor, await discounted(ready, 7826, { customer: await find('kai') }));
    expect(problemOf(kai).title).toBe('Staff room is for members of Teachers: Kai Lindqvarn is none.');
    const ines = await discounted(ready, 7826, { customer: await find('ines') });
    expect((await pay(noor, ines)).body.total).toBe(7826);
    await isolde.ask('DELETE', `/setup/discount-presets/${added.body.id}`, {});
    expect((await facts()).discountPresets.map(({ name }) => name)).not.toContain('Staff room');
    expect((await pay(noor, await discounted(ready, 7826))).status).toBe(403);
  });

  it('are refused without a reason or with a size that is none', async () => {
    for (const wrong of [
      { reason: ' ' },
      { size: { kind: 'percent', rate: 0 } },
      { size: { kind: 'percent', rate: 1_000_001 } },
      { size: { kind: 'half' } },
      { lineIds: [] },
    ]) {
      expect((await pay(noor, await discounted(wrong as Partial<TypedDiscount>, 10_062))).status).toBe(422);
    }
  });

  it('are in the report of the shift by kind, reason and person', async () => {
    const { body: drawer } = await noor.ask<DrawerState>('GET', '/drawer');
    const { body: closed } = await noor.ask<{ id: number }>('POST', '/drawer/closings', {
      pieces: { 10_000: 2 },
      expected: drawer.expected,
      float: 20_000,
      bagNumber: '',
      note: '',
      signature: { name: 'Noor A.', path: '' },
    });
    const { body: report } = await noor.ask<string>('GET', `/drawer/shifts/${closed.id}/report.txt`);
    expect(report).toMatch(/^Discounts +−81\.60$/m);
    expect(report).toMatch(/^ +6 × Agreed price, Noor A\. +−50\.40$/m);
    expect(report).toMatch(/^ +2 × Staff room, Noor A\. +−31\.20$/m);
  });
});
