import { BY_HAND, type ReasonByHand } from '../../core/goods/stockReasons.ts';
import type { Money } from '../../core/money.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import type { Reader, Writer } from '../db/database.ts';
import { openEvent, postCosts } from '../ledger/store.ts';

/** Goods that come to a place, or leave it, for a reason of somebody's. */
export interface MoveByHand {
  itemId: number;
  placeId: number;
  /** Above zero. */
  quantity: Quantity;
  reason: ReasonByHand;
  words: string;
  /** What all of it cost; null where that is not known, and where goods leave. */
  cost: Money | null;
  serials: readonly string[];
}

/** Moves stock of an item at a place, notes who did it and why, and posts what it costs. */
export async function moveByHand(
  sql: Writer,
  { itemId, placeId, quantity, reason, words, cost, serials }: MoveByHand,
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  const { sign, against } = BY_HAND[reason];
  const when = at.toISOString();
  await sql.query('select lock_levels(array[$1::integer], array[$2::integer])', [itemId, placeId]);
  await sql.query('update stock_level set quantity = quantity + $3 where item_id = $1 and place_id = $2', [
    itemId,
    placeId,
    sign * quantity,
  ]);
  const event = await openEvent(sql, { kind: 'stock', at, staffId });
  const subject = against === 'goods-received' ? await supplierOf(sql, itemId) : '';
  const line = { itemId, placeId, reason, against, subject };
  if (sign > 0) {
    const about = JSON.stringify({ reason, against, subject, words, staffId });
    const [laid] = await sql.query<{ layers: number[] }>('select bring_layers($1, $2, $3, $4) as layers', [
      event,
      when,
      JSON.stringify([{ itemId, placeId, quantity, cost }]),
      about,
    ]);
    const layer = laid?.layers[0];
    if (layer !== undefined && serials.length > 0) await ownSpans(sql, itemId, serials, layer);
  } else {
    const lines =
      serials.length > 0
        ? serials.map((serial) => ({ ...line, quantity: ONE, serial }))
        : [{ ...line, quantity }];
    await sql.query('select take_with_serials($1, $2, $3, $4)', [
      event,
      when,
      JSON.stringify(lines),
      JSON.stringify({ words, staffId }),
    ]);
  }
  await postCosts(sql, event);
}

/** Units with serial numbers own a span of the layer that they came with, one after the other. */
export async function ownSpans(
  sql: Writer,
  itemId: number,
  serials: readonly string[],
  layer: number,
): Promise<void> {
  await sql.query(
    `update serial set layer_id = $3, upto = nth * ${ONE} from unnest($2::text[]) with ordinality as unit (number, nth)
     where item_id = $1 and serial.serial = unit.number`,
    [itemId, serials, layer],
  );
}

async function supplierOf(sql: Reader, itemId: number): Promise<string> {
  const [row] = await sql.query<{ subject: string }>('select supplier_of($1) as subject', [itemId]);
  return row?.subject ?? '';
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
