import type { Lack } from '../../contract/figures.ts';
import { reportOf, type ReportName } from '../../core/figures/reports.ts';
import { one, type Reader } from '../db/database.ts';

/** What there is of what figures are made of. */
interface Known {
  withoutCost: number;
  withoutSupplier: number;
  rates: number;
  grouped: number;
}

async function known(sql: Reader): Promise<Known> {
  return one(
    await sql.query<Known>(
      `select items_without_cost() as "withoutCost",
              (select count(*)::integer from item where active and stocked
                 and not exists (select 1 from item_supplier where item_id = item.id)) as "withoutSupplier",
              (select count(*)::integer from (select 1 from tax_rate limit 1) as one) as rates,
              (select count(*)::integer from (select 1 from customer_membership limit 1) as one) as grouped`,
    ),
  );
}

const items = (count: number) => (count === 1 ? 'one item' : `${count} items`);

/** Margins look too high where costs are not known. @param what which figure looks so */
const costLack = ({ withoutCost }: Known, what: string): Lack[] =>
  withoutCost === 0
    ? []
    : [
        {
          words: `The cost of ${items(withoutCost)} is not known: ${what} looks too high.`,
          to: '/goods',
          where: 'Goods',
        },
      ];

/** What the figures of the day lack. */
export const lacksOfDay = async (sql: Reader): Promise<Lack[]> => costLack(await known(sql), 'the margin');

/** What the figures of a report lack. @param costs whether whoever asks sees what goods cost */
export async function lacksOf(sql: Reader, name: ReportName, costs: boolean): Promise<Lack[]> {
  const { columns } = reportOf(name);
  const there = await known(sql);
  return [
    ...(costs && columns.some(({ key }) => key === 'cost' || key === 'margin')
      ? costLack(there, 'what it earns')
      : []),
    ...(name === 'suppliers' && there.withoutSupplier > 0
      ? [{ words: `No supplier: ${items(there.withoutSupplier)}.`, to: '/goods', where: 'Goods' }]
      : []),
    ...(name === 'taxes' && there.rates === 0
      ? [
          {
            words: 'There is no rate of tax: nothing that is sold has any.',
            to: '/setup/taxes',
            where: 'Taxes',
          },
        ]
      : []),
    ...(name === 'groups' && there.grouped === 0
      ? [{ words: 'Nobody is in a group of customers yet.', to: '/people', where: 'People' }]
      : []),
  ];
}
