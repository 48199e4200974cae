import type { Writer } from '../server/db/database.ts';

/** Stores past shifts with their sales, and what was posted for them, in a few statements. */
export async function storeHistory(
  sql: Writer,
  laid: { shifts: object[]; sales: object[]; events: object[]; tills: object[] },
): Promise<void> {
  const [shifts = '', sales = '', events = '', tills = ''] = Object.values(laid).map((list) =>
    JSON.stringify(list),
  );
  await sql.query(
    `insert into shift (id, till_id, number, state, opened_at, opened_by, opening_pieces, opening_float, closed_at,
                        closed_by, closing)
     overriding system value
     select "shiftId", "tillId", number, 'closed', "openedAt", "staffId", opening, float, "closedAt", "staffId", closing
     from jsonb_to_recordset($1) as one ("shiftId" bigint, "tillId" integer, number integer, "openedAt" timestamptz,
       "staffId" integer, opening jsonb, float bigint, "closedAt" timestamptz, closing jsonb)`,
    [shifts],
  );
  await sql.query(
    `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency, tax_mode,
                       regular, reductions, tax, total, customer_id)
     select id, "tillId", "shiftId", "staffId", number, "businessDate", at,
            extract(hour from at at time zone (select timezone from shop)), currency, "taxMode", regular, reductions,
            tax, total, "customerId"
     from jsonb_to_recordset($1) as one (id uuid, "tillId" integer, "shiftId" bigint, "staffId" integer,
       number integer, "businessDate" date, at timestamptz, currency text, "taxMode" text, regular bigint,
       reductions bigint, tax bigint, total bigint, "customerId" integer)`,
    [sales],
  );
  await sql.query(
    `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price, regular, net, records,
                            taxes, promise_id, promise_part, promise_position)
     select (sale->>'id')::uuid, position, "itemId", (select category_id from item where id = "itemId"), number, name, unit, quantity, "unitPrice", regular, net, records, taxes,
            (promised->>'promiseId')::uuid, promised->>'part', (promised->>'position')::smallint
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'lines') as line (position smallint,
       "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint, regular bigint,
       net bigint, records jsonb, taxes jsonb, promised jsonb)`,
    [sales],
  );
  await sql.query(
    `insert into sale_tax (sale_id, position, tax_rate_id, name, rate, base, tax)
     select (sale->>'id')::uuid, position, "rateId", name, rate, base, tax
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'taxes') as amount (position smallint,
       "rateId" integer, name text, rate integer, base bigint, tax bigint)`,
    [sales],
  );
  await sql.query(
    `insert into offer_use (offer_id, sale_id, customer_id, uses, at)
     select "offerId", (sale->>'id')::uuid, (sale->>'customerId')::integer, uses, (sale->>'at')::timestamptz
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'offerUses') as one ("offerId" integer, uses integer)`,
    [sales],
  );
  await sql.query(
    `insert into tender (sale_id, position, kind, amount, handed, type_id, name, account_id, reference)
     select one.id, 1, type.kind, total, handed, type.id,
       concat_ws(', ', type.name, "accountName", nullif(one.reference, '')), "accountId", one.reference
     from jsonb_to_recordset($1) as one (id uuid, total bigint, handed bigint, "accountId" integer, "accountName" text,
       reference text)
     join tender_type as type on type.kind = case when "accountId" is null then 'cash' else 'account' end
     where total > 0`,
    [sales],
  );
  // Behind what was posted before: the balances that customers began with.
  const [{ before = 0 } = {}] = await sql.query<{ before: number }>(
    'select coalesce(max(id), 0)::bigint as before from ledger_event',
  );
  await sql.query(
    `insert into ledger_event (id, kind, at, staff_id, till_id, sale_id, shift_id) overriding system value
     select $2 + id, kind, at, "staffId", "tillId", "saleId", "shiftId"
     from jsonb_to_recordset($1) as event (id bigint, kind text, at timestamptz, "staffId" integer,
       "tillId" integer, "saleId" uuid, "shiftId" bigint)`,
    [events, before],
  );
  await sql.query(
    `with posted as (
       insert into ledger_entry (event_id, position, account, subject, amount)
       select $2 + (event->>'id')::bigint, position, entry->>'account', entry->>'subject', (entry->>'amount')::bigint
       from jsonb_array_elements($1) as event,
            jsonb_array_elements(event->'entries') with ordinality as listed (entry, position)
       returning account, subject, amount
     )
     insert into account_balance as held (account, subject, balance)
     select account, subject, sum(amount) from posted
     where keeps_balance(account) group by account, subject
     on conflict (account, subject) do update set balance = held.balance + excluded.balance`,
    [events, before],
  );
  await takeGoodsSold(sql, sales, events, before);
  await sql.query(
    `select count_figures((select array_agg((sale->>'id')::uuid) from jsonb_array_elements($1) as sale), 1)`,
    [sales],
  );
  await sql.query(
    `update till set next_receipt = receipt + 1, next_shift = shift + 1
     from jsonb_to_recordset($1) as one (id integer, receipt integer, shift integer) where till.id = one.id`,
    [tills],
  );
  for (const table of ['shift', 'ledger_event']) {
    await sql.query(
      `select setval(pg_get_serial_sequence('${table}', 'id'), (select greatest(max(id), 1) from ${table}),
                     (select count(*) > 0 from ${table}))`,
    );
  }
}

/** Goods that were sold leave first in, first out, and what they cost is posted with their sales. */
async function takeGoodsSold(sql: Writer, sales: string, events: string, before: number): Promise<void> {
  const [{ lines = '[]' } = {}] = await sql.query<{ lines: string }>(
    `select coalesce(jsonb_agg(jsonb_build_object('itemId', "itemId", 'placeId', sale->'placeId', 'position', position,
         'quantity', quantity, 'reason', 'sale', 'against', 'cost-of-goods', 'saleId', sale->'id', 'at', sale->'at',
         'eventId', $3 + event.id) order by event.id, position), '[]')::text as lines
     from jsonb_array_elements($1) as sale
     join jsonb_to_recordset($2) as event (id bigint, kind text, "saleId" text)
       on event.kind = 'sale' and event."saleId" = sale->>'id'
     cross join jsonb_to_recordset(sale->'lines') as line ("itemId" integer, position smallint, quantity bigint, stocked boolean)
     where stocked`,
    [sales, events, before],
  );
  await sql.query(
    `insert into stock_level as held (item_id, place_id, quantity)
     select "itemId", "placeId", -sum(quantity) from jsonb_to_recordset($1) as line ("itemId" integer, "placeId" integer, quantity bigint)
     group by 1, 2
     on conflict (item_id, place_id) do update set quantity = held.quantity + excluded.quantity`,
    [lines],
  );
  await sql.query('select take_goods(null, null, $1)', [lines]);
  await sql.query(
    `select post_costs(event_id) from (select distinct (line->>'eventId')::bigint as event_id
     from jsonb_array_elements($1) as line) as event order by event_id`,
    [lines],
  );
}
