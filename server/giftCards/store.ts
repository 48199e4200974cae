import type { NewCertificate, StoredValueMove, StoredValueView } from '../../contract/giftCards.ts';
import {
  plainNumber,
  type StoredValueKind,
  type StoredValueReason,
} from '../../core/giftCards/storedValue.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

export type StoredValueRow = Omit<StoredValueView, 'problem' | 'dormant'>;

const ROW = `value.id, value.number, value.kind, value.state, value.balance, single_use as "singleUse",
  expires_on as "expiresOn", customer.name as customer, value.mail, issued_at as "issuedAt", used_at as "usedAt",
  held_of(value.id) as held
  from stored_value as value left join customer on customer.id = value.customer_id`;

const FOUND = `where ($1 = '' or $4 and value.number like '%' || upper($1) || '%' or value.number = upper($1)
    or length($1) = 4 and right(value.number, 4) = upper($1)
    or customer.name ilike '%' || $1 || '%' or value.mail ilike '%' || $1 || '%')
  and ($2 = '' or value.kind = $2) and ($3 = '' or value.state = $3)`;

export interface ValueFilter {
  find: string;
  /** Whether part of a number finds it. */
  parts: boolean;
  kind: string;
  state: string;
}

export function listValues(
  sql: Reader,
  { find, kind, state, parts }: ValueFilter,
  most: number,
  skip: number,
) {
  return sql.query<StoredValueRow>(
    `select ${ROW} ${FOUND} order by value.issued_at desc, value.id desc
      limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    [find, kind, state, parts],
  );
}

export async function sumValues(sql: Reader, { find, kind, state, parts }: ValueFilter) {
  return one(
    await sql.query<{ count: number; outstanding: number }>(
      `select count(*)::integer as count, coalesce(sum(value.balance), 0)::bigint as outstanding
       from stored_value as value left join customer on customer.id = value.customer_id ${FOUND}`,
      [find, kind, state, parts],
    ),
  );
}

export async function findValue(
  sql: Reader,
  by: { id?: number; number?: string },
): Promise<StoredValueRow | undefined> {
  const [row] = await sql.query<StoredValueRow>(`select ${ROW} where value.id = $1 or value.number = $2`, [
    by.id ?? null,
    by.number ?? null,
  ]);
  return row;
}

/** Some of them, by their numbers in the list. */
export function findValues(sql: Reader, ids: readonly number[]): Promise<StoredValueRow[]> {
  return sql.query<StoredValueRow>(`select ${ROW} where value.id = any ($1::integer[])`, [ids]);
}

/** Whose it is, where that is known. */
export async function customerOf(sql: Reader, id: number): Promise<number | null> {
  const [row] = await sql.query<{ customerId: number | null }>(
    'select customer_id as "customerId" from stored_value where id = $1',
    [id],
  );
  return row?.customerId ?? null;
}

/** Everything that ever happened to it, newest first. */
export function movesOf(sql: Reader, id: number): Promise<StoredValueMove[]> {
  return sql.query<StoredValueMove>(
    `select move.kind, move.amount, move.at, staff.name as by, sale.id as "saleId",
            receipt_number(till.number, sale.number) as sale
     from stored_value_move as move
     left join staff on staff.id = move.staff_id
     left join sale on sale.id = move.sale_id
     left join till on till.id = sale.till_id
     where stored_value_id = $1 order by move.id desc`,
    [id],
  );
}

export async function isKnown(sql: Reader, number: string): Promise<boolean> {
  return (await sql.query('select 1 from stored_value where number = $1', [number])).length > 0;
}

/** Stored value that was not sold here. */
type FreshValue = NewCertificate & { kind: StoredValueKind; customerId?: number | null };

/**
 * Adds stored value that was not sold here, a list of thousands at once: a shop sells meanwhile.
 * @returns their numbers in the list, by their own; those that are taken are left out
 */
export async function addValues(
  sql: Writer,
  values: readonly FreshValue[],
  at: Date,
): Promise<Map<string, number>> {
  const rows = await sql.query<{ id: number; number: string }>(
    `insert into stored_value (number, kind, single_use, expires_on, customer_id, issued_at, used_at)
     select number, kind, single_use, expires_on, customer_id, $2, $2
     from jsonb_to_recordset($1)
       as listed (number text, kind text, single_use boolean, expires_on date, customer_id integer)
     on conflict (number) do nothing returning id, number`,
    [
      JSON.stringify(
        values.map((value) => ({
          number: plainNumber(value.number),
          kind: value.kind,
          single_use: value.singleUse,
          expires_on: value.expiresOn || null,
          customer_id: value.customerId ?? null,
        })),
      ),
      at.toISOString(),
    ],
  );
  return new Map(rows.map(({ id, number }) => [number, id]));
}

/** Adds stored value that was not sold here. @returns its number in the list, or `undefined` when its own is taken */
export async function addValue(sql: Writer, value: FreshValue & { at: Date }): Promise<number | undefined> {
  const [id] = (await addValues(sql, [value], value.at)).values();
  return id;
}

/** Moves balances, each of another one, for the same reason. */
export async function moveValues(
  sql: Writer,
  kind: StoredValueReason,
  moves: readonly { id: number; amount: number }[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  const listed = JSON.stringify(moves);
  await sql.query(
    `update stored_value as value set balance = balance + amount, used_at = $2
     from jsonb_to_recordset($1) as listed (id integer, amount bigint) where value.id = listed.id`,
    [listed, at.toISOString()],
  );
  await sql.query(
    `insert into stored_value_move (stored_value_id, kind, amount, staff_id, at)
     select id, $2, amount, $3, $4 from jsonb_to_recordset($1) as listed (id integer, amount bigint)`,
    [listed, kind, staffId, at.toISOString()],
  );
}

/** Moves a balance, with the event that says why. */
export const moveValue = (
  sql: Writer,
  {
    id,
    amount,
    kind,
    ...who
  }: { id: number; kind: StoredValueReason; amount: number; staffId: number; at: Date },
): Promise<void> => moveValues(sql, kind, [{ id, amount }], who);

/** Closes those whose balance is used up. */
export async function closeValues(sql: Writer, ids: readonly number[]): Promise<void> {
  await sql.query("update stored_value set state = 'closed' where id = any ($1::integer[])", [ids]);
}

export async function setState(
  sql: Writer,
  id: number,
  state: 'active' | 'frozen' | 'closed',
  movedTo: number | null = null,
): Promise<void> {
  await sql.query('update stored_value set state = $2, moved_to = coalesce($3, moved_to) where id = $1', [
    id,
    state,
    movedTo,
  ]);
}

/** Takes over on a new card what belongs to the old one: whose it is, and how long it can be used. */
export async function inherit(sql: Writer, from: number, to: number): Promise<void> {
  await sql.query(
    `update stored_value as fresh set customer_id = old.customer_id, mail = old.mail, expires_on = old.expires_on,
       single_use = old.single_use
     from stored_value as old where old.id = $1 and fresh.id = $2`,
    [from, to],
  );
}
