import type { Reader, Writer } from '../db/database.ts';

/** Ids of customers who may be those of some lines: by number, telephone, mail, name or card. */
export async function candidates(
  sql: Reader,
  by: {
    numbers: readonly number[];
    phones: readonly string[];
    mails: readonly string[];
    names: readonly string[];
    codes: readonly string[];
  },
): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    `select id from customer where id = any ($1::integer[]) and not gone
     union select id from customer where phone_digits = any ($2::text[]) and phone_digits <> '' and not gone
     union select id from customer where mail_lower = any ($3::text[]) and mail_lower <> '' and not gone
     union select id from customer where sort_name = any ($4::text[]) and not gone
     union select customer_id from customer_card where upper(code) = any ($5::text[])`,
    [by.numbers, by.phones, by.mails, by.names, by.codes],
  );
  return rows.map(({ id }) => id);
}

/** Lets the database count how many customers there are and how they differ, as it does by itself only now and then. */
export async function countAgain(sql: Writer): Promise<void> {
  for (const table of [
    'customer',
    'customer_tag',
    'customer_membership',
    'customer_card',
    'customer_address',
  ])
    await sql.query(`analyze ${table}`);
}
