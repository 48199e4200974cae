import type { Writer } from './database.ts';

/**
 * What steps lock before they read their facts, in the one order in which all of them do: a till, the payment of a
 * basket, sales, promises, house accounts, stored values. What is locked later within a step (customers, stock,
 * offers) comes after these.
 */
const LOCKS = {
  tills: 'select 1 from till where id = any ($1::integer[]) order by id for no key update',
  payments: 'select 1 from payment where basket_id = any ($1::uuid[]) order by basket_id for update',
  sales: 'select 1 from sale where id = any ($1::uuid[]) order by id for update',
  promises: 'select 1 from promise where id = any ($1::uuid[]) order by id for update',
  accounts: 'select 1 from account where id = any ($1::integer[]) order by id for update',
  values: 'select 1 from stored_value where id = any ($1::integer[]) order by id for update',
} as const;

/** What a step is about to change or to judge by, each kind by its ids. */
export interface Wanted {
  tills?: readonly number[];
  payments?: readonly string[];
  sales?: readonly string[];
  promises?: readonly string[];
  accounts?: readonly number[];
  values?: readonly number[];
}

/** Locks rows until the transaction ends. What is read after it stands until then. */
export async function takeLocks(sql: Writer, wanted: Wanted): Promise<void> {
  const { tills, payments, sales, promises, accounts, values } = wanted;
  if (tills?.length) await sql.query(LOCKS.tills, [tills]);
  if (payments?.length) await sql.query(LOCKS.payments, [payments]);
  if (sales?.length) await sql.query(LOCKS.sales, [sales]);
  if (promises?.length) await sql.query(LOCKS.promises, [promises]);
  if (accounts?.length) await sql.query(LOCKS.accounts, [accounts]);
  if (values?.length) await sql.query(LOCKS.values, [values]);
}
