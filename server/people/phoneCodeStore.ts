import type { Reader, Writer } from '../db/database.ts';

/**
 * The code that somebody is known by: of a card before one for their telephone, the latest first; `null` without any.
 */
export async function codeThatCounts(sql: Reader, customerId: number): Promise<string | null> {
  const [row] = await sql.query<{ code: string }>(
    `select code from customer_card where customer_id = $1 and replaced_at is null
     order by for_phone, added_at desc nulls last, code limit 1`,
    [customerId],
  );
  return row?.code ?? null;
}

export async function addPhoneCode(sql: Writer, customerId: number, code: string, at: Date): Promise<void> {
  await sql.query(
    `insert into customer_card (code, customer_id, added_at, for_phone) values ($1, $2, $3, true)
     on conflict do nothing`,
    [code, customerId, at.toISOString()],
  );
}

/** The customer of a sale, where a mail about it goes to their own address; `null` else. */
export async function customerOfMail(sql: Reader, saleId: string, address: string): Promise<number | null> {
  const [row] = await sql.query<{ id: number }>(
    `select kept.id from sale join customer on customer.id = sale.customer_id
     join customer as kept on kept.id = coalesce(customer.merged_into, customer.id)
     where sale.id = $1 and not kept.gone and lower(kept.mail) = lower($2)`,
    [saleId, address],
  );
  return row?.id ?? null;
}

/** Somebody as a mail speaks to them. */
export async function whoIs(
  sql: Reader,
  customerId: number,
): Promise<{ id: number; name: string; mail: string; points: number } | undefined> {
  const [row] = await sql.query<{ id: number; name: string; mail: string; points: number }>(
    'select id, name, mail, points from customer where id = $1 and not gone',
    [customerId],
  );
  return row;
}
