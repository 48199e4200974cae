import type { ItemSupply } from '../../contract/supply.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** How an item comes, when it is ordered again, and what it cost. @param costs whether costs are told */
export async function itemSupply(sql: Reader, itemId: number, costs: boolean): Promise<ItemSupply> {
  const { supply } = one(
    await sql.query<{ supply: ItemSupply }>(
      `select json_build_object(
         'suppliers', coalesce((select json_agg(json_build_object('supplierId', supplier_id, 'supplier', supplier.name,
             'theirNumber', item_supplier.number, 'cost', case when $2 then item_supplier.cost end, 'pack', pack,
               'least', least,
             'first', rank = 1) order by rank, supplier.name)
           from item_supplier join supplier on supplier.id = supplier_id where item_id = $1), '[]'::json),
         'reorder', (select json_agg(json_build_object('placeId', place.id, 'place', place.name, 'point', point,
             'target', target, 'onOrder', coalesce((
               select sum(greatest(0, line.quantity - line.received)) from purchase_order_line as line
               join purchase_order on purchase_order.id = order_id
               where line.item_id = $1 and purchase_order.state = 'sent' and purchase_order.place_id = place.id),
                 0)) order by place.name)
           from place left join reorder_point as wanted on wanted.place_id = place.id and wanted.item_id = $1),
         'layers', case when $2 then coalesce((
             select json_agg(json_build_object('id', layer.id, 'at', layer.at, 'origin', origin, 'place', place.name,
               'quantity', layer.quantity, 'cost', layer.cost, 'known', known, 'left', lying,
               'delivery', (select json_build_object('id', receipt.id, 'number', receipt.number)
                 from goods_receipt_line as line join goods_receipt as receipt on receipt.id = receipt_id
                 where line.layer_id = layer.id)) order by layer.id)
             from (select *, coalesce((select sum(upto - after) from stock_held
               where layer_id = stock_layer.id), 0)::bigint as lying
                   from stock_layer where item_id = $1) as layer join place on place.id = place_id
             where lying > 0 or not known
               or layer.id in (select id from stock_layer where item_id = $1 order by id desc limit 3)), '[]'::json)
           else '[]'::json end,
         'worth', case when $2 then (
             select coalesce(sum(layer_cost(cost, layer.quantity, upto) - layer_cost(cost, layer.quantity, after)), 0)
               - coalesce((select sum(debt_cost(layer_id, unit_cost, after, upto)) from stock_debt
                 where item_id = $1), 0)
             from stock_held join stock_layer as layer on layer.id = layer_id where stock_held.item_id = $1) end,
         'known', coalesce((select json_agg(json_build_object('id', id, 'name', name) order by name)
           from supplier where active), '[]'::json)) as supply`,
      [itemId, costs],
    ),
  );
  return supply;
}

/** How an item comes from a supplier; the first one is ordered from. */
export async function putItemSupplier(
  sql: Writer,
  itemId: number,
  wanted: {
    supplierId: number;
    theirNumber: string;
    cost: number | null;
    pack: number;
    least: number;
    first: boolean;
  },
): Promise<void> {
  const { supplierId, theirNumber, cost, pack, least, first } = wanted;
  if (first) await sql.query('update item_supplier set rank = 2 where item_id = $1 and rank = 1', [itemId]);
  await sql.query(
    `insert into item_supplier (item_id, supplier_id, rank, number, cost, pack, least)
     values ($1, $2, case when $7 or not exists (select 1 from item_supplier
       where item_id = $1 and rank = 1) then 1 else 2 end,
             $3, $4, $5, $6)
     on conflict (item_id, supplier_id) do update
       set number = excluded.number, cost = excluded.cost, pack = excluded.pack,
       least = excluded.least, rank = case when $7 then 1 else item_supplier.rank end`,
    [itemId, supplierId, theirNumber, cost, pack, least, first],
  );
}

export async function dropItemSupplier(sql: Writer, itemId: number, supplierId: number): Promise<void> {
  await sql.query('delete from item_supplier where item_id = $1 and supplier_id = $2', [itemId, supplierId]);
  await sql.query(
    `update item_supplier set rank = 1 where (item_id, supplier_id) = (
       select item_id, supplier_id from item_supplier where item_id = $1 order by rank, supplier_id limit 1)`,
    [itemId],
  );
}

/** When an item is ordered again for a place, held until that is changed. */
export async function holdReorder(
  sql: Writer,
  itemId: number,
  placeId: number,
): Promise<{ point: number | null; target: number | null }> {
  // The item is there where nothing is set so far.
  await sql.query('select 1 from item where id = $1 for no key update', [itemId]);
  const [row] = await sql.query<{ point: number; target: number }>(
    'select point, target from reorder_point where item_id = $1 and place_id = $2',
    [itemId, placeId],
  );
  return row ?? { point: null, target: null };
}

/** When an item is ordered again for a place; nothing ends that. */
export async function putReorder(
  sql: Writer,
  itemId: number,
  placeId: number,
  wanted: { point: number; target: number } | null,
): Promise<void> {
  if (!wanted)
    await sql.query('delete from reorder_point where item_id = $1 and place_id = $2', [itemId, placeId]);
  else
    await sql.query(
      `insert into reorder_point (item_id, place_id, point, target) values ($1, $2, $3, $4)
       on conflict (item_id, place_id) do update set point = excluded.point, target = excluded.target`,
      [itemId, placeId, wanted.point, wanted.target],
    );
}

/** A layer as it is before its cost is corrected, held until that is done. */
export async function holdLayer(
  sql: Writer,
  id: number,
): Promise<{ itemId: number; cost: number; quantity: number } | undefined> {
  const [row] = await sql.query<{ itemId: number; cost: number; quantity: number }>(
    'select item_id as "itemId", cost, quantity from stock_layer where id = $1 for update',
    [id],
  );
  return row;
}
