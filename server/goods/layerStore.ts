import type { StockReason } from '../../core/goods/stockReasons.ts';
import type { Money } from '../../core/money.ts';
import type { Quantity } from '../../core/quantity.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** What goods move against, and why, as their moves keep it. */
interface Facing {
  reason: StockReason;
  against: string;
  subject?: string;
}

/** Goods that come to a place as a layer. */
export interface ComingGoods {
  itemId: number;
  placeId: number;
  quantity: Quantity;
  /** What all of it cost; what the last ones did where nobody says. */
  cost?: Money | null;
  known?: boolean;
}

/** Goods that leave a place. @property serial of a unit that has one */
export interface LeavingGoods extends Facing {
  itemId: number;
  placeId: number;
  quantity: Quantity;
  serial?: string;
}

/** What posts the moves, and who does it. */
export interface Moving {
  event: number;
  at: Date;
  staffId?: number;
  words?: string;
}

/** Takes items at a place for oneself, in the order in which everybody does, and changes how much of each is there. */
export async function changeLevels(
  sql: Writer,
  placeId: number,
  changes: readonly { itemId: number; change: Quantity }[],
): Promise<void> {
  if (changes.length === 0) return;
  await sql.query('select lock_levels($1::integer[], array_fill($2::integer, array[$3::integer]))', [
    changes.map(({ itemId }) => itemId),
    placeId,
    changes.length,
  ]);
  await sql.query(
    `update stock_level as level set quantity = level.quantity + one.change
     from (select "itemId", sum(change) as change
       from jsonb_to_recordset($2) as line ("itemId" integer, change bigint) group by 1) as one
     where level.item_id = one."itemId" and level.place_id = $1`,
    [placeId, JSON.stringify(changes)],
  );
}

/** Layers of goods that come; their levels are changed before. @returns the layers, in the order of the goods */
export async function bringLayers(
  sql: Writer,
  goods: readonly ComingGoods[],
  facing: Facing,
  { event, at, staffId, words }: Moving,
): Promise<number[]> {
  const { layers } = one(
    await sql.query<{ layers: number[] }>('select bring_layers($1, $2, $3, $4) as layers', [
      event,
      at.toISOString(),
      JSON.stringify(goods),
      JSON.stringify({ ...facing, staffId, words }),
    ]),
  );
  return layers;
}

/** Goods leave, first in, first out, a unit with a serial number with its own span; their levels are changed before. */
export async function takeGoods(
  sql: Writer,
  goods: readonly LeavingGoods[],
  { event, at, staffId, words }: Moving,
): Promise<void> {
  await sql.query('select take_with_serials($1, $2, $3, $4)', [
    event,
    at.toISOString(),
    JSON.stringify(goods),
    JSON.stringify({ staffId, words }),
  ]);
}

/** Goods of a layer leave that lie there still; what does not, first in, first out. */
export async function takeOfLayer(
  sql: Writer,
  layer: number,
  goods: LeavingGoods,
  { event, at, staffId, words }: Moving,
): Promise<void> {
  await sql.query('select take_of_layer($1, $2, $3, $4, $5)', [
    event,
    at.toISOString(),
    layer,
    JSON.stringify(goods),
    JSON.stringify({ staffId, words }),
  ]);
}

/** What can be sold of items at a place, as tills are told: on hand less what is set aside. */
export async function availableLevels(
  sql: Reader,
  placeId: number,
  items: readonly number[],
): Promise<[itemId: number, quantity: number][]> {
  const rows = await sql.query<{ id: number; available: number }>(
    `select item_id as id, quantity - set_aside as available from stock_level
     where place_id = $1 and item_id = any ($2::integer[])`,
    [placeId, items],
  );
  return rows.map(({ id, available }) => [id, available]);
}

/** What more or less of each item costs: what the next thousandths that would leave cost. */
export function costsOf(
  sql: Reader,
  placeId: number,
  differences: readonly { itemId: number; difference: number }[],
): Promise<{ itemId: number; cost: number }[]> {
  return sql.query(
    `select "itemId", (case when difference < 0 then -1 else 1 end * debt_cost(
         coalesce((select layer_id from stock_held where place_id = $2 and item_id = "itemId"
           order by layer_id limit 1), (select max(id) from stock_layer where item_id = "itemId")),
         coalesce((select cost from item where id = "itemId"), 0), 0, abs(difference)))::bigint as cost
     from jsonb_to_recordset($1) as one ("itemId" integer, difference bigint)`,
    [JSON.stringify(differences), placeId],
  );
}
