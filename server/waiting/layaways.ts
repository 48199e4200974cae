import { v4 as newId } from 'uuid';
import type { StoredBasket } from '../../contract/counter.ts';
import type { LayawayWanted } from '../../contract/promises.ts';
import type { Person } from '../../contract/staff.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { dueOf, moneyName } from '../../core/counter/promisedLines.ts';
import { sum, type Money } from '../../core/money.ts';
import { sharesUses } from '../../core/offers/offer.ts';
import { layawayPlan, termsProblems } from '../../core/promises/plan.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { formatQuantity, ONE } from '../../core/quantity.ts';
import { wordsOf } from '../../core/words.ts';
import { businessDate } from '../clock.ts';
import { readyToPay } from '../counter/service.ts';
import { basketOf, isPutAside, levelsAt, putBasket } from '../counter/store.ts';
import type { Writer } from '../db/database.ts';
import { takeLocks } from '../db/locks.ts';
import type { House } from '../house.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { noteAsked, wasCarriedOut, type Asked } from '../http/write.ts';
import { addPrintJob } from '../journal/printing/store.ts';
import * as store from '../promises/store.ts';
import { moneyHeld } from '../tenders/store.ts';
import { dropBasketOf } from './store.ts';

/** What a layaway is made of. */
export interface WantedLayaway {
  basket: Basket;
  expectedTotal: Money;
  terms: LayawayWanted;
}

/** A layaway that was made: its number, and the basket with its deposit that is on the till now. */
export interface MadeLayaway {
  id: string;
  number: string;
  stored: StoredBasket | null;
}

type Ready = Extract<Awaited<ReturnType<typeof readyToPay>>, { finished: null }>;

/**
 * Sets the goods of a basket aside for its customer, at the prices of today; the till goes on with a basket that has the
 * deposit. The same request again gives the same layaway.
 * @throws Problem 409 `not-available` where a piece is promised or sold already, 422 next to what is wrong
 */
export async function makeLayaway(
  house: House,
  person: Person,
  wanted: WantedLayaway,
  asked: Asked,
): Promise<MadeLayaway> {
  const at = house.clock.now();
  const { basket, terms } = wanted;
  if (await house.database.ask((sql) => wasCarriedOut(sql, asked)))
    return madeBefore(house, person, asked.key);
  checkGoods(basket);
  const ready = await readyToPay(house, person, wanted, at);
  if (ready.finished) throw new Problem('sale-finished', 'This basket has been paid already.');
  const { facts, priced } = ready;
  const limited = priced.offers.find(
    ({ id, points }) =>
      points > 0 || facts.offers.offers.some((offer) => offer.id === id && sharesUses(offer)),
  );
  if (limited) {
    throw fieldProblem(
      'basket',
      `${limited.name} is counted when it is used: sell it at once, or take it off.`,
    );
  }
  const made = await house.database.write(async (sql) => {
    if (!(await noteAsked(sql, asked, at))) return null;
    await takeLocks(sql, { tills: [person.tillId], payments: [basket.id] });
    await checkBasketFree(sql, person.tillId, basket.id);
    return storeLayaway(sql, person, { id: asked.key, basket, terms, ready, at });
  });
  if (!made) return madeBefore(house, person, asked.key);
  house.printing.wake();
  house.events.tell({ kind: 'promises-changed' });
  house.events.tell({ kind: 'basket-changed', tillId: person.tillId, revision: made.stored?.revision ?? 0 });
  const levels = await house.database.ask((sql) =>
    levelsAt(sql, facts.placeId, [...new Set(ready.lines.map(({ itemId }) => itemId))]),
  );
  house.events.tell({ kind: 'stock-changed', placeId: facts.placeId, levels });
  return made;
}

async function madeBefore({ database }: House, { tillId }: Person, id: string): Promise<MadeLayaway> {
  return database.ask(async (sql) => {
    const found = await store.findPromise(sql, id);
    if (!found) throw new Problem('no-promise', 'There is no such layaway.');
    return { id, number: promiseNumber(found.kind, found.count), stored: await basketOf(sql, tillId) };
  });
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

async function checkBasketFree(sql: Writer, tillId: number, basketId: string): Promise<void> {
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

interface Making {
  id: string;
  basket: Basket;
  terms: LayawayWanted;
  ready: Ready;
  at: Date;
}

async function storeLayaway(sql: Writer, person: Person, making: Making): Promise<MadeLayaway> {
  const { id, basket, terms, ready, at } = making;
  const { facts, lines, priced } = ready;
  const { rules, depositItem } = await store.layawaySetup(sql);
  const today = businessDate(at, facts.timezone);
  const { coming, note, ...plan } = terms;
  const [wrong] = Object.entries(termsProblems(plan, { total: priced.total, rules, today }));
  if (wrong) throw fieldProblem(`terms.${wrong[0]}`, wrong[1]);
  const stocked = new Set(facts.items.filter((item) => item.stocked).map((item) => item.id));
  if (!coming) await checkAvailable(sql, facts.placeId, lines, stocked);
  const count = await store.addPromise(sql, {
    id,
    basketId: basket.id,
    kind: 'layaway',
    customerId: basket.customer?.id ?? 0,
    placeId: facts.placeId,
    tillId: person.tillId,
    staffId: person.staffId,
    at,
    taxMode: priced.taxMode,
    total: priced.total,
    fee: terms.fee,
    note,
    coming,
    plan: layawayPlan(priced.total, plan, today),
    lines: lines.map((line, place) => ({
      ...promiseLine(line, place, ready),
      stocked: stocked.has(line.itemId),
    })),
    words: wordsOf([basket.customer?.name, ...lines.flatMap(({ name, number }) => [name, number])].join(' ')),
  });
  const number = promiseNumber('layaway', count);
  await store.addEvent(sql, id, { at, staffId: person.staffId, what: 'Set aside', words: note });
  await addPrintJob(sql, { tillId: person.tillId, kind: 'layaway', promiseId: id, at });
  await dropBasketOf(sql, person.tillId);
  const next: Basket = {
    id: newId(),
    customer: basket.customer,
    lines:
      terms.deposit > 0
        ? [
            {
              id: newId(),
              ...depositItem,
              name: moneyName('deposit', number),
              decimals: 0,
              quantity: ONE,
              listPrice: terms.deposit,
              promised: { promiseId: id, number, part: 'deposit' },
            },
          ]
        : [],
  };
  const revision = await putBasket(sql, person.tillId, next, 0, at);
  return { id, number, stored: { basket: next, revision: revision ?? 0 } };
}

/** A line of a basket as it is promised: its price stands from now on. */
function promiseLine(line: BasketLine, place: number, { lines, priced }: Ready): PromiseLine {
  const figures = priced.lines[place];
  if (!figures) throw new Error('a line was not priced');
  const { unitPrice, regular, net, records } = figures;
  const { itemId, number, name, unit, decimals, taxCategoryId, quantity } = line;
  return {
    position: place + 1,
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
async function checkAvailable(
  sql: Writer,
  placeId: number,
  lines: readonly BasketLine[],
  stocked: ReadonlySet<number>,
): Promise<void> {
  const ids = [...new Set(lines.map(({ itemId }) => itemId))].sort((a, b) => a - b);
  await sql.query(
    'select 1 from stock_level where place_id = $1 and item_id = any ($2::integer[]) order by item_id for update',
    [placeId, ids],
  );
  for (const { itemId, available, taken } of await store.availableAt(sql, placeId, ids)) {
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
