import type { Person } from '../../contract/staff.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import { sum, type Money } from '../../core/money.ts';
import { sharesUses } from '../../core/offers/offer.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { formatQuantity, type Quantity } from '../../core/quantity.ts';
import { readyToPay } from '../counter/service.ts';
import { isPutAside } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { lockAvailable } from '../promises/goodsStore.ts';
import { moneyHeld } from '../tenders/store.ts';

/** A basket that is priced and checked, and whose goods can be promised. */
export type Promisable = Extract<Awaited<ReturnType<typeof readyToPay>>, { finished: null }>;

/** Prices a basket whose goods are to be promised, by today. @throws Problem 409, 422 where they cannot be */
export async function readyToPromise(
  house: House,
  person: Person,
  wanted: { basket: Basket; expectedTotal: Money },
  at: Date,
): Promise<Promisable> {
  checkGoods(wanted.basket);
  const ready = await readyToPay(house, person, wanted, at);
  if (ready.finished) throw new Problem('sale-finished', 'This basket has been paid already.');
  const { facts, priced } = ready;
  const limited = priced.offers.find(
    ({ id, points }) =>
      points > 0 || facts.offers.offers.some((offer) => offer.id === id && sharesUses(offer)),
  );
  const counted = limited?.name ?? (priced.pointsOff && `What is paid with ${facts.pointsRate.word}`);
  if (!counted) return ready;
  throw fieldProblem('basket', `${counted} is counted when it is used: sell it at once, or take it off.`);
}

/** Only goods that leave can be set aside. */
function checkGoods({ customer, lines }: Basket): void {
  if (!customer)
    throw fieldProblem('basket', 'Goods are promised to a customer: press F4, or scan their card.');
  const other = lines.find(
    (line) => line.storedValue ?? line.promised ?? line.account ?? line.comesBack ?? line.quantity < 0,
  );
  if (other)
    throw fieldProblem('basket', `${other.name} cannot be set aside. Take it out, and ring it up by itself.`);
}

/** Locks a till and the payment of its basket, which is neither put aside nor being paid. @throws Problem 409 */
export async function lockFreeBasket(sql: Writer, tillId: number, basketId: string): Promise<void> {
  await takeLocks(sql, { tills: [tillId], payments: [basketId] });
  if (await isPutAside(sql, basketId))
    throw new Problem('basket-held', 'This basket was put on hold.', { data: null });
  if (await moneyHeld(sql, tillId, null)) {
    throw new Problem(
      'money-taken',
      'Money was taken for this basket. Finish it, or undo its payments first.',
      {
        data: null,
      },
    );
  }
}

/** The lines of a basket as they are promised, counted on from a position. */
export function promiseLines(ready: Promisable, after = 0): (PromiseLine & { stocked: boolean })[] {
  const stocked = stockedOf(ready);
  return ready.lines.map((line, place) => ({
    ...promiseLine(line, place, ready),
    position: after + place + 1,
    stocked: stocked.has(line.itemId),
  }));
}

const stockedOf = ({ facts }: Pick<Promisable, 'facts'>): ReadonlySet<number> =>
  new Set(facts.items.filter((item) => item.stocked).map((item) => item.id));

/** A line of a basket as it is promised: its price stands from now on. */
function promiseLine(
  line: BasketLine,
  place: number,
  { lines, priced }: Promisable,
): Omit<PromiseLine, 'position'> {
  const figures = priced.lines[place];
  if (!figures) throw new Error('a line was not priced');
  const { unitPrice, regular, net, records } = figures;
  const { itemId, number, name, unit, decimals, taxCategoryId, quantity } = line;
  return {
    itemId,
    number,
    name,
    unit,
    decimals,
    taxCategoryId,
    quantity,
    handed: 0,
    unitPrice,
    regular,
    net,
    tax: dueOf(lines, priced, ({ id }) => id === line.id) - net,
    records,
    serial: line.serial ?? null,
    note: line.note ?? '',
    gift: line.gift ?? false,
    ageChecked: line.ageChecked ?? false,
    bundle: line.bundle ?? null,
    order: null,
  };
}

/** What of a line is wanted where; a layaway wants all of it where the till is. */
export interface WantedAt {
  itemId: number;
  name: string;
  quantity: Quantity;
  serial?: string | null | undefined;
  placeId?: number;
}

/** Of goods that are promised twice, the second is told. @throws Problem 409 */
export async function checkAvailable(
  sql: Writer,
  wanted: readonly WantedAt[],
  ready: Pick<Promisable, 'facts'>,
): Promise<void> {
  const here = ready.facts.placeId;
  const stocked = stockedOf(ready);
  const asked = wanted.map((line) => ({ ...line, placeId: line.placeId ?? here }));
  for (const { itemId, placeId, available, taken } of await lockAvailable(sql, asked)) {
    const mine = asked.filter((line) => line.itemId === itemId && line.placeId === placeId);
    const [first] = mine;
    if (!first) continue;
    const gone = mine.find(({ serial }) => typeof serial === 'string' && taken.includes(serial));
    const needed = sum(mine.map(({ quantity }) => quantity));
    if (gone) throw notAvailable(`${gone.name} ${gone.serial ?? ''} is sold or promised to somebody else.`);
    if (!stocked.has(itemId) || needed <= available) continue;
    const where = placeId === here ? 'here' : 'there';
    throw notAvailable(
      available > 0
        ? `Of ${first.name} only ${formatQuantity(available)} can be set aside ${where}.`
        : `${first.name} is not ${where}, or promised to others.`,
    );
  }
}

const notAvailable = (words: string): Problem =>
  new Problem('not-available', words, {
    detail: 'Say that it is still to come, or take fewer.',
  });
