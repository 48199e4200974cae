import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ClosedShift, DrawerState } from '../../contract/drawer.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { Paper } from '../../core/journal/paper.ts';
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
let noor: Browser;

beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
});
afterAll(() => test.stop());

const state = async () => (await noor.ask<DrawerState>('GET', '/drawer')).body;
const closing = (pieces: object, expected: number, more: object = {}) => ({
  pieces,
  expected,
  float: 20_000,
  bagNumber: '0093',
  note: '',
  signature: { name: 'Noor A.', path: 'M10 10L50 50' },
  ...more,
});

describe(`the drawer on ${ENGINE}`, () => {
  it('opens once with a counted float, booked as brought from the safe', async () => {
    const pieces = { 2000: 5, 1000: 5, 100: 50 };
    const key = { 'idempotency-key': newKey() };
    const [first, again] = await Promise.all([
      noor.ask('POST', '/drawer/shifts', { pieces }, key),
      noor.ask('POST', '/drawer/shifts', { pieces }, key),
    ]);
    expect([first.status, again.status, first.body]).toEqual([200, 200, again.body]);
    expect(await state()).toMatchObject({
      left: 20_000,
      expected: 20_000,
      shift: { number: 1, openedBy: 'Noor A.' },
    });
    const second = await noor.ask<ProblemDetails>('POST', '/drawer/shifts', { pieces });
    expect([second.status, second.body.type]).toEqual([409, 'drawer-open']);
  });

  it('refuses the same key for another request', async () => {
    const key = { 'idempotency-key': newKey() };
    await noor.ask('POST', '/drawer/shifts', { pieces: {} }, key);
    await noor.ask('POST', '/journal/sales/none/reprints', {}, key);
    const sale = await ringUp(test, ['PIC-M']);
    await pay(noor, sale);
    await noor.ask('POST', `/journal/sales/${sale.basket.id}/reprints`, {}, key);
    const other = await noor.ask<ProblemDetails>('POST', '/drawer/shifts', { pieces: { 100: 1 } }, key);
    expect([other.status, other.body.type]).toEqual([422, 'key-used']);
  });

  it('forgets answers only when nobody can ask for them again', async () => {
    const count = async () =>
      (await test.house.database.ask((sql) => sql.query('select 1 from idempotency'))).length;
    const before = await count();
    await test.house.database.ask((sql) =>
      sql.query(
        "update idempotency set at = at - interval '31 days' where key in (select key from idempotency limit 1)",
      ),
    );
    await test.restart();
    expect(before).toBeGreaterThan(1);
    expect(await count()).toBe(before - 1);
  });

  it('keeps the count sheet as it is being filled in, and notices two windows', async () => {
    expect((await noor.ask('PUT', '/drawer/count-sheet', { pieces: { 100: 7 }, revision: 0 })).body).toEqual({
      revision: 1,
    });
    await test.restart();
    expect((await state()).shift).toMatchObject({ countSheet: { 100: 7 }, countRevision: 1 });
    const stale = await noor.ask<ProblemDetails>('PUT', '/drawer/count-sheet', {
      pieces: { 100: 8 },
      revision: 0,
    });
    expect([stale.status, stale.body.type]).toEqual([409, 'count-changed']);
  });

  it('refuses pieces that there are none of, next to the piece', async () => {
    const { status, body } = await noor.ask<ProblemDetails>('PUT', '/drawer/count-sheet', {
      pieces: { 300: 1 },
      revision: 1,
    });
    expect(status).toBe(422);
    expect(body.fields).toEqual([{ field: 'pieces.300', message: 'US dollar has no piece of 3.00.' }]);
  });

  it('does not close on figures that have changed since the person looked', async () => {
    const { expected } = await state();
    const sale = await ringUp(test, ['PIC-M']);
    await pay(noor, sale);
    const refused = await noor.ask<ProblemDetails>(
      'POST',
      '/drawer/closings',
      closing({ 2000: 10 }, expected ?? 0),
    );
    expect([refused.status, refused.body.type]).toEqual([409, 'expected-changed']);
    expect(refused.body.data).toEqual({ expected: (expected ?? 0) + sale.expectedTotal });
  });

  it('closes with difference, exact bag plan, ledger and signed report', async () => {
    const { expected } = await state();
    const pieces = { 10000: 2, 2000: 10, 500: 10, 100: 40, 25: 41 };
    const { status, body } = await noor.ask<ClosedShift>(
      'POST',
      '/drawer/closings',
      closing(pieces, expected ?? 0),
    );
    expect(status).toBe(200);
    expect(body).toMatchObject({
      variance: 50_025 - (expected ?? 0),
      plan: { kept: 20_000, banked: 30_025, outcome: 'exact' },
    });
    expect(await state()).toMatchObject({ shift: null, left: 20_000, expected: 20_000 });
    const { body: paper } = await noor.ask<Paper>('GET', `/drawer/shifts/${body.id}/report`);
    expect(paper.rows).toContainEqual({ kind: 'signature', path: 'M10 10L50 50', label: 'Signed: Noor A.' });
    expect(paper.rows).toContainEqual({
      kind: 'pair',
      left: 'Into bank bag 0093',
      right: '300.25',
      strong: true,
    });
    const text = await noor.ask<string>('GET', `/drawer/shifts/${body.id}/report.txt`);
    expect(text.body).toContain('Receipts                  1-0001 to 1-0002');
    const pdf = await noor.ask<string>('GET', `/drawer/shifts/${body.id}/report.pdf`);
    expect(pdf.body.startsWith('%PDF-')).toBe(true);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('counts as one total only where the shop allows it, and bags what a hand chose', async () => {
    await openDrawer(noor);
    const { expected } = await state();
    const close = (more: object, pieces: Record<string, number> = {}) =>
      noor.ask<ClosedShift & ProblemDetails>('POST', '/drawer/closings', {
        ...closing(pieces, expected ?? 0),
        ...more,
      });
    expect((await close({ total: 20_000 })).body.fields?.[0]?.field).toBe('total');
    const allow = (allowed: boolean) =>
      test.house.database.ask((sql) => sql.query('update shop set count_as_total = $1', [allowed]));
    await allow(true);
    expect((await close({ total: 20_000 }, { 2000: 1 })).body.fields?.[0]?.message).toContain('not both');
    expect((await close({ keep: { 2000: 11 } }, { 2000: 10 })).body.fields?.[0]?.field).toBe('keep');
    expect((await close({ total: 20_000, float: 15_000 })).body).toMatchObject({
      variance: 20_000 - (expected ?? 0),
      plan: { kept: 15_000, banked: 5000, keep: {}, bag: {} },
    });
    expect(await state()).toMatchObject({ left: 15_000 });
    await allow(false);
    await openDrawer(noor);
    const { expected: now } = await state();
    const pieces = { 2000: 10, 100: 5 };
    const byHand = await noor.ask<ClosedShift>('POST', '/drawer/closings', {
      ...closing(pieces, now ?? 0),
      keep: { 2000: 3, 100: 5 },
    });
    expect(byHand.body.plan).toMatchObject({ kept: 6500, banked: 14_000, bag: { 2000: 7 } });
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('does not let a sale slip in while it is being closed', async () => {
    await openDrawer(noor);
    const { expected } = await state();
    const sales = await Promise.all(Array.from({ length: 6 }, () => ringUp(test, ['PIC-M'])));
    const [closed, ...paid] = await Promise.all([
      noor.ask('POST', '/drawer/closings', closing({ 10000: 2 }, expected ?? 0)),
      ...sales.map((sale) => pay(noor, sale)),
    ]);
    const stored = paid.filter(({ status }) => status === 200);
    expect(closed.status === 200 ? stored.length : 0).toBe(0);
    expect(await test.house.database.ask(verify)).toEqual([]);
  });

  it('shows no report of a shift that is not closed', async () => {
    expect((await noor.ask('GET', '/drawer/shifts/999/report')).status).toBe(404);
    expect((await noor.ask('GET', '/drawer/shifts/x/report')).status).toBe(404);
    expect((await noor.ask('GET', '/drawer/shifts/1/report.doc')).status).toBe(404);
  });
});
