import type { DeliveryPage } from '../../contract/supply.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** What goes back of a delivery. @property position of the delivery's line, from 1 on */
interface LineBack {
  position: number;
  itemId: number;
  quantity: number;
  serials: readonly string[];
}

export async function addReturn(
  sql: Writer,
  { deliveryId, words, event }: { deliveryId: number; words: string; event: number },
  lines: readonly LineBack[],
  { staffId, at }: { staffId: number; at: Date },
): Promise<{ id: number; number: number }> {
  const made = one(
    await sql.query<{ id: number; number: number }>(
      `insert into supplier_return (number, receipt_id, words, event_id, at, staff_id)
       values (nextval('supplier_return_number'), $1, $2, $3, $4, $5) returning id, number`,
      [deliveryId, words, event, at.toISOString(), staffId],
    ),
  );
  await sql.query(
    `insert into supplier_return_line (return_id, position, item_id, quantity, serials)
     select $1, position, "itemId", quantity, serials
     from jsonb_to_recordset($2) as line (position smallint, "itemId" integer, quantity bigint, serials text[])`,
    [made.id, JSON.stringify(lines)],
  );
  return made;
}

/** What went back of a delivery, oldest first. */
export function returnsOf(sql: Reader, deliveryId: number): Promise<DeliveryPage['returns']> {
  return sql.query(
    `select back.id, back.number, back.at, staff.name as who, back.words,
       (select coalesce(-sum(cost), 0)::bigint from stock_move where event_id = back.event_id) as cost,
       (select json_agg(json_build_object('number', item.number, 'name', item.name, 'unit', unit, 'quantity', quantity,
          'serials', line.serials) order by position)
        from supplier_return_line as line join item on item.id = item_id where return_id = back.id) as lines
     from supplier_return as back join staff on staff.id = back.staff_id where receipt_id = $1 order by back.id`,
    [deliveryId],
  );
}

export async function deliveryOfReturn(sql: Reader, id: number): Promise<number | undefined> {
  const [row] = await sql.query<{ id: number }>(
    'select receipt_id as id from supplier_return where id = $1',
    [id],
  );
  return row?.id;
}
