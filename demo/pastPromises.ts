import { DateTime } from 'luxon';
import { v5 as namedId } from 'uuid';
import type { BasketLine } from '../core/counter/basket.ts';
import { dueOf } from '../core/counter/promisedLines.ts';
import { linesToPrice } from '../core/counter/toPrice.ts';
import type { Money } from '../core/money.ts';
import { priceBasket, type PricedBasket } from '../core/pricing/price.ts';
import { ratesOn } from '../core/pricing/taxRates.ts';
import { PLAIN_LINE, type PromiseLine } from '../core/promises/promised.ts';
import { ONE } from '../core/quantity.ts';
import { businessDate } from '../server/clock.ts';
import type { Writer } from '../server/db/database.ts';
import type { NewPromise } from '../server/promises/goodsStore.ts';
import { readShop, taxRates } from '../server/shop/store.ts';
import type { PastSale, PastShift } from './history.ts';

const NAMESPACE = 'c2b7a3de-2f1c-4c0e-9d59-6f0a5f7c1b11';
const TILL = 1;

/** What a promise brings into the past: itself, and the sales that touched it. */
export interface Laid {
  made: NewPromise;
  steps: { at: Date; what: string; words: string }[];
  told: Date | null;
  arrived: Date | null;
  /** Given up before anything was paid. */
  cancelled: Date | null;
}

/** Promises that were made in past weeks, with what was paid for them rung up among the sales of those days. */
export interface PastPromises {
  shifts: PastShift[];
  laid: readonly Laid[];
}

/** An item that is promised. */
type PromisedItem = Omit<PromiseLine, 'quantity'> & { price: Money; stocked: boolean };

/** Past shifts of the first till, and how goods are promised and rung up in them. */
export interface PastTill {
  tillId: number;
  /** All shifts: what is rung up goes into them. */
  shifts: PastShift[];
  mine: PastShift[];
  dayOf(shift: PastShift): string;
  priceOf(lines: readonly BasketLine[], day: string): PricedBasket;
  ids(): string;
  idOf(name: string): string;
  /** Goods as a basket has them, and as they are promised on a day. */
  promise(
    goods: readonly (readonly [number: string, units: number])[],
    day: string,
  ): { priced: PricedBasket; lines: (PromiseLine & { stocked: boolean })[]; words: string };
  /** Rings lines up so many minutes after a shift was opened. */
  ring(on: PastShift, minutes: number, customer: number, lines: BasketLine[]): Date;
}

/**
 * @param of what is promised: the same lines come out the same every time @param numbers the items that are promised
 */
export async function openPast(
  sql: Writer,
  past: readonly PastShift[],
  of: 'layaway' | 'order' | 'relay',
  numbers: readonly string[],
): Promise<PastTill> {
  const shop = await readShop(sql);
  const rates = await taxRates(sql);
  const tills = await sql.query<{ id: number; number: number }>('select id, number from till');
  const items = new Map(
    (
      await sql.query<PromisedItem>(
        `select id as "itemId", number, name, unit, decimals, tax_category_id as "taxCategoryId", price, stocked
         from item where number = any ($1) and price is not null`,
        [[...new Set(numbers)]],
      )
    ).map((item) => [item.number, item]),
  );
  const shifts = past.map((shift) => ({ ...shift, sales: [...shift.sales] }));
  let counted = 0;
  const ids = () => namedId(`${of} line ${(counted += 1)}`, NAMESPACE);
  const priceOf = (lines: readonly BasketLine[], day: string) =>
    priceBasket(
      linesToPrice(
        { id: '', lines: [...lines] },
        { rates: ratesOn(rates, day), groupPrices: [], goodsOf: () => undefined },
      ),
      shop,
    );
  return {
    tillId: tills.find(({ number }) => number === TILL)?.id ?? 0,
    shifts,
    mine: shifts.filter(({ till }) => till === TILL),
    dayOf: ({ openedAt }) => businessDate(openedAt, shop.timezone),
    priceOf,
    ids,
    idOf: (name) => namedId(`${of} ${name}`, NAMESPACE),
    promise(goods, day) {
      const wanted = goods.flatMap(([number, units]) => {
        const item = items.get(number);
        return item ? [{ item, units }] : [];
      });
      const basket = wanted.map(({ item: { price, ...item }, units }): BasketLine => ({
        ...item,
        id: ids(),
        serial: undefined,
        bundle: undefined,
        quantity: units * ONE,
        listPrice: price,
      }));
      const priced = priceOf(basket, day);
      const lines = basket.map((line, at): PromiseLine & { stocked: boolean } => {
        const figures = priced.lines[at];
        return {
          ...line,
          position: at + 1,
          ...PLAIN_LINE,
          unitPrice: line.listPrice,
          regular: figures?.regular ?? 0,
          net: figures?.net ?? 0,
          tax: dueOf(basket, priced, (one) => one.id === line.id) - (figures?.net ?? 0),
          records: figures?.records ?? [],
          stocked: wanted[at]?.item.stocked ?? false,
        };
      });
      const words = wanted.flatMap(({ item }) => [item.name, item.number]).join(' ');
      return { priced, lines, words };
    },
    ring(on, minutes, customer, lines) {
      const at = DateTime.fromJSDate(on.openedAt).plus({ minutes }).toJSDate();
      const sale: PastSale = { at, customer, lines: [], promised: lines, exact: true };
      on.sales.push(sale);
      on.sales.sort((a, b) => a.at.getTime() - b.at.getTime());
      return at;
    },
  };
}
