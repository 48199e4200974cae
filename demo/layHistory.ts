import { v4 as newId } from 'uuid';
import type { BasketLine } from '../core/counter/basket.ts';
import { situationOf } from '../core/counter/offering.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { planBag } from '../core/drawer/bagPlan.ts';
import { openingOf } from '../core/drawer/opening.ts';
import { worth, type Pieces } from '../core/drawer/countSheet.ts';
import { expectedCash } from '../core/drawer/expectedCash.ts';
import {
  closingEntries,
  openingEntries,
  saleEntries,
  soldAndReturned,
  type LedgerEntry,
} from '../core/ledger/entries.ts';
import { sum, type Money } from '../core/money.ts';
import { indexOffers } from '../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../core/offers/price.ts';
import { ratesOn } from '../core/offers/taxRates.ts';
import { isDeposit } from '../core/promises/promised.ts';
import { currencyOf, type Currency } from '../core/payment/currency.ts';
import { businessDate, timeOfDay } from '../server/clock.ts';
import type { Writer } from '../server/db/database.ts';
import type { Closing } from '../server/drawer/store.ts';
import { liveOffers } from '../server/offers/offerStore.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import type { PastSale, PastShift } from './history.ts';
import { storeHistory } from './storeHistory.ts';

interface Sold {
  id: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  price: Money;
  taxCategoryId: number;
  stocked: boolean;
  category: string;
  familyId: number | null;
}

/** Who and where, by the places that the past shifts name. */
export interface PastHouse {
  staff: readonly { staffId: number; name: string }[];
  places: readonly number[];
  customers: readonly number[];
  /** House accounts by the customers who buy on them. */
  accounts: ReadonlyMap<number, PastAccount>;
}

/** A house account that past sales were charged to. */
export interface PastAccount {
  accountId: number;
  customerId: number;
  name: string;
  asksFor: string;
}

/** The first of the order numbers that buyers have given. */
const FIRST_ORDER = 4101;

const FLOAT = 200_00;

/**
 * Lays down past shifts with everything that a shift leaves behind, in a few statements instead of one for each
 * sale. What is computed is computed by the same functions as at a till; `npm run verify` finds no difference.
 */
export async function layHistory(sql: Writer, past: readonly PastShift[], house: PastHouse): Promise<void> {
  const shop = await readShop(sql);
  const currency = currencyOf(shop.currency);
  const rates = await taxRates(sql);
  const sold = await sql.query<Sold>(
    `select item.id, number, item.name, unit, decimals, price, tax_category_id as "taxCategoryId", stocked,
            category.name as category, family_id as "familyId"
     from item join category on category.id = category_id where kind = 'goods' and price is not null`,
  );
  const items = new Map(sold.map((item) => [item.number, item]));
  const byId = new Map(sold.map((item) => [item.id, item]));
  const offers = await liveOffers(sql);
  const index = indexOffers(offers);
  const groups = await groupsByCustomer(sql);
  const tills = await sql.query<{ id: number; number: number }>('select id, number from till');
  const states = new Map(
    tills.map(({ id, number }) => [
      number,
      { id, receipt: 0, shift: 0, left: 0, keep: piecesFor(FLOAT, currency) },
    ]),
  );

  const shifts: object[] = [];
  const sales: object[] = [];
  const events: object[] = [];

  function rungUp(sale: PastSale, placeId: number) {
    const day = businessDate(sale.at, shop.timezone);
    const lines = sale.lines.flatMap(({ number, quantity }) => {
      const item = items.get(number);
      return item ? [{ ...item, id: newId(), itemId: item.id, listPrice: item.price, quantity }] : [];
    });
    const promised = (sale.promised ?? []).map((line) => {
      const item = line.promised?.part === 'goods' ? items.get(line.number) : undefined;
      return { ...line, stocked: item?.stocked ?? false };
    });
    const basket: { id: string; lines: (BasketLine & { stocked: boolean })[] } = {
      id: newId(),
      lines: [...lines, ...promised],
    };
    const customerId = sale.customer === null ? null : (house.customers[sale.customer] ?? null);
    const goodsOf = (itemId: number) => {
      const item = byId.get(itemId);
      return item && { itemId, familyId: item.familyId ?? undefined, category: item.category };
    };
    const facts = { rates: ratesOn(rates, day), groupPrices: [], goodsOf };
    const situation = situationOf(basket, offers, {
      day,
      time: timeOfDay(sale.at, shop.timezone),
      placeId,
      used: [],
      customer:
        customerId === null ? null : { groups: groups.get(customerId) ?? [], points: 0, offerUses: [] },
      points: null,
    });
    const priced = priceBasket(linesToPrice(basket, facts), shop, [], { index, situation });
    return { id: basket.id, day, lines: basket.lines, priced, customerId };
  }

  for (const [at, shift] of past.entries()) {
    const till = states.get(shift.till);
    const cashier = house.staff[shift.cashier];
    if (!till || !cashier) throw new Error('a past shift has no till or nobody at it');
    const shiftId = at + 1;
    const opening = till.keep;
    const [tillId, staffId, first] = [till.id, cashier.staffId, till.receipt + 1];
    const of = { tillId, staffId, shiftId };
    const post = (kind: string, when: Date, entries: LedgerEntry[], saleId: string | null = null) =>
      events.push({ id: events.length + 1, kind, at: when.toISOString(), ...of, saleId, entries });

    post('shift-opened', shift.openedAt, openingEntries({ tillId, ...openingOf(worth(opening), till.left) }));
    const placeId = house.places[shift.place] ?? 0;
    const rung = shift.sales.map((sale) => rungUp(sale, placeId));
    // Goods that were promised were paid for by their deposits; whoever has an account pays later.
    const charged = rung.map(({ priced, customerId, lines }) =>
      priced.total > 0 && customerId !== null && !lines.some(({ promised }) => promised)
        ? (house.accounts.get(customerId) ?? null)
        : null,
    );
    const handed = rung.map(({ priced }, place) =>
      charged[place] ? priced.total : handedFor(priced.total, shift.sales[place]?.exact ?? true),
    );
    const inCash = (place: number) => !charged[place];
    rung.forEach(({ id, day, lines, priced, customerId }, place) => {
      const sale = shift.sales[place];
      if (!sale) return;
      till.receipt += 1;
      const { taxes, total } = priced;
      sales.push({
        ...of,
        id,
        number: till.receipt,
        placeId,
        at: sale.at.toISOString(),
        businessDate: day,
        currency: shop.currency,
        taxMode: priced.taxMode,
        regular: priced.regular,
        reductions: priced.reductions,
        tax: sum(taxes.map(({ tax }) => tax)),
        total,
        customerId,
        offerUses: priced.offers.map(({ id: offerId, uses }) => ({ offerId, uses })),
        lines: lines.map((line, row) => ({ ...line, ...priced.lines[row], position: row + 1 })),
        taxes: taxes.map((tax, row) => ({ ...tax, position: row + 1 })),
        handed: handed[place],
        accountId: charged[place]?.accountId ?? null,
        accountName: charged[place]?.name ?? null,
        reference: charged[place]?.asksFor ? `PO ${FIRST_ORDER + sales.length}` : '',
      });
      post(
        'sale',
        sale.at,
        saleEntries({
          tillId,
          total,
          taxes,
          tenders: [
            charged[place]
              ? {
                  kind: 'account',
                  amount: total,
                  handed: total,
                  tip: 0,
                  subject: `customer:${charged[place].customerId}`,
                }
              : { kind: 'cash', amount: total, handed: total, tip: 0, subject: '' },
          ],
          valueSold: [],
          onAccounts: [],
          deposits: lines.flatMap(({ promised }, row) =>
            promised && isDeposit(promised.part)
              ? [{ promiseId: promised.promiseId, amount: priced.lines[row]?.net ?? 0 }]
              : [],
          ),
          donation: null,
          cashRounding: 0,
          ...soldAndReturned(lines, priced),
        }),
        id,
      );
    });

    const closing = close(
      shift,
      rung.map(({ priced }) => priced),
      reductionsOf(
        rung.map(({ priced }) => priced),
        cashier.name,
      ),
      {
        opening,
        handed: sum(handed.filter((_, place) => inCash(place))),
        taken: sum(rung.filter((_, place) => inCash(place)).map(({ priced }) => priced.total)),
        first,
        last: till.receipt,
        name: cashier.name,
      },
      currency,
    );
    post(
      'shift-closed',
      shift.closedAt,
      closingEntries({ tillId, variance: closing.variance, banked: closing.plan.banked }),
    );
    till.shift += 1;
    shifts.push({
      ...of,
      number: till.shift,
      openedAt: shift.openedAt.toISOString(),
      closedAt: shift.closedAt.toISOString(),
      opening,
      float: worth(opening),
      closing,
    });
    till.keep = closing.plan.keep;
    till.left = closing.plan.kept;
  }
  await storeHistory(sql, { shifts, sales, events, tills: [...states.values()] });
}

function close(
  { variance }: PastShift,
  sales: readonly PricedBasket[],
  reductions: Closing['reductions'],
  till: { opening: Pieces; handed: Money; taken: Money; first: number; last: number; name: string },
  currency: Currency,
): Closing {
  const total = sum(sales.map((sale) => sale.total));
  const movements = {
    float: worth(till.opening),
    cashTaken: till.handed,
    changeGiven: till.handed - till.taken,
    refunds: 0,
    cashIn: 0,
    cashOut: 0,
    drops: 0,
  };
  const expected = expectedCash(movements);
  const pieces = piecesFor(expected + variance, currency);
  const taxes = new Map<number, Closing['taxes'][number]>();
  for (const tax of sales.flatMap((sale) => sale.taxes)) {
    const known = taxes.get(tax.rateId) ?? { ...tax, base: 0, tax: 0 };
    taxes.set(tax.rateId, { ...known, base: known.base + tax.base, tax: known.tax + tax.tax });
  }
  const none = sales.length === 0;
  return {
    pieces,
    counted: expected + variance,
    expected,
    variance,
    movements,
    sales: { count: sales.length, total, first: none ? null : till.first, last: none ? null : till.last },
    taxes: [...taxes.values()].sort((a, b) => a.rateId - b.rateId),
    openings: 0,
    reductions,
    plan: planBag(pieces, FLOAT),
    bagNumber: '',
    note: '',
    signature: { name: till.name, path: '' },
  };
}

/** What was taken off prices, as the shift's report lists it. */
function reductionsOf(sales: readonly PricedBasket[], person: string): Closing['reductions'] {
  const found = new Map<string, Closing['reductions'][number]>();
  for (const { kind, why, amount } of sales.flatMap(({ lines }) => lines.flatMap(({ records }) => records))) {
    const key = `${kind} ${why}`;
    const known = found.get(key) ?? { kind, reason: why, person, count: 0, amount: 0 };
    found.set(key, { ...known, count: known.count + 1, amount: known.amount + amount });
  }
  return [...found.values()].sort((a, b) => a.kind.localeCompare(b.kind) || a.amount - b.amount);
}

async function groupsByCustomer(sql: Writer): Promise<Map<number, string[]>> {
  const rows = await sql.query<{ id: number; groups: string[] }>(
    `select customer_id as id, json_agg(customer_group.name) as groups
     from customer_membership join customer_group on customer_group.id = group_id group by customer_id`,
  );
  return new Map(rows.map(({ id, groups }) => [id, groups]));
}

/** What somebody hands over who has not the exact amount: the next five, or the next twenty. */
function handedFor(total: Money, exact: boolean): Money {
  if (exact) return total;
  const step = total > 1500 ? 2000 : 500;
  return Math.ceil(total / step) * step;
}

/** An amount in as few pieces as it takes. */
function piecesFor(amount: Money, { pieces }: Currency): Pieces {
  let left = amount;
  const counted: Record<number, number> = {};
  for (const { value } of pieces.toSorted((a, b) => b.value - a.value)) {
    const count = Math.floor(left / value);
    if (count > 0) counted[value] = count;
    left -= count * value;
  }
  return counted;
}
