import type {
  CountDifferences,
  CountPage,
  CountsPage,
  EntryView,
  WantedCount,
  WantedEntry,
} from '../../contract/counts.ts';
import { differenceOf } from '../../core/counts/compare.ts';
import { ONE } from '../../core/quantity.ts';
import { sum } from '../../core/money.ts';
import type { Reader, Writer } from '../db/database.ts';
import { ownSpans, putSerials } from '../goods/stockStore.ts';
import { fieldProblem, Problem } from '../http/problem.ts';
import { openEvent, postCosts } from '../ledger/store.ts';
import { listPlaces } from '../shop/store.ts';
import { activeSuppliers } from '../supply/supplierStore.ts';
import * as store from './countStore.ts';

interface By {
  staffId: number;
  at: Date;
}

const MOST_SHOWN = 100;
const ENTRIES_SHOWN = 60;

const noCount = (): Problem => new Problem('no-count', 'There is no such count.');

export async function countsPage(sql: Reader, placeId: number, costs: boolean): Promise<CountsPage> {
  return {
    counts: (await store.listCounts(sql, MOST_SHOWN)).map((count) =>
      costs ? count : { ...count, cost: null },
    ),
    places: (await listPlaces(sql)).map(({ id, name }) => ({ id, name, here: id === placeId })),
    categories: await sql.query('select id, name from category order by name'),
    suppliers: await activeSuppliers(sql),
  };
}

/** @throws Problem 404 */
export async function countPage(sql: Reader, id: number, costs: boolean): Promise<CountPage> {
  const found = await store.findCount(sql, id);
  if (!found) throw noCount();
  return {
    ...found,
    cost: costs ? found.cost : null,
    entries: await store.standingEntries(sql, id, {}, ENTRIES_SHOWN),
  };
}

/** Begins a count. @throws Problem 422 */
export async function beginCount(sql: Writer, wanted: WantedCount, by: By): Promise<{ id: number }> {
  if (!(await listPlaces(sql)).some(({ id }) => id === wanted.placeId))
    throw fieldProblem('placeId', 'Where?');
  return { id: await store.addCount(sql, wanted, by) };
}

/** The count, as long as it goes on. @throws Problem 404, 409 */
function going(held: store.HeldCount | undefined): store.HeldCount {
  if (!held) throw noCount();
  if (held.state !== 'open')
    throw new Problem('changed-meanwhile', 'This count has ended: nothing is added to it any more.');
  return held;
}

/** Notes what was counted. @throws Problem 404, 409, 422 next to what is wrong */
export async function addEntry(sql: Writer, id: number, wanted: WantedEntry, by: By): Promise<EntryView> {
  const { placeId } = going(await store.shareCount(sql, id));
  const item =
    wanted.itemId === null
      ? await store.itemMeant(sql, wanted.code)
      : { ...(await store.countableItem(sql, wanted.itemId)), serial: null };
  if (item?.id === undefined || item.decimals === undefined)
    throw fieldProblem('code', wanted.code ? `Nothing in stock has the code ${wanted.code}.` : 'Which item?');
  const serial = wanted.serial || item.serial || null;
  if (item.serials && serial === null && wanted.quantity > 0)
    throw fieldProblem('serial', `${item.name}: scan the serial number of each unit.`);
  if (wanted.quantity % 10 ** (3 - item.decimals) !== 0)
    throw fieldProblem('quantity', `A quantity of it has ${item.decimals || 'no'} decimals.`);
  const quantity = serial === null ? wanted.quantity : ONE;
  const entry = await store.addEntry(sql, { countId: id, itemId: item.id, placeId, quantity, serial }, by);
  if (entry === undefined) throw fieldProblem('serial', `${serial} was counted already.`);
  const [view] = await store.standingEntries(sql, id, { entryId: entry }, 1);
  if (!view) throw noCount();
  return view;
}

/** An entry was wrong. @throws Problem 404, 409 */
export async function takeBackEntry(sql: Writer, id: number, entryId: number, at: Date): Promise<void> {
  going(await store.shareCount(sql, id));
  await store.withdraw(sql, id, { entryId }, at);
}

/** Items are counted again from nothing. @throws Problem 404, 409 */
export async function countAgain(sql: Writer, id: number, items: readonly number[], at: Date): Promise<void> {
  going(await store.shareCount(sql, id));
  await store.withdraw(sql, id, { items }, at);
}

/** Nothing is there of items that were not counted: somebody has looked. @throws Problem 404, 409 */
export async function noneThere(sql: Writer, id: number, items: readonly number[], by: By): Promise<void> {
  const { placeId } = going(await store.shareCount(sql, id));
  for (const itemId of items.toSorted((a, b) => a - b))
    if (await store.countableItem(sql, itemId))
      await store.addEntry(sql, { countId: id, itemId, placeId, quantity: 0, serial: null }, by);
}

/** What a count has found so far, or found when it was booked. @throws Problem 404 */
export async function differences(sql: Reader, id: number, costs: boolean): Promise<CountDifferences> {
  const count = await store.findCount(sql, id);
  if (!count) throw noCount();
  if (count.state === 'booked') {
    const kept = await store.keptDifferences(sql, id);
    return {
      differences: kept.map((row) => ({
        ...row,
        difference: row.counted - row.expected,
        cost: costs ? row.cost : null,
        moved: false,
        who: '',
      })),
      right: count.counted - kept.length,
      notCounted: [],
      cost: costs ? sum(kept.map(({ cost }) => cost)) : null,
    };
  }
  const facts = await store.countedFacts(sql, id);
  const off = facts
    .map((fact) => ({ ...fact, difference: differenceOf(fact) }))
    .filter(({ difference }) => difference !== 0);
  const worth = new Map(
    (await store.costsOf(sql, count.placeId, off)).map(({ itemId, cost }) => [itemId, cost]),
  );
  const rows = off
    .map((fact) => ({
      itemId: fact.itemId,
      number: fact.number,
      name: fact.name,
      unit: fact.unit,
      who: fact.who,
      counted: fact.counted,
      expected: fact.counted - fact.difference,
      difference: fact.difference,
      cost: worth.get(fact.itemId) ?? 0,
      moved: fact.came + fact.left > 0,
    }))
    .toSorted((a, b) => Math.abs(b.cost) - Math.abs(a.cost));
  return {
    differences: rows.map((row) => (costs ? row : { ...row, cost: null })),
    right: facts.length - off.length,
    notCounted: await store.notCounted(sql, id),
    cost: costs ? sum(rows.map(({ cost }) => cost)) : null,
  };
}

/** Books all differences at once, at cost. What was not counted stays as it is. @throws Problem 404, 409 */
export async function bookCount(
  sql: Writer,
  id: number,
  by: By,
): Promise<{ placeId: number; items: number[] }> {
  const { placeId } = going(await store.holdCount(sql, id));
  const facts = (await store.countedFacts(sql, id)).toSorted((a, b) => a.itemId - b.itemId);
  const event = await openEvent(sql, { kind: 'count', ...by });
  const off: {
    itemId: number;
    counted: number;
    expected: number;
    difference: number;
    serials?: { missing: string[]; extra: string[] };
  }[] = [];
  for (const fact of facts) {
    const { itemId, counted } = fact;
    if (fact.serials) {
      const serials = await store.serialsOf(sql, id, itemId, placeId);
      const difference = (serials.extra.length - serials.missing.length) * ONE;
      if (serials.extra.length + serials.missing.length > 0)
        off.push({ itemId, counted, expected: counted - difference, difference, serials });
    } else {
      const difference = differenceOf(fact);
      if (difference !== 0) off.push({ itemId, counted, expected: counted - difference, difference });
    }
  }
  await move(sql, event, placeId, off, by);
  await postCosts(sql, event);
  await store.keepDifferences(sql, id, event, off);
  await store.endCount(sql, id, 'booked', by, event);
  return { placeId, items: off.map(({ itemId }) => itemId) };
}

const FACING = { reason: 'counted', against: 'shrinkage' };

/** Moves stock by what was found to be more or less. */
async function move(
  sql: Writer,
  event: number,
  placeId: number,
  off: readonly { itemId: number; difference: number; serials?: { missing: string[]; extra: string[] } }[],
  { staffId, at }: By,
): Promise<void> {
  if (off.length === 0) return;
  const when = at.toISOString();
  const about = JSON.stringify({ ...FACING, staffId });
  await sql.query('select lock_levels($1::integer[], array_fill($2::integer, array[$3::integer]))', [
    off.map(({ itemId }) => itemId),
    placeId,
    off.length,
  ]);
  await sql.query(
    `update stock_level as level set quantity = level.quantity + one.difference
     from jsonb_to_recordset($2) as one ("itemId" integer, difference bigint)
     where level.item_id = one."itemId" and level.place_id = $1`,
    [placeId, JSON.stringify(off)],
  );
  const more = off.flatMap(({ itemId, difference, serials }) => {
    const quantity = serials ? serials.extra.length * ONE : difference;
    return quantity > 0 ? [{ itemId, placeId, quantity, serials: serials?.extra ?? [] }] : [];
  });
  if (more.length > 0) {
    const [laid] = await sql.query<{ layers: number[] }>('select bring_layers($1, $2, $3, $4) as layers', [
      event,
      when,
      JSON.stringify(more),
      about,
    ]);
    for (const [nth, { itemId, serials }] of more.entries()) {
      if (serials.length === 0) continue;
      await putSerials(sql, itemId, serials, placeId);
      await ownSpans(sql, itemId, serials, laid?.layers[nth] ?? 0);
    }
  }
  const less = off.flatMap(({ itemId, difference, serials }) => {
    const line = { itemId, placeId, ...FACING };
    if (serials) return serials.missing.map((serial) => ({ ...line, quantity: ONE, serial }));
    return difference < 0 ? [{ ...line, quantity: -difference }] : [];
  });
  if (less.length === 0) return;
  await sql.query('select take_with_serials($1, $2, $3, $4)', [event, when, JSON.stringify(less), about]);
  for (const { itemId, serials } of off)
    if (serials && serials.missing.length > 0) await putSerials(sql, itemId, serials.missing, null);
}

/** A count is given up: nothing of it is booked. @throws Problem 404, 409 */
export async function cancelCount(sql: Writer, id: number, by: By): Promise<void> {
  going(await store.holdCount(sql, id));
  await store.endCount(sql, id, 'cancelled', by, null);
}
