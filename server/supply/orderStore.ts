import type {
  ChangedOrder,
  DeliveryRow,
  OrderLineView,
  OrderPage,
  OrderRow,
  OrderableItem,
} from '../../contract/supply.ts';
import type { LookUp } from '../../contract/goods.ts';
import { spellings } from '../../core/goods/codes.ts';
import type { DayMoved, StockFacts } from '../../core/supply/suggest.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { asking, countOf, typedNumber, type Ask } from '../db/asked.ts';
import { says } from '../db/words.ts';
import { itemFits } from '../goods/listStore.ts';
import { itemsMeant } from '../goods/meantStore.ts';

const ROW = `purchase_order.id, purchase_order.number, purchase_order.state,
  purchase_order.supplier_id as "supplierId", supplier.name as supplier,
  place.name as place, purchase_order.expected_on as "expectedOn",
  coalesce(purchase_order.sent_at, purchase_order.made_at) as at,
  coalesce((select sum(round(coalesce(unit_cost, 0)::numeric * quantity / 1000)) from purchase_order_line
            where order_id = purchase_order.id), 0)::bigint as total`;

const ORDERS = `from purchase_order join supplier on supplier.id = supplier_id join place on place.id = place_id`;

interface WhichOrders {
  supplierId?: number;
  open?: boolean;
  /** Words of the supplier, the place or the goods, or the number. */
  find?: string;
}

function ordersMeant({ supplierId, open, find = '' }: WhichOrders, ask: Ask): string {
  const [number, goods] = [typedNumber(find), itemFits(find, ask)];
  const found = [
    says("concat_ws(' ', supplier.name, place.name, purchase_order.words)", find, ask),
    number !== undefined && `purchase_order.number = ${ask(number)}`,
    goods &&
      `purchase_order.id in (select order_id from purchase_order_line as line
         join item on item.id = line.item_id where ${goods})`,
  ].filter(Boolean);
  return [
    supplierId !== undefined && `supplier_id = ${ask(supplierId)}`,
    open && "purchase_order.state <> 'closed'",
    `(${found.join(' or ')})`,
  ]
    .filter(Boolean)
    .join(' and ');
}

/** So many rows of a list, from the one on. */
interface Part {
  most: number;
  from?: number;
}

/** Orders, those that are open first, the newest first. */
export function listOrders(sql: Reader, which: WhichOrders, { most, from = 0 }: Part): Promise<OrderRow[]> {
  const { given, ask } = asking();
  return sql.query<OrderRow>(
    `select ${ROW}, coalesce((select json_agg(json_build_object('quantity', quantity, 'received', received))
         from purchase_order_line where order_id = purchase_order.id), '[]'::json) as lines
     ${ORDERS} where ${ordersMeant(which, ask)}
     order by purchase_order.state = 'closed', purchase_order.id desc limit ${ask(most)} offset ${ask(from)}`,
    given,
  );
}

/** How many orders there are of those. */
export const countOrders = (sql: Reader, which: WhichOrders): Promise<number> =>
  countOf(sql, ORDERS, (ask) => ordersMeant(which, ask));

const LINE = `item.id as "itemId", item.number, item.name, item.unit, item.decimals, item.serials, item.weight,
  coalesce((select json_agg(code) from item_code where item_id = item.id), '[]'::json) as codes,
  coalesce(known.number, '') as "theirNumber", coalesce(known.pack, 1000)::bigint as pack`;

export async function findOrder(sql: Reader, id: number): Promise<Omit<OrderPage, 'deliveries'> | undefined> {
  const [head] = await sql.query<Omit<OrderPage, 'deliveries' | 'lines'>>(
    `select ${ROW}, purchase_order.version, purchase_order.place_id as "placeId", supplier.email,
        purchase_order.words, staff.name as "madeBy",
       purchase_order.sent_at as "sentAt"
     from purchase_order join supplier on supplier.id = supplier_id join place on place.id = place_id
     join staff on staff.id = made_by where purchase_order.id = $1`,
    [id],
  );
  if (!head) return undefined;
  const lines = await sql.query<OrderLineView>(
    `select ${LINE}, line.quantity, line.unit_cost as "unitCost", line.received, line.reason
     from purchase_order_line as line join item on item.id = line.item_id
     left join item_supplier as known on known.item_id = item.id and known.supplier_id = $2
     where order_id = $1 order by position`,
    [id, head.supplierId],
  );
  return { ...head, lines };
}

/** An order that is about to be changed, held until that is done. */
export async function holdOrder(
  sql: Writer,
  id: number,
): Promise<
  | { state: OrderRow['state']; version: number; supplierId: number; placeId: number; number: number }
  | undefined
> {
  const [row] = await sql.query<{
    state: OrderRow['state'];
    version: number;
    supplierId: number;
    placeId: number;
    number: number;
  }>(
    `select state, version, supplier_id as "supplierId", place_id as "placeId", number from purchase_order where id = $1
     for update`,
    [id],
  );
  return row;
}

export async function addOrder(
  sql: Writer,
  wanted: { supplierId: number; placeId: number; expectedOn: string },
  { staffId, at }: { staffId: number; at: Date },
): Promise<number> {
  return one(
    await sql.query<{ id: number }>(
      `insert into purchase_order (number, supplier_id, place_id, state, expected_on, made_at, made_by)
       values (nextval('purchase_order_number'), $1, $2, 'draft', $3, $4, $5) returning id`,
      [wanted.supplierId, wanted.placeId, wanted.expectedOn, at.toISOString(), staffId],
    ),
  ).id;
}

/** Writes what an order asks for; what came of a line stays with it. */
export async function putOrder(
  sql: Writer,
  id: number,
  { expectedOn, words, lines }: Pick<ChangedOrder, 'expectedOn' | 'words' | 'lines'>,
): Promise<void> {
  await sql.query(
    'update purchase_order set expected_on = $2, words = $3, version = version + 1 where id = $1',
    [id, expectedOn || null, words],
  );
  const kept = await sql.query<{ itemId: number; received: number }>(
    'delete from purchase_order_line where order_id = $1 returning item_id as "itemId", received',
    [id],
  );
  const received = new Map(kept.map((line) => [line.itemId, line.received]));
  await sql.query(
    `insert into purchase_order_line (order_id, position, item_id, quantity, unit_cost, reason, received)
     select $1, nth, "itemId", quantity, "unitCost", reason, received
     from rows from (jsonb_to_recordset($2) as ("itemId" integer, quantity bigint, "unitCost" bigint, reason text,
       received bigint))
       with ordinality as one ("itemId", quantity, "unitCost", reason, received, nth)`,
    [id, JSON.stringify(lines.map((line) => ({ ...line, received: received.get(line.itemId) ?? 0 })))],
  );
}

export async function setOrderState(
  sql: Writer,
  id: number,
  state: 'sent' | 'closed',
  at: Date,
): Promise<void> {
  await sql.query(
    `update purchase_order set state = $2, version = version + 1,
       sent_at = case when $2 = 'sent' then $3 else sent_at end, closed_at = case
         when $2 = 'closed' then $3::timestamptz end
     where id = $1`,
    [id, state, at.toISOString()],
  );
}

/** Something came of it: whoever looked at it before looks again. */
export async function touchOrder(sql: Writer, id: number): Promise<void> {
  await sql.query('update purchase_order set version = version + 1 where id = $1', [id]);
}

export async function dropOrder(sql: Writer, id: number): Promise<void> {
  await sql.query('delete from purchase_order_line where order_id = $1', [id]);
  await sql.query('delete from purchase_order where id = $1', [id]);
}

/** What could be ordered from a supplier for a place: its items there, but for how they sell. */
export function suggestible(
  sql: Reader,
  supplierId: number,
  placeId: number,
): Promise<(Omit<StockFacts, 'sold'> & { itemId: number; cost: number | null; level: number })[]> {
  return sql.query(
    `select item.id as "itemId", coalesce(known.cost, item.cost) as cost, known.pack, known.least,
       coalesce(level.quantity, 0)::bigint as level,
       coalesce(level.quantity - level.set_aside, 0)::bigint as available,
       coalesce((select sum(greatest(0, line.quantity - line.received)) from purchase_order_line as line
                 join purchase_order as open on open.id = order_id
                 where line.item_id = item.id and open.place_id = $2 and open.state = 'sent'), 0)::bigint as "onOrder",
       case when wanted.item_id is not null then json_build_object('point', point, 'target', target) end as reorder
     from item_supplier as known join item on item.id = known.item_id
     left join stock_level as level on level.item_id = item.id and level.place_id = $2
     left join reorder_point as wanted on wanted.item_id = item.id and wanted.place_id = $2
     where known.supplier_id = $1 and known.rank = 1 and item.active and item.stocked
     order by item.name, item.id`,
    [supplierId, placeId],
  );
}

/** What moved of a supplier's items at a place on each day, and what was sold of it; days are counted from a moment. */
export function movedByDay(
  sql: Reader,
  supplierId: number,
  placeId: number,
  since: Date,
): Promise<(DayMoved & { itemId: number })[]> {
  return sql.query(
    `select move.item_id as "itemId", floor(extract(epoch from at - $3::timestamptz) / 86400)::integer as day,
       sum(quantity)::bigint as moved,
       coalesce(-sum(quantity) filter (where reason in ('sale', 'return', 'void') and settles is null), 0)::bigint
         as sold
     from stock_move as move
     join item_supplier as known on known.item_id = move.item_id and known.supplier_id = $1 and known.rank = 1
     where move.place_id = $2 and at >= $3 group by 1, 2`,
    [supplierId, placeId, since.toISOString()],
  );
}

/** Items that are looked for, as they can be put on an order; nothing where nothing is asked. */
export async function orderableItems(
  sql: Reader,
  supplierId: number,
  placeId: number,
  { find, code }: LookUp,
): Promise<OrderableItem[]> {
  const asked = code || find;
  const { given, ask } = asking(supplierId, placeId, asked.trim(), spellings(asked));
  const words = itemFits(code ? '' : find, ask);
  const exactly = 'meant.place is not null or upper(known.number) = upper($3)';
  if (!code && words === null) return [];
  return sql.query<OrderableItem>(
    `select ${LINE}, coalesce(known.cost, item.cost) as "unitCost",
       coalesce((select quantity - set_aside from stock_level
         where item_id = item.id and place_id = $2), 0)::bigint as available
     from item left join item_supplier as known on known.item_id = item.id and known.supplier_id = $1
       left join (select id, min(place) as place from (${itemsMeant('$4')}) as fits group by id) as meant
         on meant.id = item.id
     where item.kind = 'goods' and item.stocked and item.active and (${code ? exactly : `${exactly} or ${words}`})
     order by meant.place nulls last, known.item_id is null, item.name limit 12`,
    given,
  );
}

const DELIVERIES = `from goods_receipt as receipt join supplier on supplier.id = receipt.supplier_id
  join place on place.id = receipt.place_id join staff on staff.id = receipt.staff_id
  left join purchase_order on purchase_order.id = receipt.order_id`;

interface WhichDeliveries {
  supplierId?: number;
  orderId?: number;
  /** Words of the supplier, the place, the goods or on the papers, or the number. */
  find?: string;
}

function deliveriesMeant({ supplierId, orderId, find = '' }: WhichDeliveries, ask: Ask): string {
  const [number, goods] = [typedNumber(find), itemFits(find, ask)];
  const found = [
    says("concat_ws(' ', supplier.name, place.name, delivery_note, invoice_number)", find, ask),
    number !== undefined && `receipt.number = ${ask(number)}`,
    goods &&
      `receipt.id in (select receipt_id from goods_receipt_line as line
         join item on item.id = line.item_id where ${goods})`,
  ].filter(Boolean);
  return [
    supplierId !== undefined && `receipt.supplier_id = ${ask(supplierId)}`,
    orderId !== undefined && `receipt.order_id = ${ask(orderId)}`,
    `(${found.join(' or ')})`,
  ]
    .filter(Boolean)
    .join(' and ');
}

/** Deliveries, the newest first. */
export function listDeliveries(
  sql: Reader,
  which: WhichDeliveries,
  { most, from = 0 }: Part,
): Promise<DeliveryRow[]> {
  const { given, ask } = asking();
  return sql.query<DeliveryRow>(
    `select receipt.id, receipt.number, receipt.order_id as "orderId", purchase_order.number as "orderNumber",
        supplier.name as supplier,
       place.name as place, receipt.at, staff.name as who, delivery_note as "deliveryNote",
       (select sum(goods_cost + freight) from goods_receipt_line where receipt_id = receipt.id)::bigint as cost,
       invoice_number as "invoiceNumber"
     ${DELIVERIES} where ${deliveriesMeant(which, ask)}
     order by receipt.id desc limit ${ask(most)} offset ${ask(from)}`,
    given,
  );
}

/** How many deliveries there are of those. */
export const countDeliveries = (sql: Reader, which: WhichDeliveries): Promise<number> =>
  countOf(sql, DELIVERIES, (ask) => deliveriesMeant(which, ask));
