import type { Person } from '../../contract/staff.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import { sum, type Money } from '../../core/money.ts';
import { sharesUses } from '../../core/offers/offer.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { formatQuantity } from '../../core/quantity.ts';
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
  if (!limited) return ready;
  throw fieldProblem(
    'basket',
    `${limited.name} is counted when it is used: sell it at once, or take it off.`,
  );
}

/** Only goods that leave can be set aside. */
function checkGoods({ customer, lines }: Basket): void {
  if (!customer) throw fieldProblem('basket', 'A layaway needs a customer: press F4, or scan their card.');
  const other = lines.find(
    (line) => line.storedValue ?? line.promised ?? line.comesBack ?? line.quantity < 0,
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

const stockedOf = ({ facts }: Promisable): ReadonlySet<number> =>
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
  };
}

/** Of goods that are promised twice, the second is told. @throws Problem 409 */
export async function checkAvailable(sql: Writer, ready: Promisable): Promise<void> {
  const { lines, facts } = ready;
  const { placeId } = facts;
  const stocked = stockedOf(ready);
  const ids = [...new Set(lines.map(({ itemId }) => itemId))].sort((a, b) => a - b);
  for (const { itemId, available, taken } of await lockAvailable(sql, placeId, ids)) {
    const mine = lines.filter((line) => line.itemId === itemId);
    const [first] = mine;
    if (!first) continue;
    const gone = mine.find(({ serial }) => serial !== undefined && taken.includes(serial));
    const needed = sum(mine.map(({ quantity }) => quantity));
    if (gone) throw notAvailable(`${gone.name} ${gone.serial ?? ''} is sold or promised to somebody else.`);
    if (!stocked.has(itemId) || needed <= available) continue;
    throw notAvailable(
      available > 0
        ? `Of ${first.name} only ${formatQuantity(available)} can be set aside here.`
        : `${first.name} is not here, or promised to others.`,
    );
  }
}

const notAvailable = (words: string): Problem =>
  new Problem('not-available', words, {
    detail: 'Choose "Goods still to come", or take fewer.',
  });
