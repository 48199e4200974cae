import type { HeldBasket, Hold } from '../../contract/waiting.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** A held basket as it is stored: its ticket is a count, its time as SQL writes it. */
export type HeldRow = Omit<HeldBasket, 'number'> & { ticket: number };

const COLUMNS = `held.id, held.ticket, held.name, held.note, held.content as basket, held.total,
  held.held_at as "heldAt", staff.name as "heldBy", till.number as "heldOn",
  (select number from till as meant where meant.id = held.for_till) as "forTill"`;

const FROM =
  'from held_basket as held join staff on staff.id = held.held_by join till on till.id = held.held_on';

export function waitingBaskets(sql: Reader): Promise<HeldRow[]> {
  return sql.query<HeldRow>(
    `select ${COLUMNS} ${FROM} where held.taken_at is null order by held.held_at, held.ticket`,
  );
}

export async function heldBasket(sql: Reader, id: string): Promise<HeldRow | undefined> {
  return (await sql.query<HeldRow>(`select ${COLUMNS} ${FROM} where held.id = $1`, [id]))[0];
}

/** Puts a basket aside. @returns its ticket: tickets are counted without gaps */
export async function addHeld(
  sql: Writer,
  hold: Hold & { id: string },
  by: { staffId: number; tillId: number; at: Date },
): Promise<number> {
  const rows = await sql.query<{ ticket: number }>(
    `with counted as (update ticket_count set next_number = next_number + 1 returning next_number - 1 as ticket)
     insert into held_basket (id, name, note, content, total, held_at, held_by, held_on, for_till, ticket)
     select $1, $2, $3, $4, $5, $6, $7, $8, $9, ticket from counted returning ticket`,
    [
      hold.id,
      hold.name,
      hold.note,
      JSON.stringify(hold.basket),
      hold.total,
      by.at.toISOString(),
      by.staffId,
      by.tillId,
      hold.forTill,
    ],
  );
  return one(rows).ticket;
}

/** Takes a basket up if nobody has. @returns what is in it, or `undefined` */
export async function takeHeld(
  sql: Writer,
  id: string,
  by: { staffId: number; tillId: number; at: Date },
): Promise<Basket | undefined> {
  const [row] = await sql.query<{ content: Basket }>(
    `update held_basket set taken_at = $2, taken_by = $3, taken_on = $4
     where id = $1 and taken_at is null returning content`,
    [id, by.at.toISOString(), by.staffId, by.tillId],
  );
  return row?.content;
}

/** Who took a basket up, and where. */
export async function whoTook(
  sql: Reader,
  id: string,
): Promise<{ name: string; ticket: number; by: string; till: number } | undefined> {
  const [row] = await sql.query<{ name: string; ticket: number; by: string; till: number }>(
    `select held.name, held.ticket, staff.name as by, till.number as till from held_basket as held
     join staff on staff.id = held.taken_by join till on till.id = held.taken_on where held.id = $1`,
    [id],
  );
  return row;
}

export async function dropBasketOf(sql: Writer, tillId: number): Promise<void> {
  await sql.query('delete from basket where till_id = $1', [tillId]);
}
