import { formatDay } from '../../core/locale.ts';
import { daySummary } from '../../core/figures/daySummary.ts';
import { likeDays } from '../../core/figures/period.ts';
import type { Paper } from '../../core/journal/paper.ts';
import { formatMoneyIn } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { Reader } from '../db/database.ts';
import { readShop } from '../shop/store.ts';
import { findReport, wholeShop } from './reportStore.ts';
import { oddOf } from './today.ts';
import * as store from './todayStore.ts';

const ALL = { most: 100, offset: 0 };

/** The mail about a day. */
export async function daySummaryPaper(sql: Reader, day: string): Promise<Paper> {
  const shop = await readShop(sql);
  const currency = currencyOf(shop.currency);
  const [before = day] = likeDays(day, 1);
  const query = wholeShop({ from: day, to: day });
  const whole = await store.soldOn(sql, day, 0);
  const places = await findReport(sql, 'places', query, shop, ALL);
  const shifts = await findReport(sql, 'over-short', query, shop, ALL);
  const words = (value: number, money: boolean) =>
    money ? formatMoneyIn(shop.receiptLocale, value, currency.digits) : String(value);
  return daySummary({
    shop: shop.name,
    day: formatDay(day, shop.receiptLocale),
    currency,
    sold: whole.sold ?? 0,
    before: (await store.soldOn(sql, before, 0)).sold ?? 0,
    sales: whole.count ?? 0,
    returned: whole.returned ?? 0,
    means: await store.meansOn(sql, day, 0),
    places: places.rows.map(({ name, now }) => ({ name, sold: now.sold ?? 0 })),
    best: await store.bestItems(sql, day, 0),
    variances: shifts.rows
      .map(({ name, now }) => ({ name, amount: now.variance ?? 0 }))
      .filter(({ amount }) => amount !== 0),
    odd: (await oddOf(sql, day, { over: true })).map(
      ({ what, place, value, money, usual }) =>
        `${what} at ${place}: ${words(value, money)}, usually ${words(usual.low, money)} to ${words(usual.high, money)} on such a weekday.`,
    ),
  });
}
