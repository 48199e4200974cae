import type { SupplierItem, SupplierRow, WantedSupplier } from '../../contract/supply.ts';
import { asking } from '../db/asked.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { says } from '../db/words.ts';

/** What is to come of open orders, at what was agreed or is known of it. */
const TO_COME = `coalesce((select sum(round(coalesce(line.unit_cost, 0)::numeric * greatest(0,
  line.quantity - line.received) / 1000))
  from purchase_order join purchase_order_line as line on line.order_id = purchase_order.id
  where purchase_order.supplier_id = supplier.id and purchase_order.state = 'sent'), 0)::bigint`;

export function listSuppliers(sql: Reader, find: string): Promise<SupplierRow[]> {
  const { given, ask } = asking();
  const named = says("concat_ws(' ', name, contact, city, number)", find, ask);
  return sql.query<SupplierRow>(
    `select id, number, name, active,
       (select count(*)::integer from item_supplier where supplier_id = supplier.id) as items,
       (select count(*)::integer from purchase_order where supplier_id = supplier.id and state = 'sent') as orders,
       ${TO_COME} as "toCome",
       (select max(at) from goods_receipt where supplier_id = supplier.id) as "lastDelivery"
     from supplier where ${named} order by active desc, name`,
    given,
  );
}

/** Suppliers that are dealt with, for choices. */
export const activeSuppliers = (sql: Reader): Promise<{ id: number; name: string }[]> =>
  sql.query('select id, name from supplier where active order by name');

export interface StoredSupplier {
  id: number;
  number: number;
  version: number;
  addedAt: string;
  record: WantedSupplier;
}

export async function findSupplier(sql: Reader, id: number): Promise<StoredSupplier | undefined> {
  const [row] = await sql.query<StoredSupplier>(
    `select id, number, version, added_at as "addedAt",
       json_build_object('name', name, 'active', active, 'contact', contact, 'email', email, 'phone', phone,
         'street', street, 'postcode', postcode, 'city', city, 'account', account, 'daysToPay', days_to_pay,
         'leadDays', lead_days, 'words', words) as record
     from supplier where id = $1`,
    [id],
  );
  return row;
}

export async function supplierNamed(sql: Reader, name: string): Promise<number | undefined> {
  const [row] = await sql.query<{ id: number }>('select id from supplier where lower(name) = lower($1)', [
    name,
  ]);
  return row?.id;
}

export async function addSupplier(sql: Writer, wanted: WantedSupplier, at: Date): Promise<number> {
  return one(
    await sql.query<{ id: number }>(
      `insert into supplier (number, name, active, contact, email, phone, street, postcode, city, account, days_to_pay,
                             lead_days, words, added_at)
       select nextval('supplier_number'), name, active, contact, email, phone, street, postcode, city, account,
         "daysToPay",
              "leadDays", words, $2
       from jsonb_to_record($1) as wanted (name text, active boolean, contact text, email text, phone text, street text,
         postcode text, city text, account text, "daysToPay" integer, "leadDays" integer, words text)
       returning id`,
      [JSON.stringify(wanted), at.toISOString()],
    ),
  ).id;
}

/** @returns false where somebody else changed it meanwhile */
export async function putSupplier(
  sql: Writer,
  id: number,
  wanted: WantedSupplier,
  version: number,
): Promise<boolean> {
  const rows = await sql.query(
    `update supplier set name = wanted.name, active = wanted.active, contact = wanted.contact, email = wanted.email,
       phone = wanted.phone, street = wanted.street, postcode = wanted.postcode, city = wanted.city,
       account = wanted.account, days_to_pay = "daysToPay", lead_days = "leadDays", words = wanted.words,
       version = version + 1
     from jsonb_to_record($3) as wanted (name text, active boolean, contact text, email text, phone text, street text,
       postcode text, city text, account text, "daysToPay" integer, "leadDays" integer, words text)
     where id = $1 and version = $2 returning id`,
    [id, version, JSON.stringify(wanted)],
  );
  return rows.length > 0;
}

export function itemsOfSupplier(sql: Reader, id: number): Promise<SupplierItem[]> {
  return sql.query<SupplierItem>(
    `select item_id as "itemId", item.number, item.name, unit, item_supplier.number as "theirNumber",
        item_supplier.cost, pack, least,
       rank = 1 as first
     from item_supplier join item on item.id = item_id where supplier_id = $1 order by item.name, item.id`,
    [id],
  );
}

/** What is owed to a supplier, and what came without an invoice, as the books have it. */
export async function owedTo(sql: Reader, id: number): Promise<{ notInvoiced: number; owed: number }> {
  return one(
    await sql.query<{ notInvoiced: number; owed: number }>(
      `select coalesce(-sum(amount) filter (where account = 'goods-received'), 0)::bigint as "notInvoiced",
              coalesce(-sum(amount) filter (where account = 'suppliers'), 0)::bigint as owed
       from ledger_entry where account in ('goods-received', 'suppliers') and subject = 'supplier:' || $1::integer`,
      [id],
    ),
  );
}

/** How each order came, for how reliable a supplier is. */
export function pastOrders(
  sql: Reader,
  id: number,
): Promise<{ ordered: number; received: number; days: number | null }[]> {
  return sql.query(
    `select sum(line.quantity)::bigint as ordered, sum(least(line.received, line.quantity))::bigint as received,
       (select extract(day from max(at) - purchase_order.sent_at)::integer from goods_receipt
         where order_id = purchase_order.id) as days
     from purchase_order join purchase_order_line as line on line.order_id = purchase_order.id
     where supplier_id = $1 and (state = 'closed' or exists (select 1 from goods_receipt
       where order_id = purchase_order.id))
     group by purchase_order.id`,
    [id],
  );
}
