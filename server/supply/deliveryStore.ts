import type { DeliveryPage } from '../../contract/supply.ts';
import type { SpreadBy } from '../../core/supply/landedCost.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { returnsOf } from './supplierReturnStore.ts';
import { bringLayers, changeLevels, takeOfLayer } from '../goods/layerStore.ts';

/** What has to be known of goods that come. */
export interface ComingItem {
  id: number;
  name: string;
  decimals: number;
  serials: boolean;
  weight: number | null;
  stocked: boolean;
  /** What a unit costs as it was ordered, there, or ever. */
  unitCost: number | null;
  /** What the item is known to cost. */
  knownCost: number | null;
}

export function comingItems(
  sql: Reader,
  ids: readonly number[],
  orderId: number,
  supplierId: number,
): Promise<ComingItem[]> {
  return sql.query<ComingItem>(
    `select item.id, item.name, decimals, serials, weight, stocked,
      coalesce(line.unit_cost, known.cost, item.cost) as "unitCost", item.cost as "knownCost"
     from item left join purchase_order_line as line on line.order_id = $2 and line.item_id = item.id
     left join item_supplier as known on known.item_id = item.id and known.supplier_id = $3
     where item.id = any ($1::integer[]) and item.kind = 'goods'`,
    [ids, orderId, supplierId],
  );
}

export interface CameIn {
  itemId: number;
  quantity: number;
  damaged: number;
  goodsCost: number;
  freight: number;
  known: boolean;
}

/**
 * Lets goods come to a place: each line is a layer, what is broken leaves at once. Their levels are locked in the
 * order of items. @returns the layers, in the order of the lines
 */
export async function bringDelivery(
  sql: Writer,
  event: number,
  lines: readonly CameIn[],
  where: { placeId: number; supplierId: number; staffId: number; words: string; at: Date },
): Promise<number[]> {
  const { placeId, supplierId } = where;
  const moving = { event, ...where };
  await changeLevels(
    sql,
    placeId,
    lines.map(({ itemId, quantity, damaged }) => ({ itemId, change: quantity - damaged })),
  );
  const layers = await bringLayers(
    sql,
    lines.map(({ itemId, quantity, goodsCost, freight, known }) => ({
      itemId,
      placeId,
      quantity,
      cost: goodsCost + freight,
      known,
    })),
    { reason: 'received', against: 'goods-received', subject: `supplier:${supplierId}` },
    moving,
  );
  for (const [line, { itemId, damaged }] of lines.entries()) {
    if (damaged === 0) continue;
    const broken = { itemId, placeId, quantity: damaged, reason: 'damaged', against: 'shrinkage' } as const;
    await takeOfLayer(sql, layers[line] ?? 0, broken, moving);
  }
  return layers;
}

export async function addDelivery(
  sql: Writer,
  head: {
    orderId: number;
    supplierId: number;
    placeId: number;
    deliveryNote: string;
    freight: number;
    spreadBy: SpreadBy;
    event: number;
  },
  lines: readonly (CameIn & { layerId: number })[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<{ id: number; number: number }> {
  const made = one(
    await sql.query<{ id: number; number: number }>(
      `insert into goods_receipt (number, order_id, supplier_id, place_id, delivery_note, freight, spread_by,
        event_id, at, staff_id)
       values (nextval('goods_receipt_number'), $1, $2, $3, $4, $5, $6, $7, $8, $9) returning id, number`,
      [
        head.orderId,
        head.supplierId,
        head.placeId,
        head.deliveryNote,
        head.freight,
        head.spreadBy,
        head.event,
        at.toISOString(),
        staffId,
      ],
    ),
  );
  await sql.query(
    `insert into goods_receipt_line (receipt_id, position, item_id, quantity, damaged, goods_cost, freight, layer_id)
     select $1, nth, "itemId", quantity, damaged, "goodsCost", freight, "layerId"
     from rows from (jsonb_to_recordset($2) as ("itemId" integer, quantity bigint, damaged bigint, "goodsCost" bigint,
       freight bigint, "layerId" bigint))
       with ordinality as line ("itemId", quantity, damaged, "goodsCost", freight, "layerId", nth)`,
    [made.id, JSON.stringify(lines)],
  );
  await sql.query(
    `update purchase_order_line as line set received = received + came.quantity
     from goods_receipt_line as came
     where came.receipt_id = $2 and line.order_id = $1 and line.item_id = came.item_id`,
    [head.orderId, made.id],
  );
  return made;
}

/** What a unit costs from now on, with the item and with its supplier; says which items that changed. */
export async function noteUnitCosts(
  sql: Writer,
  supplierId: number,
  costs: readonly { itemId: number; cost: number; was: string; words: string }[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  const list = JSON.stringify(costs);
  await sql.query(
    `insert into item_supplier (item_id, supplier_id, rank, cost)
     select "itemId", $1, case when exists (select 1 from item_supplier
       where item_id = "itemId" and rank = 1) then 2 else 1 end, cost
     from jsonb_to_recordset($2) as paid ("itemId" integer, cost bigint) order by 1
     on conflict (item_id, supplier_id) do update set cost = excluded.cost where item_supplier.cost is distinct
       from excluded.cost`,
    [supplierId, list],
  );
  await sql.query(
    `with paid as (
       select item.id, new.cost, new.was, new.words
       from jsonb_to_recordset($1) as new ("itemId" integer, cost bigint, was text, words text)
       join item on item.id = "itemId" where item.cost is distinct from new.cost
     ), written as (
       update item set cost = paid.cost, version = version + 1 from paid where item.id = paid.id
     )
     insert into item_change (item_id, at, staff_id, what, was, became)
     select id, $2, $3, 'Cost', was, words from paid`,
    [list, at.toISOString(), staffId],
  );
}

/** Whether everything that was ordered has come. */
export async function allCame(sql: Reader, orderId: number): Promise<boolean> {
  const { all } = one(
    await sql.query<{ all: boolean }>(
      'select coalesce(bool_and(received >= quantity), false) as all from purchase_order_line where order_id = $1',
      [orderId],
    ),
  );
  return all;
}

export async function findDelivery(
  sql: Reader,
  id: number,
): Promise<(Omit<DeliveryPage, 'cost'> & { supplierId: number }) | undefined> {
  const [head] = await sql.query<Omit<DeliveryPage, 'lines' | 'cost'> & { supplierId: number }>(
    `select receipt.id, receipt.number, receipt.version, receipt.supplier_id as "supplierId",
      receipt.order_id as "orderId",
       purchase_order.number as "orderNumber", supplier.name as supplier, place.name as place, receipt.at,
         staff.name as who,
       delivery_note as "deliveryNote", freight, spread_by as "spreadBy", invoice_number as "invoiceNumber",
       invoiced_at as "invoicedAt", invoice_total as "invoiceTotal"
     from goods_receipt as receipt join supplier on supplier.id = receipt.supplier_id
       join place on place.id = receipt.place_id
     join staff on staff.id = receipt.staff_id left join purchase_order on purchase_order.id = receipt.order_id
     where receipt.id = $1`,
    [id],
  );
  if (!head) return undefined;
  const lines = await sql.query<DeliveryPage['lines'][number]>(
    `select item.id as "itemId", item.number, item.name, unit, decimals, item.serials, line.quantity, damaged,
       goods_cost as "goodsCost", freight, layer_id as "layerId",
       coalesce((select sum(back.quantity) from supplier_return
         join supplier_return_line as back on return_id = supplier_return.id
         where supplier_return.receipt_id = line.receipt_id and back.position = line.position), 0)::bigint as back
     from goods_receipt_line as line join item on item.id = item_id where line.receipt_id = $1 order by line.position`,
    [id],
  );
  return { ...head, lines, returns: await returnsOf(sql, id) };
}

/** A delivery of which something becomes, held until that is done. */
interface HeldDelivery {
  version: number;
  supplierId: number;
  placeId: number;
  spreadBy: SpreadBy;
  invoiced: boolean;
}

export async function holdDelivery(sql: Writer, id: number): Promise<HeldDelivery | undefined> {
  const [row] = await sql.query<HeldDelivery>(
    `select version, supplier_id as "supplierId", place_id as "placeId", spread_by as "spreadBy",
       invoice_number is not null as invoiced
     from goods_receipt where id = $1 for update`,
    [id],
  );
  return row;
}

export function deliveredLines(
  sql: Reader,
  id: number,
): Promise<{ position: number; quantity: number; weight: number | null; layerId: number; cost: number }[]> {
  return sql.query(
    `select position, line.quantity, weight, layer_id as "layerId", layer.cost
     from goods_receipt_line as line join item on item.id = line.item_id
       join stock_layer as layer on layer.id = layer_id
     where receipt_id = $1 order by position`,
    [id],
  );
}

/**
 * Layers turn out to have cost something else: all in one event. Everything that holds them is locked in one order
 * first.
 */
export async function correctLayers(
  sql: Writer,
  event: number | null,
  layers: readonly { layerId: number; cost: number }[],
  why: string,
  { staffId, at }: { staffId: number; at: Date },
): Promise<void> {
  await sql.query(
    `select lock_levels(array_agg(item_id), array_agg(place_id)) from (
       select item_id, place_id from stock_held where layer_id = any ($1::bigint[])
       union select item_id, place_id from stock_debt where layer_id = any ($1::bigint[])) as level`,
    [layers.map(({ layerId }) => layerId)],
  );
  for (const { layerId, cost } of layers.toSorted((a, b) => a.layerId - b.layerId))
    await sql.query('select correct_layer($1, $2, $3, $4, $5, $6)', [
      layerId,
      cost,
      at.toISOString(),
      staffId,
      why,
      event,
    ]);
}

export async function noteInvoice(
  sql: Writer,
  id: number,
  invoice: {
    number: string;
    total: number;
    event: number;
    freight: number;
    lines: readonly { position: number; goodsCost: number; freight: number }[];
  },
  at: Date,
): Promise<void> {
  await sql.query(
    `update goods_receipt set invoice_number = $2, invoice_total = $3, invoice_event = $4, invoiced_at = $5,
      freight = $6,
       version = version + 1 where id = $1`,
    [id, invoice.number, invoice.total, invoice.event, at.toISOString(), invoice.freight],
  );
  await sql.query(
    `update goods_receipt_line as line set goods_cost = paid."goodsCost", freight = paid.freight
     from jsonb_to_recordset($2) as paid (position smallint, "goodsCost" bigint, freight bigint)
     where line.receipt_id = $1 and line.position = paid.position`,
    [id, JSON.stringify(invoice.lines)],
  );
}
