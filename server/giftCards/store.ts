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

/**
 * Adds stored value that was not sold here. @returns its number in the list, or `undefined` when the number is taken
 */
export async function addValue(
  sql: Writer,
  value: NewCertificate & { kind: StoredValueKind; customerId?: number | null; at: Date },
): Promise<number | undefined> {
  const [row] = await sql.query<{ id: number }>(
    `insert into stored_value (number, kind, single_use, expires_on, customer_id, issued_at, used_at)
     values ($1, $2, $3, $4, $5, $6, $6) on conflict (number) do nothing returning id`,
    [
      plainNumber(value.number),
      value.kind,
      value.singleUse,
      value.expiresOn || null,
      value.customerId ?? null,
      value.at.toISOString(),
    ],
  );
  return row?.id;
}

/** Moves its balance, with the event that says why. */
export async function moveValue(
  sql: Writer,
  move: { id: number; kind: StoredValueReason; amount: number; staffId: number; at: Date },
): Promise<void> {
  const { id, kind, amount, staffId, at } = move;
  await sql.query('update stored_value set balance = balance + $2, used_at = $3 where id = $1', [
    id,
    amount,
    at.toISOString(),
  ]);
  await sql.query(
    'insert into stored_value_move (stored_value_id, kind, amount, staff_id, at) values ($1, $2, $3, $4, $5)',
    [id, kind, amount, staffId, at.toISOString()],
  );
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
