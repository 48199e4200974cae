import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { v4 as newId } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DaySummary, LedgerPage, TrialBalance } from '../../contract/books.ts';
import { accountName, plainAmount } from '../../core/books/accountingJournal.ts';
import { sum } from '../../core/money.ts';
import { payDeposit, plainCustomer, setAside } from '../testing/promising.ts';
import { bringBack } from '../testing/returning.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let house: TestHouse;
let isolde: Browser;
let folder: string;

beforeAll(async () => {
  house = await openHouse();
  isolde = house.browser();
  await isolde.signIn('8024', 1);
  await openDrawer(isolde);
  const sale = await ringUp(house, ['CLA-0220', 'MET-C', 'PIC-M']);
  await pay(isolde, sale);
  await bringBack(isolde, sale.basket.id, [{ position: 2, quantity: 1000 }]);
  const wrong = await ringUp(house, ['MET-C']);
  await pay(isolde, wrong);
  await isolde.ask('POST', `/journal/sales/${wrong.basket.id}/void`, { reason: 'Rung up twice' });
  await isolde.ask(
    'POST',
    '/drawer/cash-moves',
    { kind: 'out', amount: 1250, reason: 'Post; and "parcels"', person: '' },
    { 'idempotency-key': newId() },
  );
  folder = mkdtempSync(join(tmpdir(), 'mondrel-books-'));
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await house.stop();
});

const balance = async () => (await isolde.ask<TrialBalance>('GET', '/books/balance')).body;

/** Every account's balance as the books show it, those of nothing left out. */
async function ownBalances(): Promise<Record<string, number>> {
  const { rows } = await balance();
  return Object.fromEntries(
    rows
      .filter((row) => row.balance !== 0)
      .map((row) => [accountName(row.account, row.subject), Number(plainAmount(row.balance, 2))]),
  );
}

describe(`the books on ${ENGINE}`, () => {
  it('balance, and name every account', async () => {
    const { rows, debit, credit } = await balance();
    expect(debit).toBe(credit);
    expect(sum(rows.map((row) => row.balance))).toBe(0);
    expect(rows.filter(({ words }) => /[a-z]:|-|^$/.test(words))).toEqual([]);
    expect(rows.map(({ words }) => words)).toContain('Cash in a drawer · Till 1');
    const returns = rows.find(({ account }) => account === 'returns');
    expect(returns?.balance).toBe(4500);
  });

  it('list every event with its entries, of one account too', async () => {
    const all = (await isolde.ask<LedgerPage>('GET', '/books/events')).body;
    for (const { entries } of all.events) expect(sum(entries.map(({ amount }) => amount))).toBe(0);
    expect(all.events.map(({ kind }) => kind)).toContain('void');
    const petty = (await isolde.ask<LedgerPage>('GET', '/books/events?account=petty-cash')).body;
    expect(petty.events.map(({ words }) => words)).toEqual(['Cash in or out, Post; and "parcels"']);
    expect(petty.events[0]?.entries.map(({ words }) => words)).toEqual([
      'Cash in a drawer · Till 1',
      'Cash put in or taken out without a sale',
    ]);
    expect((await isolde.ask<LedgerPage>('GET', '/books/events?from=2026-03-03')).body.count).toBe(0);
  });

  it('sum a day up as its sales do', async () => {
    const { body } = await isolde.ask<DaySummary>('GET', '/books/day');
    expect(body).toMatchObject({ day: '2026-03-02', sales: 1, returns: 1, voids: 1 });
    expect(sum(body.tenders.map(({ amount }) => amount))).toBe(body.total);
    expect(body.gross + body.reductions - body.refunded + body.tax).toBe(body.total);
    expect(sum(body.tills.map(({ total }) => total))).toBe(body.total);
  });

  it('go out as a journal that two programs read to the same balances', async () => {
    const layaway = await setAside(house, isolde, await plainCustomer(house), ['MET-C']);
    await payDeposit(house, isolde, layaway.answer.body.id, layaway.wanted.terms.deposit);
    const { body } = await isolde.ask<string>('GET', '/books/books.journal');
    expect(body).toContain('liabilities:customer-deposits:promise');
    const file = join(folder, 'books.journal');
    writeFileSync(file, body);
    const own = await ownBalances();

    const plain = execFileSync('hledger', ['-f', file, 'balance', '--flat', '-O', 'csv'], {
      encoding: 'utf8',
    });
    const rows = parse(plain, { fromLine: 2 }) as [string, string][];
    expect(
      Object.fromEntries(
        rows
          .filter(([account]) => account !== 'total')
          .map(([account, amount]) => [account, Number(amount.replace(/ USD|,/g, ''))]),
      ),
    ).toEqual(own);

    const second = execFileSync(
      'ledger',
      [
        '--no-pager',
        '-f',
        file,
        'balance',
        '--flat',
        '--no-total',
        '--balance-format',
        '%(quantity(display_total))|%(account)\n',
      ],
      { encoding: 'utf8' },
    );
    const listed = second
      .trim()
      .split('\n')
      .map((line): [string, number] => {
        const [amount = '', account = ''] = line.split('|');
        return [account.trim(), Number(amount.replaceAll(',', ''))];
      });
    expect(Object.fromEntries(listed)).toEqual(own);
    // Both check that every transaction balances, and that accounts are declared.
    execFileSync('hledger', ['-f', file, 'check', '--strict']);
  });

  it('go out as comma-separated values that add up, and only to who may see them', async () => {
    const { body } = await isolde.ask<string>('GET', '/books/books.csv');
    const rows = parse(body, { columns: true }) as { debit: string; credit: string; what: string }[];
    const total = (key: 'debit' | 'credit') =>
      sum(rows.map((row) => Math.round(Number(row[key] || 0) * 100)));
    expect(total('debit')).toBe(total('credit'));
    expect(total('debit')).toBe((await balance()).debit);
    const noor = house.browser();
    await noor.signIn('1357', 2);
    for (const path of ['/books/balance', '/books/books.csv', '/drawer/history']) {
      expect((await noor.ask('GET', path)).status, path).toBe(403);
    }
  });
});
