import type {
  CountDifferences,
  CountPage,
  CountsPage,
  EntryView,
  WantedCount,
  WantedEntry,
} from '../../contract/counts.ts';
import { LIST_PAGE, type ListQuery } from '../../contract/listQuery.ts';
import type { Person, WantedApproval } from '../../contract/staff.ts';
import { differenceOf } from '../../core/counts/compare.ts';
import { labelQuantity, readEmbeddedCode } from '../../core/goods/embeddedCode.ts';
import { decimalsProblem, ONE, type Quantity } from '../../core/quantity.ts';
import { multiplyDivide, sum } from '../../core/money.ts';
import type { Reader, Writer } from '../db/database.ts';
import { bringLayers, changeLevels, costsOf, takeGoods, type Moving } from '../goods/layerStore.ts';
import { approveStock, noteApproval } from '../goods/stockLimit.ts';
import { ownSpans, putSerials } from '../goods/stockStore.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { openEvent, postCosts } from '../books/store.ts';
import { listPlaces, readShop } from '../shop/store.ts';
import { activeSuppliers } from '../supply/supplierStore.ts';
import * as store from './countStore.ts';

interface By {
  staffId: number;
  at: Date;
}

const ENTRIES_SHOWN = 60;

const noCount = (): Problem => new Problem('no-count', 'There is no such count.');

export async function countsPage(
  sql: Reader,
  { find, page }: ListQuery,
  placeId: number,
  costs: boolean,
): Promise<CountsPage> {
  const part = { most: LIST_PAGE, from: page * LIST_PAGE };
  return {
    count: await store.countCounts(sql, find),
    counts: (await store.listCounts(sql, find, part)).map((count) =>
      costs ? count : { ...count, cost: null },
    ),
    places: (await listPlaces(sql)).map(({ id, name }) => ({ id, name, here: id === placeId })),
    categories: await store.categories(sql),
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
  if (held.state !== 'open') throw changedMeanwhile('This count has ended: nothing is added to it any more.');
  return held;
}

/** Notes what was counted. @throws Problem 404, 409, 422 next to what is wrong */
export async function addEntry(sql: Writer, id: number, wanted: WantedEntry, by: By): Promise<EntryView> {
  const { placeId } = going(await store.shareCount(sql, id));
  const { item, quantity: scanned } =
    wanted.itemId === null
      ? await meantBy(sql, wanted)
      : {
          item: { ...(await store.countableItem(sql, wanted.itemId)), serial: null },
          quantity: wanted.quantity,
        };
  if (item?.id === undefined || item.decimals === undefined)
    throw fieldProblem('code', wanted.code ? `Nothing in stock has the code ${wanted.code}.` : 'Which item?');
  const serial = wanted.serial || item.serial || null;
  if (item.serials && serial === null && scanned > 0)
    throw new Problem('units-asked', `${item.name}: scan the serial number of each unit.`, {
      data: { itemId: item.id, name: item.name ?? '' },
    });
  const odd = decimalsProblem(scanned, item.decimals);
  if (odd) throw fieldProblem('quantity', odd);
  const elsewhere = serial === null ? null : await store.unitElsewhere(sql, item.id, serial, placeId);
  if (elsewhere !== null) throw fieldProblem('serial', `${serial} ${elsewhere}`);
  const quantity = serial === null ? scanned : ONE;
  const entry = await store.addEntry(sql, { countId: id, itemId: item.id, placeId, quantity, serial }, by);
  if (entry === undefined) throw fieldProblem('serial', `${serial} was counted already.`);
  const [view] = await store.standingEntries(sql, id, { entryId: entry }, 1);
  if (!view) throw noCount();
  return view;
}

/** What was scanned, and how much of it: a label with a price or weight inside says that itself, as at the Counter. */
async function meantBy(
  sql: Reader,
  { code, quantity }: WantedEntry,
): Promise<{ item: store.MeantItem | undefined; quantity: Quantity }> {
  const item = await store.itemMeant(sql, code);
  const label = item ? null : readEmbeddedCode(code, (await readShop(sql)).codeLayouts);
  if (!label) return { item, quantity };
  const labelled = await store.itemMeant(sql, label.itemCode);
  if (!labelled) return { item: undefined, quantity };
  return { item: labelled, quantity: multiplyDivide(labelQuantity(label, labelled), quantity, ONE) };
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

/** An item of which there is more or less than the books say, or other units. */
interface Found {
  fact: store.CountedFacts;
  difference: number;
  /** Units by their serial numbers; none of goods without. */
  missing: string[];
  extra: string[];
}

/** What a count has found: just this is shown, and booked. */
async function findDifferences(
  sql: Reader,
  id: number,
  placeId: number,
): Promise<{ right: number; off: Found[] }> {
  const facts = await store.countedFacts(sql, id);
  const off: Found[] = [];
  for (const fact of facts) {
    const { missing, extra } = fact.serials
      ? await store.serialsOf(sql, id, fact.itemId, placeId)
      : { missing: [], extra: [] };
    const difference = fact.serials ? (extra.length - missing.length) * ONE : differenceOf(fact);
    if (difference !== 0 || missing.length > 0) off.push({ fact, difference, missing, extra });
  }
  return { right: facts.length - off.length, off };
}

/** What a count has found so far, or found when it was booked. @throws Problem 404 */
export async function differences(sql: Reader, id: number, costs: boolean): Promise<CountDifferences> {
  const count = await store.findCount(sql, id);
  if (!count) throw noCount();
  if (count.state === 'booked') {
    const kept = await store.keptDifferences(sql, id);
    return shown(
      kept.map((row) => ({
        ...row,
        difference: row.counted - row.expected,
        missing: [],
        extra: [],
        moved: false,
        who: '',
      })),
      { right: count.counted - kept.length, notCounted: [] },
      costs,
    );
  }
  const { right, off } = await findDifferences(sql, id, count.placeId);
  const worth = new Map(
    (
      await costsOf(
        sql,
        count.placeId,
        off.map(({ fact: { itemId }, difference }) => ({ itemId, difference })),
      )
    ).map(({ itemId, cost }) => [itemId, cost]),
  );
  const rows = off
    .map(
      ({ fact: { itemId, number, name, unit, who, counted, came, left }, difference, missing, extra }) => ({
        itemId,
        number,
        name,
        unit,
        who,
        counted,
        difference,
        missing,
        extra,
        expected: counted - difference,
        cost: worth.get(itemId) ?? 0,
        moved: came + left > 0,
      }),
    )
    .toSorted((a, b) => Math.abs(b.cost) - Math.abs(a.cost));
  return shown(rows, { right, notCounted: await store.notCounted(sql, id) }, costs);
}

const shown = (
  rows: readonly (CountDifferences['differences'][number] & { cost: number })[],
  rest: Pick<CountDifferences, 'right' | 'notCounted'>,
  costs: boolean,
): CountDifferences => ({
  ...rest,
  differences: rows.map((row) => (costs ? row : { ...row, cost: null })),
  cost: costs ? sum(rows.map(({ cost }) => cost)) : null,
});

/**
 * Books all differences at once, at cost. What was not counted stays as it is. @throws Problem 403 above the limit of
 * the role, 404, 409
 */
export async function bookCount(
  sql: Writer,
  id: number,
  person: Person,
  { approval, at }: { approval: WantedApproval | null; at: Date },
): Promise<{ placeId: number; items: number[] }> {
  const by = { staffId: person.staffId, at };
  const { placeId } = going(await store.holdCount(sql, id));
  const { off } = await findDifferences(sql, id, placeId);
  const worth = await costsOf(
    sql,
    placeId,
    off.map(({ fact: { itemId }, difference }) => ({ itemId, difference })),
  );
  const step = { subject: `count:${id}`, quantity: null, cost: sum(worth.map(({ cost }) => Math.abs(cost))) };
  const approved = await approveStock(sql, person, step, { approval, at });
  const event = await openEvent(sql, { kind: 'count', ...by });
  await move(
    sql,
    placeId,
    off.toSorted((a, b) => a.fact.itemId - b.fact.itemId),
    { event, ...by },
  );
  await postCosts(sql, event);
  await store.keepDifferences(
    sql,
    id,
    event,
    off.map(({ fact: { itemId, counted }, difference }) => ({
      itemId,
      counted,
      expected: counted - difference,
    })),
  );
  await noteApproval(sql, event, approved);
  await store.endCount(sql, id, 'booked', by, event);
  return { placeId, items: off.map(({ fact }) => fact.itemId) };
}

/** Moves stock by what was found to be more or less. */
async function move(sql: Writer, placeId: number, off: readonly Found[], moving: Moving): Promise<void> {
  const facing = { reason: 'counted', against: 'shrinkage' } as const;
  await changeLevels(
    sql,
    placeId,
    off.map(({ fact: { itemId }, difference }) => ({ itemId, change: difference })),
  );
  const more = off.flatMap(({ fact: { itemId, serials }, difference, extra }) => {
    const quantity = serials ? extra.length * ONE : difference;
    return quantity > 0 ? [{ itemId, placeId, quantity, extra }] : [];
  });
  const layers = more.length > 0 ? await bringLayers(sql, more, facing, moving) : [];
  for (const [nth, { itemId, extra }] of more.entries()) {
    if (extra.length === 0) continue;
    await putSerials(sql, itemId, extra, placeId);
    await ownSpans(sql, itemId, extra, layers[nth] ?? 0);
  }
  const less = off.flatMap(({ fact: { itemId, serials }, difference, missing }) => {
    const line = { ...facing, itemId, placeId };
    if (serials) return missing.map((serial) => ({ ...line, quantity: ONE, serial }));
    return difference < 0 ? [{ ...line, quantity: -difference }] : [];
  });
  if (less.length > 0) await takeGoods(sql, less, moving);
  for (const { fact, missing } of off)
    if (missing.length > 0) await putSerials(sql, fact.itemId, missing, null);
}

/** A count is given up: nothing of it is booked. @throws Problem 404, 409 */
export async function cancelCount(sql: Writer, id: number, by: By): Promise<void> {
  going(await store.holdCount(sql, id));
  await store.endCount(sql, id, 'cancelled', by, null);
}
