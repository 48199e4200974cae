import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { Person } from '../../contract/staff.ts';
import { ENGINE, openDrawer, openHouse, pay, ringUp, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
beforeAll(async () => {
  test = await openHouse();
});
afterAll(() => test.stop());

describe(`signing in on ${ENGINE}`, () => {
  it('knows a person by PIN, and nobody without', async () => {
    const browser = test.browser();
    expect((await browser.ask('GET', '/staff/session')).body).toBeNull();
    expect((await browser.ask('GET', '/drawer')).status).toBe(401);
    await browser.signIn('8024', 3);
    const { body } = await browser.ask<Person>('GET', '/staff/session');
    expect(body).toMatchObject({ name: 'Isolde R.', role: 'manager', tillId: 3 });
    expect(body.rights).toContain('shop.set-up');
  });

  it('stays signed in through a restart, until signed out', async () => {
    const browser = test.browser();
    await browser.signIn('1357', 1);
    await test.restart();
    expect((await browser.ask<Person>('GET', '/staff/session')).body.name).toBe('Noor A.');
    const { headers } = await browser.ask('DELETE', '/staff/session');
    expect(headers.getSetCookie()[0]).toContain('HttpOnly; SameSite=Strict');
    expect((await browser.ask('GET', '/drawer')).status).toBe(401);
  });

  it('makes a till wait longer with every wrong PIN, and the wait outlives a restart', async () => {
    const browser = test.browser();
    const wrong = () => browser.ask<ProblemDetails>('POST', '/staff/session', { pin: '0000', tillId: 2 });
    expect((await wrong()).body.title).toBe('Nobody has this PIN.');
    await wrong();
    expect((await wrong()).body.data).toEqual({ seconds: 2 });
    await test.restart();
    const right = await browser.ask<ProblemDetails>('POST', '/staff/session', { pin: '1357', tillId: 2 });
    expect([right.status, right.body.data]).toEqual([429, { seconds: 2 }]);
    await test.house.database.ask((sql) => sql.query('update till set pin_blocked_until = null'));
    await browser.signIn('1357', 2);
    const [row] = await test.house.database.ask((sql) =>
      sql.query('select wrong_pins from till where id = 2'),
    );
    expect(row).toEqual({ wrong_pins: 0 });
  });

  it('refuses an unknown till and what is no PIN, next to the field', async () => {
    const browser = test.browser();
    const noTill = await browser.ask<ProblemDetails>('POST', '/staff/session', { pin: '1357', tillId: 99 });
    expect(noTill.body.fields).toEqual([{ field: 'tillId', message: 'Choose a till.' }]);
    const noPin = await browser.ask<ProblemDetails>('POST', '/staff/session', { pin: '12', tillId: 1 });
    expect(noPin.body.fields).toEqual([{ field: 'pin', message: 'A PIN has 4 to 8 digits.' }]);
  });

  it('stores no PIN, and records who signed in', async () => {
    const stored = await test.house.database.ask((sql) => sql.query('select * from staff'));
    expect(JSON.stringify(stored)).not.toMatch(/1357|2468|3690|8024/);
    const audit = await test.house.database.ask((sql) =>
      sql.query<{ what: string }>('select distinct what from audit order by 1'),
    );
    expect(audit.map(({ what }) => what)).toEqual(['signed-in', 'signed-out', 'wrong-pin']);
  });
});

describe('what a request may do', () => {
  it('is checked on the server, by right', async () => {
    const browser = test.browser();
    await browser.signIn('1357', 1);
    await test.house.database.ask((sql) =>
      sql.query("delete from role_right where role = 'cashier' and \"right\" like 'drawer.%'"),
    );
    const refused = await browser.ask<ProblemDetails>('POST', '/drawer/shifts', { pieces: {} });
    expect([refused.status, refused.body.title]).toEqual([403, 'Noor A. may not do this: Open a drawer.']);
  });

  it('needs a key to write and must come from this site', async () => {
    const browser = test.browser();
    await browser.signIn('8024', 1);
    const noKey = await browser.ask('POST', '/drawer/shifts', { pieces: {} }, { 'idempotency-key': 'again' });
    expect(noKey.status).toBe(400);
    const elsewhere = await browser.ask(
      'POST',
      '/drawer/shifts',
      { pieces: {} },
      { origin: 'http://elsewhere.example' },
    );
    expect(elsewhere.status).toBe(403);
  });

  it('is answered with problem details, also for what cannot be read', async () => {
    const browser = test.browser();
    const answer = await fetch(`${test.url}/api/staff/session`, {
      method: 'POST',
      body: '{',
      headers: { 'content-type': 'application/json' },
    });
    expect([answer.status, answer.headers.get('content-type')]).toEqual([
      400,
      'application/problem+json; charset=utf-8',
    ]);
    expect((await browser.ask('GET', '/nothing/here')).status).toBe(404);
  });

  it('comes with a strict Content-Security-Policy', async () => {
    const { headers, body } = await test.browser().ask('GET', '/health');
    expect(body).toMatchObject({ status: 'ok', engine: ENGINE });
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self';");
    expect(policy).not.toContain('unsafe');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});

describe('events', () => {
  it('tell every listening browser of a sale and its printed receipt', async () => {
    const browser = test.browser();
    await browser.signIn('8024', 1);
    await openDrawer(browser);
    const heard: string[] = [];
    const told = new Promise<void>((resolve) => {
      const tell = test.house.events.tell;
      test.house.events.tell = (event) => {
        heard.push(event.kind);
        tell(event);
        if (heard.includes('printed') && heard.includes('stock-changed')) resolve();
      };
    });
    await pay(browser, await ringUp(test, ['PIC-M']));
    await told;
    expect(heard).toContain('sale-finished');
    const { body } = await browser.ask<{ text: string; openedDrawer: boolean }[]>('GET', '/printer/papers');
    expect(body[0]).toMatchObject({ openedDrawer: true });
    expect(body[0]?.text).toContain('Receipt 1-0001');
  });
});
