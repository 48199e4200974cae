import type { CustomerCard, CustomerPage, WantedRecord } from '../../contract/people.ts';
import { customerWords } from '../../core/people/customer.ts';
import type { CustomerRecord, ReceiptWay } from '../../core/people/record.ts';
import type { RecordChange } from '../../core/recordChange.ts';
import { fold } from '../../core/words.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** A record as it is stored. */
export interface StoredRecord {
  id: number;
  record: WantedRecord;
  version: number;
  byRule: string[];
  addedAt: string;
  seenAt: string | null;
}

/** Records of customers who are there, by their numbers; those who are gone are left out. */
export function readRecords(sql: Reader, ids: readonly number[]): Promise<StoredRecord[]> {
  return sql.query<StoredRecord>(
    `select customer.id, version, added_at as "addedAt", seen_at as "seenAt",
       coalesce((select json_agg(customer_group.name order by customer_group.name) from customer_membership
          join customer_group on customer_group.id = group_id where customer_id = customer.id and by_rule),
            '[]'::json) as "byRule",
       json_build_object('name', name, 'company', company, 'phone', phone, 'mail', mail, 'birthMonth', birth_month,
         'birthDay', birth_day, 'note', note, 'news', news, 'newsOn', coalesce(news_on::text, ''), 'newsHow', news_how,
         'groups', coalesce((select json_agg(customer_group.name order by customer_group.name) from customer_membership
            join customer_group on customer_group.id = group_id where customer_id = customer.id and not by_rule),
              '[]'::json),
         'tags', coalesce((select json_agg(tag order by tag) from customer_tag
           where customer_id = customer.id), '[]'::json),
         'addresses', coalesce((select json_agg(json_build_object('recipient', recipient, 'street', street,
            'postcode', postcode, 'city', city) order by position)
            from customer_address where customer_id = customer.id), '[]'::json)) as record
     from customer where id = any ($1::integer[]) and not gone`,
    [ids],
  );
}

/** Takes the rows of customers, in one order for everybody, so that two who change the same take turns. */
export async function lockRecords(sql: Writer, ids: readonly number[]): Promise<void> {
  await sql.query('select 1 from customer where id = any ($1::integer[]) order by id for no key update', [
    ids,
  ]);
}

/** A record that is to be written. */
export interface RecordToPut {
  /** Nobody yet, where they are new. */
  id: number | null;
  record: CustomerRecord;
  /** Codes of cards that they get; that they are free was looked at before. */
  cards: readonly string[];
  changes: readonly RecordChange[];
}

/** Writes records whole, new ones and known ones; see `put_customers`. @returns their ids, in the same order */
export async function putRecords(
  sql: Writer,
  records: readonly RecordToPut[],
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<number[]> {
  const given = records.map((one) => ({
    ...one,
    words: customerWords(one.record),
    sortName: fold(one.record.name),
  }));
  const { ids } = one(
    await sql.query<{ ids: number[] }>('select put_customers($1, $2, $3) as ids', [
      JSON.stringify(given),
      staffId,
      at.toISOString(),
    ]),
  );
  return ids;
}

/** How somebody wants their receipts. */
export async function setReceiptWay(sql: Writer, id: number, by: ReceiptWay): Promise<void> {
  await sql.query('update customer set receipt_by = $2 where id = $1', [id, by]);
}

/** Keeps who changed what. @param staffId nobody, where a rule did it */
export async function noteChanges(
  sql: Writer,
  id: number,
  changes: readonly RecordChange[],
  { staffId, at }: { staffId: number | null; at: Date },
): Promise<void> {
  if (changes.length === 0) return;
  await sql.query(
    `insert into customer_change (customer_id, at, staff_id, what, was, became)
     select $1, $2, $3, what, was, became from jsonb_to_recordset($4) as one (what text, was text, became text)`,
    [id, at.toISOString(), staffId, JSON.stringify(changes)],
  );
}

const CHANGES_SHOWN = 100;

/** Who changed what of a customer, newest first. */
export function changesOf(sql: Reader, id: number): Promise<CustomerPage['changes']> {
  return sql.query(
    `select at, coalesce(staff.name, '') as who, what, was, became
     from customer_change left join staff on staff.id = staff_id
     where customer_id = $1 order by customer_change.id desc limit ${CHANGES_SHOWN}`,
    [id],
  );
}

/** The cards of a customer: those that count first, then the latest. */
export function cardsOf(sql: Reader, id: number): Promise<CustomerCard[]> {
  return sql.query(
    `select code, added_at as "addedAt", replaced_at as "stoppedAt", for_phone as "forPhone" from customer_card
     where customer_id = $1 order by replaced_at desc nulls first, added_at desc nulls last, code`,
    [id],
  );
}

/** What somebody bought by month, from the month of a day on, oldest first; months without a visit are left out. */
export function monthsOf(
  sql: Reader,
  id: number,
  since: string,
): Promise<{ month: string; visits: number; total: number }[]> {
  return sql.query(
    `select to_char(business_date, 'YYYY-MM') as month, count(*)::integer as visits, sum(total)::bigint as total
     from standing_sale where customer_id = any (one_person($1)) and business_date >= date_trunc('month', $2::date)
     group by 1 order by 1`,
    [id, since],
  );
}

/** Stored value in somebody's name, with its number shortened to what may be said. */
export function valuesOf(sql: Reader, id: number): Promise<CustomerPage['values']> {
  return sql.query(
    `select id, right(number, 4) as number, kind, balance, state from stored_value
     where customer_id = any (one_person($1)) and (balance > 0 or state = 'active') order by kind, id`,
    [id],
  );
}

/** Names of those whose record came to this one. */
export async function mergedFrom(sql: Reader, id: number): Promise<string[]> {
  const rows = await sql.query<{ name: string }>(
    'select name from customer where merged_into = $1 and id <> $1 order by id',
    [id],
  );
  return rows.map(({ name }) => name);
}

/** Who a customer is now; nobody once they are forgotten. */
export async function customerNow(
  sql: Reader,
  id: number,
): Promise<{ id: number; name: string } | undefined> {
  const [row] = await sql.query<{ id: number; name: string }>(
    'select id, name from customer where id = person_now($1)',
    [id],
  );
  return row;
}
