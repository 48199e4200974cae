import { v4 as newKey } from 'uuid';
import { openingStep } from '../../core/drawer/openingSlip.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { PrintedPaper } from '../../devices/printer/standIn.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { ENGINE, openDrawer, openHouse, type Browser, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let noor: Browser;
beforeAll(async () => {
  test = await openHouse();
  noor = test.browser();
  await noor.signIn('1357', 1);
});
afterAll(() => test.stop());

const open = (body: object, id = newKey()) =>
  noor.ask<ProblemDetails>('POST', '/drawer/openings', body, { 'idempotency-key': id });
const count = () =>
  test.house.database.ask(async (sql) => (await sql.query('select 1 from drawer_opening')).length);

describe(`opening the drawer without a sale, on ${ENGINE}`, () => {
  it('needs an open shift, a reason, and somebody who may', async () => {
    expect((await open({ reason: 'Change' })).body.type).toBe('no-open-drawer');
    await openDrawer(noor);
    expect((await open({ reason: ' ' })).body.fields?.[0]?.field).toBe('reason');
    expect((await open({ reason: 'Change' })).body.type).toBe('countersign-needed');
    expect((await open({ reason: 'Change', countersign: newKey() })).body.type).toBe('countersign-needed');
    expect(await count()).toBe(0);
  });

  it('is approved for this opening only, recorded once, and prints a slip that opens the drawer', async () => {
    const id = newKey();
    const { body: approval } = await noor.ask<{ id: string }>('POST', '/staff/countersigns', {
      pin: '3690',
      right: 'drawer.no-sale',
      basketId: id,
      reason: 'Change for a customer',
      covers: [openingStep('Change for a customer')],
    });
    const body = { reason: 'Change for a customer', countersign: approval.id };
    expect((await open(body)).status).toBe(403);
    expect((await open(body, id)).status).toBe(200);
    expect((await open(body, id)).status).toBe(200);
    expect(await count()).toBe(1);
    const papers = await eventually(async () => {
      const { body } = await noor.ask<PrintedPaper[]>('GET', '/printer/papers');
      expect(body).toHaveLength(1);
      return body;
    });
    expect(papers[0]?.openedDrawer).toBe(true);
    for (const words of ['Drawer opened without a sale', 'Noor A.', 'Maren K.', 'Change for a customer']) {
      expect(papers[0]?.text).toContain(words);
    }
  });
});
