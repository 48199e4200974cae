import { formatDay } from '../../core/locale.ts';
import { endingSoon } from '../../core/people/loyalty.ts';
import { businessDate } from '../clock.ts';
import type { Reader } from '../db/database.ts';
import type { ShopRow } from '../shop/store.ts';
import { endingsOf, readProgramme } from './loyaltyStore.ts';

/**
 * What paper says of somebody's points, as pairs of what and how much: what a sale did to them, if one did, what they
 * have, what ends soon.
 */
export async function pointsOnPaper(
  sql: Reader,
  of: { customerId: number; balance: number; used?: number; earned?: number },
  shop: ShopRow,
  at: Date,
): Promise<(readonly [string, string])[]> {
  const { word } = await readProgramme(sql);
  const called = word.charAt(0).toLocaleUpperCase(shop.receiptLocale) + word.slice(1);
  const count = (many: number) => new Intl.NumberFormat(shop.receiptLocale).format(many);
  const ending = endingSoon(await endingsOf(sql, of.customerId), businessDate(at, shop.timezone));
  return [
    ...(of.used ? [[`${called} used`, count(of.used)] as const] : []),
    ...(of.earned === undefined ? [] : [[`${called} earned`, count(of.earned)] as const]),
    [`${called} in all`, count(of.balance)],
    ...(ending
      ? [[`of them until ${formatDay(ending.day, shop.receiptLocale)}`, count(ending.points)] as const]
      : []),
  ];
}
