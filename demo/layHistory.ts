import { v4 as newId } from 'uuid';
import type { BasketLine } from '../core/counter/basket.ts';
import { situationOf } from '../core/counter/offering.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { openingOf } from '../core/drawer/opening.ts';
import { worth } from '../core/drawer/countSheet.ts';
import { receiptNumber } from '../core/journal/receiptNumber.ts';
import { refundsFor } from '../core/journal/returns.ts';
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
import { currencyOf } from '../core/payment/currency.ts';
import { roundUpAmount } from '../core/payment/roundUp.ts';
import { newStoredValueNumber } from '../core/payment/storedValue.ts';
import { isDeposit } from '../core/promises/promised.ts';
import { ONE } from '../core/quantity.ts';
import { businessDate, timeOfDay } from '../server/clock.ts';
import { one, type Writer } from '../server/db/database.ts';
import { liveOffers } from '../server/offers/offerStore.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import type { PastSale, PastShift } from './history.ts';
import { pastClosing, piecesFor, type RungUp } from './pastClosing.ts';
import {
  pastRefund,
  pastTenders,
  type PastAccount,
  type PastCard,
  type PastTender,
  type PastType,
} from './pastTenders.ts';
import { seeded } from './random.ts';
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

type PastLine = BasketLine & { stocked: boolean };

/** A past sale with what it came to. */
interface PastReceipt {
  id: string;
  /** As printed. */
  receipt: string;
  day: string;
  placeId: number;
  customerId: number | null;
  lines: readonly PastLine[];
  priced: PricedBasket;
  tenders: readonly PastTender[];
  donation: Money;
}

/** Who and where, by the places that the past shifts name. */
export interface PastHouse {
  staff: readonly { staffId: number; name: string }[];
  places: readonly number[];
  customers: readonly number[];
  /** House accounts by the customers who buy on them. */
  accounts: ReadonlyMap<number, PastAccount>;
}

const FLOAT = 200_00;
const ROUND_UP = 1_00;
const CARD_SEED = 44;
/** So long after it a sale that was a mistake is voided. */
const VOIDED_MS = 3 * 60_000;

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
  const types = await sql.query<PastType>(
    'select id, kind, name, counted from tender_type order by position, name',
  );
  const fund = one(
    await sql.query<{ id: number; name: string }>('select id, name from fund order by id limit 1'),
  );
  const giftCard = one(
    await sql.query<Omit<Sold, 'price'>>(
      `select item.id, number, item.name, unit, decimals, tax_category_id as "taxCategoryId", false as stocked
       from item where id = (select gift_card_item_id from shop)`,
    ),
  );
  const digits = seeded(CARD_SEED);
  const cards: PastCard[] = [];
  /** What may come back: whole sales that were paid in one way, and of which nothing is out of the usual. */
  const keepers: PastReceipt[] = [];
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
  const voids: object[] = [];

  /** The goods that come back: the first line of the latest sale that may, of a day before. */
  function broughtBack(
    sale: PastSale,
    placeId: number,
    day: string,
  ): { line: PastLine; of: PastReceipt } | null {
    const nth = keepers.findLastIndex((kept) => kept.placeId === placeId && kept.day < day);
    const [of] = nth < 0 ? [] : keepers.splice(nth, 1);
    const [line] = of?.lines ?? [];
    const [priced] = of?.priced.lines ?? [];
    if (!of || !line || !priced || !sale.way?.back) return null;
    const sold = of.lines.map(({ quantity }, row) => ({
      ...(of.priced.lines[row] ?? priced),
      position: row + 1,
      quantity,
      back: { quantity: 0, net: 0, taxes: [] },
    }));
    const [refund] = refundsFor(sold, [{ position: 1, quantity: line.quantity }]);
    if (!refund) return null;
    const figures = { ...refund, unitPrice: priced.unitPrice };
    const from = {
      saleId: of.id,
      receipt: of.receipt,
      position: 1,
      way: 'share',
      figures,
      late: false,
    } as const;
    const comesBack = { ...sale.way.back, sale: from };
    return { line: { ...line, id: newId(), quantity: 0 - line.quantity, comesBack }, of };
  }

  function linesOf(sale: PastSale): PastLine[] {
    const lines = sale.lines.flatMap(({ number, quantity }) => {
      const item = items.get(number);
      return item ? [{ ...item, id: newId(), itemId: item.id, listPrice: item.price, quantity }] : [];
    });
    const promised = (sale.promised ?? []).map((line) => {
      const item = line.promised?.part === 'goods' ? items.get(line.number) : undefined;
      return { ...line, stocked: item?.stocked ?? false };
    });
    const amount = sale.way?.card;
    if (amount === undefined) return [...lines, ...promised];
    const number = newStoredValueNumber(() => Math.floor(digits() * 10));
    cards.push({ number, soldAt: sale.at, left: amount });
    const card = { ...giftCard, id: newId(), itemId: giftCard.id, listPrice: amount, quantity: ONE };
    return [...lines, ...promised, { ...card, storedValue: { number, kind: 'gift-card' } }];
  }

  /** @returns nothing where something was to come back and nothing is there */
  function rungUp(
    sale: PastSale,
    { placeId, receipt }: { placeId: number; receipt: string },
    nth: number,
  ): PastReceipt | null {
    const day = businessDate(sale.at, shop.timezone);
    const back = sale.way?.back ? broughtBack(sale, placeId, day) : null;
    if (sale.way?.back && !back) return null;
    const basket: { id: string; lines: PastLine[] } = {
      id: newId(),
      lines: back ? [back.line] : linesOf(sale),
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
    const { discount } = sale.way ?? {};
    const discounts = discount
      ? [
          {
            id: newId(),
            lineIds: null,
            size: { kind: 'percent', rate: discount.rate } as const,
            reason: discount.reason,
          },
        ]
      : [];
    const priced = priceBasket(linesToPrice(basket, facts), shop, discounts, { index, situation });
    const { lines } = basket;
    const isPromised = lines.some(({ promised }) => promised);
    // Goods that were promised were paid for by their deposits; whoever has an account pays later.
    const account =
      priced.total > 0 && customerId !== null && !isPromised
        ? (house.accounts.get(customerId) ?? null)
        : null;
    const donation = sale.way?.gives && !account && !isPromised ? roundUpAmount(priced.total, ROUND_UP) : 0;
    const paid = back?.of.tenders[0];
    const known = cards.filter(({ left, soldAt }) => left > 0 && soldAt < sale.at);
    const tenders = paid
      ? [pastRefund(priced.total, back.of.id, paid)]
      : pastTenders(sale, priced.total + donation, { types, account, cards: known }, nth);
    return { id: basket.id, receipt, day, placeId, customerId, lines, priced, tenders, donation };
  }

  function storedSale({ id, day, placeId, customerId, lines, priced, tenders, donation }: PastReceipt) {
    const { taxes } = priced;
    return {
      id,
      kind: lines.some(({ quantity }) => quantity < 0) ? 'return' : 'sale',
      placeId,
      businessDate: day,
      currency: shop.currency,
      taxMode: priced.taxMode,
      regular: priced.regular,
      reductions: priced.reductions,
      tax: sum(taxes.map(({ tax }) => tax)),
      total: priced.total,
      donation,
      fundId: donation > 0 ? fund.id : null,
      customerId,
      offerUses: priced.offers.map(({ id: offerId, uses }) => ({ offerId, uses })),
      lines: lines.map((line, row) => ({ ...line, ...priced.lines[row], position: row + 1 })),
      taxes: taxes.map((tax, row) => ({ ...tax, position: row + 1 })),
      tenders: tenders.map((tender, row) => ({ ...tender, position: row + 1 })),
    };
  }

  function entriesOf({ lines, priced, tenders, donation }: PastReceipt, tillId: number): LedgerEntry[] {
    return saleEntries({
      tillId,
      total: priced.total,
      taxes: priced.taxes,
      tenders,
      valueSold: lines.flatMap(({ storedValue }, row) =>
        storedValue ? [{ kind: storedValue.kind, amount: priced.lines[row]?.net ?? 0 }] : [],
      ),
      onAccounts: [],
      deposits: lines.flatMap(({ promised }, row) =>
        promised && isDeposit(promised.part)
          ? [{ promiseId: promised.promiseId, amount: priced.lines[row]?.net ?? 0 }]
          : [],
      ),
      donation: donation > 0 ? { fundId: fund.id, amount: donation } : null,
      cashRounding: 0,
      ...soldAndReturned(lines, priced),
    });
  }

  for (const [at, shift] of past.entries()) {
    const till = states.get(shift.till);
    const cashier = house.staff[shift.cashier];
    if (!till || !cashier) throw new Error('a past shift has no till or nobody at it');
    const shiftId = at + 1;
    const opening = till.keep;
    const [tillId, staffId] = [till.id, cashier.staffId];
    const of = { tillId, staffId, shiftId };
    const post = (kind: string, when: Date, entries: LedgerEntry[], saleId: string | null = null): number =>
      events.push({ id: events.length + 1, kind, at: when.toISOString(), ...of, saleId, entries });

    post('shift-opened', shift.openedAt, openingEntries({ tillId, ...openingOf(worth(opening), till.left) }));
    const placeId = house.places[shift.place] ?? 0;
    const rung: RungUp[] = [];
    for (const sale of shift.sales) {
      const receipt = receiptNumber(shift.till, till.receipt + 1);
      const done = rungUp(sale, { placeId, receipt }, sales.length);
      if (!done) continue;
      till.receipt += 1;
      const { id, lines, priced, tenders, donation } = done;
      const voided = sale.way?.voided ?? false;
      rung.push({ number: till.receipt, lines, priced, tenders, donation, voided });
      if (mayComeBack(done, sale)) keepers.push(done);
      sales.push({ ...of, ...storedSale(done), number: till.receipt, at: sale.at.toISOString() });
      const entries = entriesOf(done, tillId);
      post('sale', sale.at, entries, id);
      if (!voided) continue;
      const voidedAt = new Date(sale.at.getTime() + VOIDED_MS);
      const undone = entries.map((entry) => ({ ...entry, amount: 0 - entry.amount }));
      const eventId = post('void', voidedAt, undone, id);
      voids.push({ ...of, saleId: id, voidedAt: voidedAt.toISOString(), eventId });
    }

    const closing = pastClosing(rung, {
      opening,
      variance: shift.variance,
      float: FLOAT,
      name: cashier.name,
      fund: fund.name,
      types,
      currency,
    });
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
  await storeHistory(sql, { shifts, sales, events, tills: [...states.values()], voids });
}

async function groupsByCustomer(sql: Writer): Promise<Map<number, string[]>> {
  const rows = await sql.query<{ id: number; groups: string[] }>(
    `select customer_id as id, json_agg(customer_group.name) as groups
     from customer_membership join customer_group on customer_group.id = group_id group by customer_id`,
  );
  return new Map(rows.map(({ id, groups }) => [id, groups]));
}

/** Goods come back one sale at a time, from one that somebody unknown has paid whole in cash or by card. */
function mayComeBack(
  { lines, priced, tenders, customerId, donation }: PastReceipt,
  { way }: PastSale,
): boolean {
  const [tender] = tenders;
  return (
    tenders.length === 1 &&
    (tender?.kind === 'cash' || tender?.kind === 'noted-card') &&
    customerId === null &&
    donation === 0 &&
    !way?.voided &&
    !way?.back &&
    lines.every(({ promised, storedValue }) => !promised && !storedValue) &&
    priced.lines.every(({ records }) => records.length === 0)
  );
}
