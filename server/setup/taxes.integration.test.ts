import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { SetupFacts } from '../../contract/setup.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
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

let test: TestHouse;
let isolde: Browser;
beforeAll(async () => {
  test = await openHouse();
  isolde = test.browser();
  await isolde.signIn('8024', 1);
  await openDrawer(isolde);
});
afterAll(() => test.stop());

const facts = async () => (await isolde.ask<SetupFacts>('GET', '/setup/facts')).body;
const set = (rate: object) => isolde.ask<ProblemDetails & { id: number }>('POST', '/setup/tax-rates', rate);
const GENERAL = { taxCategoryId: 1, name: 'Sales tax' };

describe(`rates of tax on ${ENGINE}`, () => {
  it('are set from tomorrow on, and taken back while they have not begun', async () => {
    expect((await facts()).today).toBe('2026-03-02');
    const soon = await set({ ...GENERAL, rate: 80_000, from: '2026-03-03' });
    expect(soon.status).toBe(200);
    expect((await set({ ...GENERAL, rate: 90_000, from: '2026-03-03' })).body.fields?.[0]?.field).toBe(
      'from',
    );
    for (const from of ['2026-03-02', '2025-12-31', '2026-02-30', 'soon']) {
      const refused = await set({ ...GENERAL, rate: 80_000, from });
      expect([refused.status, refused.body.fields?.[0]?.field]).toEqual([422, 'from']);
    }
    expect((await set({ taxCategoryId: 99, name: 'X', rate: 1, from: '2026-04-01' })).status).toBe(422);
    expect((await isolde.ask('DELETE', `/setup/tax-rates/${soon.body.id}`, {})).status).toBe(200);
    const [general] = (await facts()).taxCategories;
    expect(general?.rates.map(({ rate }) => rate)).toEqual([75_000]);
    const begun = await isolde.ask<ProblemDetails>(
      'DELETE',
      `/setup/tax-rates/${general?.rates[0]?.id ?? 0}`,
      {},
    );
    expect([begun.status, begun.body.type]).toEqual([409, 'rate-began']);
  });

  it('change at midnight of the shop, and leave what was sold as it was', async () => {
    expect((await set({ ...GENERAL, rate: 100_000, from: '2026-03-03' })).status).toBe(200);
    const now = vi.spyOn(test.house.clock, 'now');
    try {
      // One second before midnight and at midnight, as the shop's clock in New York has it.
      now.mockReturnValue(new Date('2026-03-03T04:59:59Z'));
      const before = await pay(isolde, await ringUp(test, ['MET-C']));
      expect(before.body.total).toBe(4838);
      now.mockReturnValue(new Date('2026-03-03T05:00:00Z'));
      const shown = await ringUp(test, ['MET-C']);
      const stale = await pay(isolde, shown);
      expect([stale.status, (stale.body as unknown as ProblemDetails).type]).toEqual([409, 'figures-differ']);
      const after = await pay(isolde, { ...shown, expectedTotal: 4950, handed: 4950 });
      expect(after.body.total).toBe(4950);
    } finally {
      now.mockRestore();
    }
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('belong to categories with names of their own', async () => {
    const add = (name: string) => isolde.ask<ProblemDetails>('POST', '/setup/tax-categories', { name });
    expect((await add('Second-hand')).status).toBe(200);
    expect((await add('second-hand')).body.fields?.[0]?.field).toBe('name');
    expect((await facts()).taxCategories.at(-1)).toMatchObject({ name: 'Second-hand', rates: [] });
  });
});

describe(`layouts of codes on ${ENGINE}`, () => {
  it('are stored only when they can be read, one for each range', async () => {
    const { shop } = await facts();
    const put = (codeLayouts: string[]) =>
      isolde.ask<ProblemDetails>('PUT', '/setup/settings', { ...shop, codeLayouts });
    expect((await put(['28IIIIPPPPPC'])).body.fields?.[0]?.field).toBe('codeLayouts[0]');
    expect((await put(['28IIIIIPPPPPC', '28IIIIIWWWWWC'])).body.fields?.[0]?.field).toBe('codeLayouts');
    expect((await put(['29IIIIIPPPPPC'])).status).toBe(200);
    expect((await facts()).shop.codeLayouts).toEqual(['29IIIIIPPPPPC']);
  });
});
