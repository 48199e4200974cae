import type { Reader, Writer } from '../db/database.ts';

export async function cardOnFile(
  sql: Reader,
  id: number,
): Promise<{ customerId: number; token: string; brand: string; lastFour: string } | undefined> {
  const [row] = await sql.query<{ customerId: number; token: string; brand: string; lastFour: string }>(
    `select customer_id as "customerId", token, brand, last_four as "lastFour" from card_on_file
     where id = $1 and dropped_at is null`,
    [id],
  );
  return row;
}

/** Notes a card that a customer agrees to leave on file, once. */
export async function keepCard(
  sql: Writer,
  card: { customerId: number; token: string; brand: string; lastFour: string; staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    `insert into card_on_file (customer_id, token, brand, last_four, agreed_at, agreed_with)
     select $1, $2, $3, $4, $5, $6 where not exists
       (select 1 from card_on_file where customer_id = $1 and token = $2 and dropped_at is null)`,
    [card.customerId, card.token, card.brand, card.lastFour, card.at.toISOString(), card.staffId],
  );
}

export function cardsOnFile(
  sql: Reader,
  customerId: number,
): Promise<{ id: number; brand: string; lastFour: string }[]> {
  return sql.query(
    `select id, brand, last_four as "lastFour" from card_on_file where customer_id = $1 and dropped_at is null
      order by id desc`,
    [customerId],
  );
}

export async function dropCard(sql: Writer, id: number, at: Date): Promise<void> {
  await sql.query('update card_on_file set dropped_at = $2 where id = $1', [id, at.toISOString()]);
}
