import { v4 as newId } from 'uuid';
import type { BasketLine } from '../core/counter/basket.ts';
import { situationOf } from '../core/counter/offering.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import { refundsFor } from '../core/journal/returns.ts';
import type { Money } from '../core/money.ts';
import { indexOffers } from '../core/offers/offerUnits.ts';
import { priceBasket, type PricedBasket } from '../core/pricing/price.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { roundUpAmount } from '../core/payment/roundUp.ts';
import { newStoredValueNumber } from '../core/giftCards/storedValue.ts';
import { ONE } from '../core/quantity.ts';
import { businessDate, timeOfDay } from '../server/clock.ts';
import { one, type Writer } from '../server/db/database.ts';
import { liveOffers } from '../server/offers/offerStore.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import type { PastSale } from './history.ts';
import {
  pastRefund,
  pastTenders,
  type PastAccount,
  type PastCard,
  type PastTender,
  type PastType,
} from './pastTenders.ts';
import { seeded } from './random.ts';

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
export interface PastReceipt {
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

const ROUND_UP = 1_00;
const CARD_SEED = 44;

/** Where a past sale is rung up. */
interface AtTill {
  placeId: number;
  /** Its number, as printed. */
  receipt: string;
  /** How many sales were before it. */
  nth: number;
}

/**
 * What past sales came to, one after the other.
 * @returns a function that rings one up, in the order in which they were; nothing where something was to come back and
 *   nothing is there
 */
export async function pastReceipts(
  sql: Writer,
  house: PastHouse,
  types: readonly PastType[],
): Promise<(sale: PastSale, at: AtTill) => PastReceipt | null> {
  const shop = await readShop(sql);
  const rates = await taxRates(sql);
  const sold = await sql.query<Sold>(
    `select item.id, number, item.name, unit, decimals, price, tax_category_id as "taxCategoryId", stocked,
            category.name as category, family_id as "familyId"
     from item join category on category.id = category_id where kind = 'goods' and price is not null`,
  );
  const items = new Map(sold.map((item) => [item.number, item]));
  const byId = new Map(sold.map((item) => [item.id, item]));
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

  function rungUp(sale: PastSale, { placeId, receipt, nth }: AtTill): PastReceipt | null {
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
    const done = { id: basket.id, receipt, day, placeId, customerId, lines, priced, tenders, donation };
    if (mayComeBack(done, sale)) keepers.push(done);
    return done;
  }

  return rungUp;
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
