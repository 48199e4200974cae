import type { FigureProblem, FinishedSale, FinishSale, StoredBasket } from '../../contract/counter.ts';
import type { Person } from '../../contract/staff.ts';
import { neededRights, type Basket, type BasketLine } from '../../core/counter/basket.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { saleEntries } from '../../core/ledger/entries.ts';
import { formatMoney, sum } from '../../core/money.ts';
import { priceBasket, type PricedBasket } from '../../core/offers/price.ts';
import type { TaxRate } from '../../core/offers/tax.ts';
import { change } from '../../core/payment/cash.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { RIGHTS } from '../../core/staff/rights.ts';
import { businessDate } from '../clock.ts';
import type { Writer } from '../db/database.ts';
import type { SellableItem } from '../goods/store.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import * as store from './store.ts';

/** Stores the basket of a till. @throws Problem 409 when it was changed elsewhere or its sale is finished */
export async function saveBasket(
  sql: Writer,
  person: Person,
  { basket, revision }: StoredBasket,
  at: Date,
): Promise<{ revision: number }> {
  if (await store.isFinished(sql, basket.id)) {
    throw new Problem(409, 'sale-finished', 'This basket has been paid already.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  // What was sent before it was held may arrive after it.
  if (await store.isHeld(sql, basket.id)) {
    throw new Problem(409, 'basket-held', 'This basket was put on hold.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  const stored = await store.putBasket(sql, person.tillId, basket, revision, at);
  if (stored === undefined) {
    throw new Problem(409, 'basket-changed', 'The basket was changed in another window of this till.', {
      data: await store.basketOf(sql, person.tillId),
    });
  }
  return { revision: stored };
}

/**
 * Finishes a sale in cash: prices the basket again from the server's own data, then stores the sale, its tender,
 * stock moves, ledger entries and receipt in one transaction. The basket's id makes a repeat harmless.
 * @throws Problem 409 `figures-differ` with the right figures when the screen showed others; nothing is taken then
 */
export async function finishSale(house: House, person: Person, wanted: FinishSale): Promise<FinishedSale> {
  const { database, clock } = house;
  const { basket, handed } = wanted;
  if (basket.lines.length === 0) throw fieldProblem('basket', 'The basket is empty: scan something first.');
  const itemIds = [...new Set(basket.lines.map(({ itemId }) => itemId))];
  const facts = await database.ask((sql) => store.pricingFacts(sql, person.tillId, basket.id, itemIds));
  if (facts.earlier) return earlierSale(basket.id, facts.tillNumber, facts.earlier);

  const items = new Map(facts.items.map((item) => [item.id, item]));
  checkRights(person, basket, facts);
  const { lines, priced } = priceFromFacts(basket, items, facts);
  if (priced.total !== wanted.expectedTotal)
    throw figuresDiffer({ ...basket, lines }, priced, facts.currency);
  const { digits } = currencyOf(facts.currency);
  const back = change(handed, priced.total);
  if (back < 0) {
    const missing = formatMoney(-back, digits);
    throw fieldProblem('handed', `${formatMoney(handed, digits)} does not cover it: ${missing} is missing.`);
  }

  const at = clock.now();
  const stored = await database.ask((sql) =>
    store.finishSale(sql, {
      id: basket.id,
      tillId: person.tillId,
      placeId: facts.placeId,
      staffId: person.staffId,
      at: at.toISOString(),
      businessDate: businessDate(at, facts.timezone),
      currency: facts.currency,
      taxMode: priced.taxMode,
      regular: priced.regular,
      reductions: priced.reductions,
      tax: sum(priced.taxes.map(({ tax }) => tax)),
      total: priced.total,
      note: basket.note ?? '',
      exemptReason: basket.exemption?.reason ?? null,
      exemptCertificate: basket.exemption?.certificate ?? '',
      lines: lines.map((line, at) => ({
        position: at + 1,
        ...line,
        note: line.note ?? '',
        gift: line.gift ?? false,
        ...pricesOf(priced, at),
        stocked: items.get(line.itemId)?.stocked ?? false,
      })),
      taxes: priced.taxes.map((tax, at) => ({ position: at + 1, ...tax })),
      tenders: priced.total > 0 ? [{ position: 1, kind: 'cash', amount: priced.total, handed }] : [],
      entries: saleEntries({ tillId: person.tillId, total: priced.total, taxes: priced.taxes }),
    }),
  );
  if (!stored.again) void tellTills(house, person.tillId, basket.id, facts.placeId, itemIds);
  return {
    id: basket.id,
    number: receiptNumber(facts.tillNumber, stored.number),
    total: priced.total,
    handed,
    change: back,
  };
}

/** Every step that not everybody may take needs the right, or an approval given for this very basket. */
function checkRights(person: Person, basket: Basket, facts: store.PricingFacts): void {
  const open = new Set(facts.items.filter(({ price }) => price === null).map(({ id }) => id));
  for (const { right, countersign } of neededRights(basket, open, facts.openPriceLimit)) {
    const approved = facts.countersigns.some((given) => given.id === countersign && given.right === right);
    if (!approved && !person.rights.includes(right)) {
      throw new Problem(
        403,
        'countersign-needed',
        `${person.name} may not do this alone: ${RIGHTS[right]}.`,
        {
          detail: 'Somebody with more rights can approve it here with their PIN.',
          data: { right },
        },
      );
    }
  }
}

function pricesOf(priced: PricedBasket, at: number) {
  const line = priced.lines[at];
  if (!line) throw new Error('a line was not priced');
  const { unitPrice, regular, net, records } = line;
  return { unitPrice, regular, net, records };
}

function earlierSale(id: string, tillNumber: number, earlier: store.EarlierSale): FinishedSale {
  const { total, handed } = earlier;
  return { id, number: receiptNumber(tillNumber, earlier.number), total, handed, change: handed - total };
}

/** Names and prices of fixed-price items come from the server; a price that was asked for comes from the basket. */
function priceFromFacts(basket: Basket, items: ReadonlyMap<number, SellableItem>, facts: store.PricingFacts) {
  const rates = new Map<number, TaxRate[]>();
  for (const { category, ...rate } of facts.rates)
    rates.set(category, [...(rates.get(category) ?? []), rate]);
  const lines = basket.lines.map((line, at): BasketLine => {
    const item = items.get(line.itemId);
    if (!item) throw fieldProblem(`basket.lines[${at}]`, `${line.name} is no longer sold. Remove the line.`);
    const { number, name, unit, decimals, taxCategoryId, price } = item;
    return { ...line, number, name, unit, decimals, taxCategoryId, listPrice: price ?? line.listPrice };
  });
  const priced = priceBasket(
    lines.map((line) => ({ ...line, rates: basket.exemption ? [] : (rates.get(line.taxCategoryId) ?? []) })),
    facts,
  );
  return { lines, priced };
}

function figuresDiffer(basket: Basket, priced: PricedBasket, currency: string): Problem {
  const data: FigureProblem = { basket, priced };
  return new Problem(409, 'figures-differ', 'A price has changed meanwhile. Nothing was taken.', {
    detail: `The total is now ${formatMoney(priced.total, currencyOf(currency).digits)}. Tell the customer, then take the payment.`,
    data,
  });
}

async function tellTills(house: House, tillId: number, saleId: string, placeId: number, itemIds: number[]) {
  house.events.tell({ kind: 'sale-finished', tillId, saleId });
  house.printing.wake();
  const levels = await house.database.ask((sql) => store.levelsAt(sql, placeId, itemIds));
  house.events.tell({ kind: 'stock-changed', placeId, levels });
}
