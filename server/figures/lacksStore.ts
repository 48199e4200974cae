import { one, type Reader } from '../db/database.ts';

const counted = async (sql: Reader, expression: string): Promise<number> =>
  one(await sql.query<{ count: number }>(`select (${expression}) as count`)).count;

export const itemsWithoutCost = (sql: Reader): Promise<number> => counted(sql, 'items_without_cost()');

export const itemsWithoutSupplier = (sql: Reader): Promise<number> =>
  counted(
    sql,
    `select count(*)::integer from item
     where active and stocked and not exists (select 1 from item_supplier where item_id = item.id)`,
  );

export const taxRates = (sql: Reader): Promise<number> =>
  counted(sql, 'select count(*)::integer from tax_rate');

/** How many memberships of groups there are, up to one. */
export const anyMembership = (sql: Reader): Promise<number> =>
  counted(sql, 'select count(*)::integer from (select 1 from customer_membership limit 1) as one');
