import type { StockReason } from '../../core/goods/stockReasons.ts';
import type { Quantity } from '../../core/quantity.ts';
import type { Reader, Writer } from '../db/database.ts';

/** Moves stock of an item at a place, and notes who did it and why. */
export async function moveByHand(
  sql: Writer,
  move: { itemId: number; placeId: number; quantity: Quantity; reason: StockReason; words: string },
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  const { itemId, placeId, quantity, reason, words } = move;
  await sql.query(
    `insert into stock_level as held (item_id, place_id, quantity) values ($1, $2, $3)
     on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity`,
    [itemId, placeId, quantity],
  );
  await sql.query(
    `insert into stock_move (item_id, place_id, quantity, reason, words, staff_id, at) values ($1, $2, $3, $4, $5, $6, $7)`,
    [itemId, placeId, quantity, reason, words, staffId, at.toISOString()],
  );
}

/** A unit with a serial number as it is known. */
export interface SerialUnit {
  serial: string;
  placeId: number;
  sold: boolean;
  promised: boolean;
}

/** Units of an item that are known by these serial numbers, held until the change is done. */
export function serialsAt(sql: Writer, itemId: number, serials: readonly string[]): Promise<SerialUnit[]> {
  return sql.query<SerialUnit>(
    `select serial, place_id as "placeId", sale_id is not null as sold, promise_id is not null as promised
     from serial where item_id = $1 and serial = any ($2::text[]) order by serial for update`,
    [itemId, serials],
  );
}

/** Units come to a place, or are there no more. */
export async function putSerials(
  sql: Writer,
  itemId: number,
  serials: readonly string[],
  placeId: number | null,
): Promise<void> {
  if (placeId === null)
    await sql.query('delete from serial where item_id = $1 and serial = any ($2::text[])', [itemId, serials]);
  else
    await sql.query('insert into serial (item_id, serial, place_id) select $1, unnest($2::text[]), $3', [
      itemId,
      serials,
      placeId,
    ]);
}

/** What can be sold of an item at a place: on hand less what is set aside. */
export async function availableAt(sql: Reader, itemId: number, placeId: number): Promise<number> {
  const [row] = await sql.query<{ available: number }>(
    'select quantity - set_aside as available from stock_level where item_id = $1 and place_id = $2',
    [itemId, placeId],
  );
  return row?.available ?? 0;
}
