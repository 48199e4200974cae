import type { Lack } from '../../contract/figures.ts';
import { reportOf, type ReportName } from '../../core/figures/reports.ts';
import type { Reader } from '../db/database.ts';
import * as store from './lacksStore.ts';

const items = (count: number) => (count === 1 ? 'one item' : `${count} items`);

/** @param so what follows where costs are not known */
async function costLack(sql: Reader, so: string): Promise<Lack[]> {
  const count = await store.itemsWithoutCost(sql);
  const words = `The cost of ${items(count)} is not known: ${so}.`;
  return count === 0 ? [] : [{ words, to: '/goods', where: 'Goods' }];
}

/** What the figures of the day lack. */
export const lacksOfDay = (sql: Reader): Promise<Lack[]> => costLack(sql, 'the margin looks too high');

/** What reports lack besides costs. */
const LACKS: Partial<Record<ReportName, (sql: Reader) => Promise<Lack[]>>> = {
  async suppliers(sql) {
    const count = await store.itemsWithoutSupplier(sql);
    return count === 0 ? [] : [{ words: `No supplier: ${items(count)}.`, to: '/goods', where: 'Goods' }];
  },
  async taxes(sql) {
    if ((await store.taxRates(sql)) > 0) return [];
    return [
      {
        words: 'There is no rate of tax: nothing that is sold is taxed.',
        to: '/setup/taxes',
        where: 'Taxes',
      },
    ];
  },
  async groups(sql) {
    if ((await store.anyMembership(sql)) > 0) return [];
    return [{ words: 'Nobody is in a group of customers yet.', to: '/people', where: 'People' }];
  },
};

/** What the figures of a report lack. @param mayCost whether whoever asks sees what goods cost */
export async function lacksOf(sql: Reader, name: ReportName, mayCost: boolean): Promise<Lack[]> {
  const { costs = false, columns } = reportOf(name);
  const withCost = mayCost && (costs || columns.some(({ key }) => key === 'cost'));
  const so = costs ? 'it is taken for less than it is worth' : 'what it earns looks too high';
  return [...(withCost ? await costLack(sql, so) : []), ...((await LACKS[name]?.(sql)) ?? [])];
}
