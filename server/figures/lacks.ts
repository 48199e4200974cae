import type { Lack } from '../../contract/figures.ts';
import { reportOf, type ReportName } from '../../core/figures/reports.ts';
import { one, type Reader } from '../db/database.ts';

const counted = async (sql: Reader, expression: string): Promise<number> =>
  one(await sql.query<{ count: number }>(`select ${expression} as count`)).count;

const WITHOUT_SUPPLIER = `(select count(*)::integer from item where active and stocked
  and not exists (select 1 from item_supplier where item_id = item.id))`;

const items = (count: number) => (count === 1 ? 'one item' : `${count} items`);

/** Margins look too high where costs are not known. @param what which figure looks so */
async function costLack(sql: Reader, what: string): Promise<Lack[]> {
  const count = await counted(sql, 'items_without_cost()');
  if (count === 0) return [];
  const words = `The cost of ${items(count)} is not known: ${what} looks too high.`;
  return [{ words, to: '/goods', where: 'Goods' }];
}

/** What the figures of the day lack. */
export const lacksOfDay = (sql: Reader): Promise<Lack[]> => costLack(sql, 'the margin');

/** What reports lack besides costs. */
const LACKS: Partial<Record<ReportName, (sql: Reader) => Promise<Lack[]>>> = {
  async suppliers(sql) {
    const count = await counted(sql, WITHOUT_SUPPLIER);
    return count === 0 ? [] : [{ words: `No supplier: ${items(count)}.`, to: '/goods', where: 'Goods' }];
  },
  async taxes(sql) {
    if ((await counted(sql, '(select count(*)::integer from tax_rate)')) > 0) return [];
    const words = 'There is no rate of tax: nothing that is sold has any.';
    return [{ words, to: '/setup/taxes', where: 'Taxes' }];
  },
  async groups(sql) {
    if (
      (await counted(
        sql,
        '(select count(*)::integer from (select 1 from customer_membership limit 1) as one)',
      )) > 0
    )
      return [];
    return [{ words: 'Nobody is in a group of customers yet.', to: '/people', where: 'People' }];
  },
};

/** What the figures of a report lack. @param costs whether whoever asks sees what goods cost */
export async function lacksOf(sql: Reader, name: ReportName, costs: boolean): Promise<Lack[]> {
  const withCost = costs && reportOf(name).columns.some(({ key }) => key === 'cost' || key === 'margin');
  return [...(withCost ? await costLack(sql, 'what it earns') : []), ...((await LACKS[name]?.(sql)) ?? [])];
}
