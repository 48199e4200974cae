import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { Person } from '../../contract/staff.ts';
import { anyAmount } from '../testing/returning.ts';
import { earlierPinKeyOf } from './pin.ts';
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
    expect((await wrong()).body.title).toBe('Wrong PIN.');
    await wrong();
    expect((await wrong()).body.data).toEqual({ seconds: 2 });
    await test.restart();
    const right = await browser.ask<ProblemDetails>('POST', '/staff/session', { pin: '1357', tillId: 2 });
    expect([right.status, right.body.data]).toEqual([429, { seconds: 2 }]);
    test.elapse(2);
    // Who types the right one after the wait is not held up; and it forgives nothing that was tried before.
    await browser.signIn('1357', 2);
    await browser.signIn('1357', 2);
    expect((await wrong()).body.data).toEqual({ seconds: 4 });
    test.elapse(4);
    // A clock that jumps changes nothing.
    const clock = vi.spyOn(test.house.clock, 'now').mockReturnValue(new Date('2031-01-01T00:00:00Z'));
    expect((await wrong()).body.data).toEqual({ seconds: 8 });
    expect((await wrong()).status).toBe(429);
    clock.mockRestore();
    test.elapse(3_600);
    expect((await wrong()).body.data).toEqual({ seconds: 0 });
  });

  it('judges few of many tries at once, in whichever way they come', async () => {
    test.elapse(3_600);
    const noor = test.browser();
    await noor.signIn('1357', 1);
    const tries = Array.from({ length: 30 }, (_, at) => {
      const pin = String(5000 + at);
      if (at % 3 === 0) return noor.ask('POST', '/staff/session', { pin, tillId: 1 });
      if (at % 3 === 1) return noor.ask('POST', '/staff/session', { pin: '1357', tillId: 1 });
      return noor.ask('POST', '/staff/countersigns', {
        pin,
        right: 'price.change',
        basketId: newId(),
        reason: 'Guessing',
        covers: [anyAmount('x')],
      });
    });
    const answers = await Promise.all(tries);
    const judged = answers.filter(({ status }) => status === 401).length;
    expect(judged).toBeLessThanOrEqual(3);
    expect(answers.filter(({ status }) => status === 429).length).toBeGreaterThan(15);
    test.elapse(3_600);
  });

  it('lets everybody in who types the right one, however many come at once', async () => {
    const all = Array.from({ length: 25 }, (_, at) => test.browser().signIn('2468', 1 + (at % 3)));
    await Promise.all(all);
  });

  it('counts tries of an address over all its tills', async () => {
    const browser = test.browser();
    let judged = 0;
    for (let at = 0; at < 12; at++) {
      const { status } = await browser.ask('POST', '/staff/session', {
        pin: `77${10 + at}`,
        tillId: 1 + (at % 3),
      });
      if (status === 401) judged += 1;
    }
    expect(judged).toBeLessThan(12);
    test.elapse(7_200);
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

  it('keeps the secret of the look-up out of the database, in a file of its own', async () => {
    expect(await test.house.database.ask((sql) => sql.query('select * from pin_secret'))).toEqual([]);
    const file = join(test.dataFolder, 'keys', 'pin.key');
    expect(existsSync(file)).toBe(true);
    expect(statSync(file).mode & 0o777).toBe(0o600);
    for (const folder of [test.dataFolder, join(test.dataFolder, 'keys')])
      expect(statSync(folder).mode & 0o777).toBe(0o700);
  });

  it('knows PINs as earlier versions looked them up, and puts them right', async () => {
    const keyOf = async () => {
      const [row] = await test.house.database.ask((sql) =>
        sql.query<{ pin_key: string }>("select pin_key from staff where name = 'Teo V.'"),
      );
      return row?.pin_key ?? '';
    };
    const fresh = await keyOf();
    const earlier = earlierPinKeyOf('2468', test.house.pinKey);
    await test.house.database.ask((sql) =>
      sql.query("update staff set pin_key = $1 where name = 'Teo V.'", [earlier]),
    );
    await test.browser().signIn('2468', 2);
    expect(await keyOf()).toBe(fresh);
  });
});

describe('a session', () => {
  const isIn = async (browser: Browser) => (await browser.ask('GET', '/drawer')).status === 200;

  it('ends when PIN, role or activity of the person change, and starts anew', async () => {
    const isolde = test.browser();
    await isolde.signIn('8024', 3);
    const staff = { name: 'Ines P.', role: 'cashier', active: true };
    const { body } = await isolde.ask<{ id: number }>('POST', '/setup/staff', { ...staff, pin: '606060' });
    const change = (more: object) => isolde.ask('PUT', `/setup/staff/${body.id}`, { ...staff, ...more });
    for (const [more, pin] of [
      [{ pin: '717171' }, '606060'],
      [{ role: 'supervisor' }, '717171'],
      [{ role: 'supervisor', active: false }, '717171'],
    ] as const) {
      const ines = test.browser();
      await ines.signIn(pin, 2);
      expect(await isIn(ines)).toBe(true);
      expect((await change(more)).status).toBe(200);
      expect(await isIn(ines), JSON.stringify(more)).toBe(false);
      await change({ ...more, pin: undefined, active: true });
      expect(await isIn(ines)).toBe(false);
    }
    // A name is no reason.
    const again = test.browser();
    await again.signIn('717171', 2);
    await change({ role: 'supervisor', name: 'Ines Q.' });
    expect(await isIn(again)).toBe(true);
  });

  it('ends with the night, and everywhere at once', async () => {
    const [one, two] = [test.browser(), test.browser()];
    await one.signIn('2468', 1);
    await two.signIn('2468', 2);
    const clock = vi.spyOn(test.house.clock, 'now').mockReturnValue(new Date('2026-03-03T15:00:00Z'));
    expect(await isIn(one)).toBe(false);
    clock.mockRestore();
    expect(await isIn(one)).toBe(true);
    const { staffId } = (await one.ask<Person>('GET', '/staff/session')).body;
    const other = test.browser();
    await other.signIn('1357', 3);
    expect((await other.ask('POST', '/staff/sign-out-everywhere', { staffId })).status).toBe(403);
    expect((await one.ask('POST', '/staff/sign-out-everywhere', { staffId })).status).toBe(200);
    expect([await isIn(one), await isIn(two)]).toEqual([false, false]);
  });

  it('hears what happens in at most eight windows', async () => {
    const browser = test.browser();
    await browser.signIn('8024', 1);
    const ended: number[] = [];
    const stop = new AbortController();
    for (let at = 0; at < 10; at++) {
      const answer = await browser.listen(stop.signal);
      void answer.text().then(
        () => ended.push(at),
        () => {},
      );
    }
    await eventually(() => expect(ended).toEqual([0, 1]));
    stop.abort();
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
    const nowhere = await fetch(`${test.url}/api/staff/session`, { method: 'POST', body: '{}' });
    expect(nowhere.status).toBe(403);
  });

  it('is answered with problem details, also for what cannot be read', async () => {
    const browser = test.browser();
    const answer = await fetch(`${test.url}/api/staff/session`, {
      method: 'POST',
      body: '{',
      headers: { 'content-type': 'application/json', origin: test.url },
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
