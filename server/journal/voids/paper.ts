import type { Paper } from '../../../core/journal/paper.ts';
import { receiptNumber } from '../../../core/journal/receiptNumber.ts';
import { voidSlip } from '../../../core/journal/voidSlip.ts';
import { currencyOf } from '../../../core/payment/currency.ts';
import { shopTime } from '../../clock.ts';
import type { Reader } from '../../db/database.ts';
import { Problem } from '../../http/problem.ts';
import { readShop } from '../../shop/store.ts';
import { voidFacts } from './store.ts';

/** The slip of a voided sale. @throws Problem 404 */
export async function voidPaper(sql: Reader, saleId: string): Promise<Paper> {
  const facts = await voidFacts(sql, saleId);
  if (!facts) throw new Problem('no-void', 'This sale was not voided.');
  const shop = await readShop(sql);
  return voidSlip({
    ...facts,
    shop: shop.name,
    till: `Till ${facts.tillNumber}`,
    when: shopTime(facts.at, shop),
    receipt: receiptNumber(facts.tillNumber, facts.saleNumber),
    digits: currencyOf(shop.currency).digits,
  });
}
