import type { NewCertificate, StoredValueMove, StoredValueView } from '../../contract/giftCards.ts';
import {
  plainNumber,
  type StoredValueKind,
  type StoredValueReason,
} from '../../core/giftCards/storedValue.ts';
import { searchedWords } from '../../core/people/customer.ts';
import { asking } from '../db/asked.ts';
import { one, type Parameter, type Reader, type Writer } from '../db/database.ts';
import { beginnings, literally } from '../db/words.ts';

export type StoredValueRow = Omit<StoredValueView, 'problem' | 'dormant'>;

const ROW = `value.id, value.number, value.kind, value.state, value.balance, single_use as "singleUse",
  expires_on as "expiresOn", customer.name as customer, value.mail, issued_at as "issuedAt", used_at as "usedAt",
  held_of(value.id) as held
  from stored_value as value left join customer on customer.id = value.customer_id`;

export interface ValueFilter {
  find: string;
  /** Whether part of a number finds it. */
  parts: boolean;
  kind: string;
  state: string;
}

/** What a question asks of cards and certificates, as a condition, and what it asks with. */
function conditions({ find, kind, state, parts }: ValueFilter): { where: string; given: Parameter[] } {
  const { given, ask } = asking();
  const wanted = ['true'];
  if (kind) wanted.push(`value.kind = ${ask(kind)}`);
  if (state) wanted.push(`value.state = ${ask(state)}`);
  if (find) {
    const number = find.toUpperCase();
    const words = searchedWords(find);
    const holders = `select id from customer where word_set(words) @@ ${ask(beginnings(words))}::tsquery`;
    const ways = [
      `value.number = ${ask(number)}`,
      ...(parts ? [`value.number like ${ask(`%${literally(number)}%`)}`] : []),
      ...(number.length === 4 ? [`right(value.number, 4) = ${ask(number)}`] : []),
      `value.customer_id in (${holders})`,
      `lower(value.mail) like ${ask(`%${literally(find.toLowerCase())}%`)}`,
    ];
    wanted.push(`(${ways.join(' or ')})`);
  }
  return { where: wanted.join(' and '), given };
}

export function listValues(sql: Reader, filter: ValueFilter, most: number, skip: number) {
  const { where, given } = conditions(filter);
  return sql.query<StoredValueRow>(
    `select ${ROW} where ${where} order by value.issued_at desc, value.id desc
      limit ${Math.trunc(most)} offset ${Math.trunc(skip)}`,
    given,
  );
}

export async function sumValues(sql: Reader, filter: ValueFilter) {
  const { where, given } = conditions(filter);
  return one(
    await sql.query<{ count: number; outstanding: number }>(
      `select count(*)::integer as count, coalesce(sum(value.balance), 0)::bigint as outstanding
       from stored_value as value where ${where}`,
      given,
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
