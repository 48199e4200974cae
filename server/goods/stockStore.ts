import { BY_HAND, type ReasonByHand } from '../../core/goods/stockReasons.ts';
import type { Money } from '../../core/money.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import type { Reader, Writer } from '../db/database.ts';
import { bringLayers, changeLevels, takeGoods } from './layerStore.ts';
import { openEvent, postCosts } from '../books/store.ts';

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

/** Moves stock of an item at a place, notes who did it and why, and posts what it costs. @returns the event */
export async function moveByHand(
  sql: Writer,
  { itemId, placeId, quantity, reason, words, cost, serials }: MoveByHand,
  { staffId, at }: { staffId: number; at: Date },
): Promise<number> {
  const { sign, against } = BY_HAND[reason];
  const subject = against === 'goods-received' ? await supplierOf(sql, itemId) : '';
  const facing = { reason, against, subject };
  await changeLevels(sql, placeId, [{ itemId, change: sign * quantity }]);
  const event = await openEvent(sql, { kind: 'stock', at, staffId });
  const moving = { event, at, staffId, words };
  if (sign > 0) {
    const [layer = 0] = await bringLayers(sql, [{ itemId, placeId, quantity, cost }], facing, moving);
    if (serials.length > 0) await ownSpans(sql, itemId, serials, layer);
  } else {
    const units = serials.map((serial) => ({ ...facing, itemId, placeId, quantity: ONE, serial }));
    await takeGoods(sql, units.length > 0 ? units : [{ ...facing, itemId, placeId, quantity }], moving);
  }
  await postCosts(sql, event);
  return event;
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

/** Keeps who approved what an event put right. */
export async function addStockApproval(sql: Writer, event: number, countersign: string): Promise<void> {
  await sql.query('insert into stock_approval (event_id, countersign_id) values ($1, $2)', [
    event,
    countersign,
  ]);
}
