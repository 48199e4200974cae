import type { FiguresQuery, Tie } from '../../contract/figures.ts';
import type { ReportName } from '../../core/figures/reports.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import { findReport, wholeShop } from './reportStore.ts';
import { businessDays } from './shopDays.ts';
import * as store from './tiesStore.ts';

/**
 * Each report against what else says the same: the books, the journal, shift reports, other reports. What is of all
 * places is compared with all of the books.
 */
export async function ties(sql: Reader, asked: Pick<FiguresQuery, 'from' | 'to'>): Promise<Tie[]> {
  const shop = await readShop(sql);
  const moments = businessDays(asked, shop);
  const whole = wholeShop(asked);
  const totals = async (name: ReportName) =>
    (await findReport(sql, name, whole, shop, { most: 1, offset: 0 })).totals.now;
  const of = async (name: ReportName, column: string) => (await totals(name))[column] ?? 0;
  const books = async (...accounts: Parameters<typeof store.bookedOnSales>[1]) =>
    0 - (await store.bookedOnSales(sql, accounts, asked));
  const sold = await of('days', 'sold');
  const days = await totals('days');
  const { journal, reports } = await store.closedShifts(sql, moments);
  const tie = (what: string, name: ReportName, left: number, words: string, right: number): Tie => ({
    what,
    left: { words: 'this report', amount: left },
    right: { words, amount: right },
    to: `/figures/reports/${name}`,
  });
  const until = { until: moments.until };
  return [
    tie(
      'Sold without tax',
      'days',
      sold,
      'books: sales, returns and discounts',
      await books('sales', 'returns', 'discounts'),
    ),
    tie('Sold by hour', 'hours', await of('hours', 'sold'), 'sold by day', sold),
    tie('Sold by person', 'people', await of('people', 'sold'), 'sold by day', sold),
    tie('Sold by category', 'categories', await of('categories', 'sold'), 'sold by day', sold),
    tie('Sold by item', 'items', await of('items', 'sold'), 'sold by day', sold),
    tie('Sold by supplier', 'suppliers', await of('suppliers', 'sold'), 'sold by day', sold),
    tie(
      'Sold to known, new and others',
      'kinds-of-customers',
      await of('kinds-of-customers', 'sold'),
      'sold by day',
      sold,
    ),
    tie(
      'What goods cost',
      'days',
      days.cost ?? 0,
      'books: cost of goods when they were sold',
      await store.costOnSales(sql, asked),
    ),
    tie('What goods cost by item', 'items', await of('items', 'cost'), 'by day', days.cost ?? 0),
    tie(
      'Returns',
      'returns',
      await of('returns', 'refunded'),
      'books: returns',
      0 - (await books('returns')),
    ),
    tie(
      'Offers and discounts',
      'discounts',
      await of('discounts', 'off'),
      'books: discounts',
      0 - (await books('discounts')),
    ),
    tie('Tax', 'taxes', await of('taxes', 'tax'), 'books: tax payable', await books('tax-payable')),
    tie(
      'Paid',
      'means',
      await of('means', 'paid'),
      'journal: totals with donations',
      await store.paidInJournal(sql, asked),
    ),
    tie('Tips', 'means', await of('means', 'tips'), 'books: tips to hand on', await books('tips-payable')),
    tie(
      'Donations',
      'donations',
      await of('donations', 'given'),
      'books: donations to hand on',
      await books('donations-payable'),
    ),
    tie('Closed shifts', 'over-short', reports, 'journal: sales of these shifts', journal),
    tie(
      'Over and short',
      'over-short',
      await of('over-short', 'variance'),
      'books: over and short at closing',
      0 - (await store.bookedUntil(sql, ['over-short'], { ...moments, kinds: ['shift-closed'] })),
    ),
    tie(
      'Stock',
      'stock',
      await of('stock', 'value'),
      'books: stock',
      await store.bookedUntil(sql, ['stock'], until),
    ),
    tie(
      'Shrinkage',
      'shrinkage',
      await of('shrinkage', 'lost'),
      'books: shrinkage and own use',
      await store.bookedUntil(sql, ['shrinkage', 'own-use'], moments),
    ),
    tie(
      'Gift cards and credit outstanding',
      'gift-cards',
      await of('gift-cards', 'owed'),
      'books: gift cards and credit',
      0 - (await store.bookedUntil(sql, ['stored-value', 'store-credit'], until)),
    ),
    tie(
      'Deposits held',
      'deposits',
      await of('deposits', 'held'),
      'books: deposits of customers',
      0 - (await store.bookedUntil(sql, ['customer-deposits'], until)),
    ),
    tie(
      'House accounts, now',
      'accounts',
      await of('accounts', 'owed'),
      'books: what customers owe',
      await store.bookedUntil(sql, ['receivable'], { until: null }),
    ),
  ];
}
