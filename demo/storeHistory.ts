import type { Writer } from '../server/db/database.ts';

/** Stores past shifts with their sales, and what was posted for them, in a few statements. */
export async function storeHistory(
  sql: Writer,
  laid: Record<'shifts' | 'sales' | 'events' | 'tills' | 'voids', object[]>,
): Promise<void> {
  const [shifts, sales, events, tills, voids] = (
    ['shifts', 'sales', 'events', 'tills', 'voids'] as const
  ).map((of) => JSON.stringify(laid[of])) as [string, string, string, string, string];
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
                       regular, reductions, tax, total, customer_id, kind, donation, fund_id)
     select id, "tillId", "shiftId", "staffId", number, "businessDate", at,
            extract(hour from at at time zone (select timezone from shop)), currency, "taxMode", regular, reductions,
            tax, total, "customerId", kind, donation, "fundId"
     from jsonb_to_recordset($1) as one (id uuid, "tillId" integer, "shiftId" bigint, "staffId" integer,
       number integer, "businessDate" date, at timestamptz, currency text, "taxMode" text, regular bigint,
       reductions bigint, tax bigint, total bigint, "customerId" integer, kind text, donation bigint,
       "fundId" integer)`,
    [sales],
  );
  await sellCards(sql, sales);
  await sql.query(
    `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
                            regular, net, records, taxes, promise_id, promise_part, promise_position,
                            stored_value_id, return_reason, condition, return_sale, return_position)
     select (sale->>'id')::uuid, position, "itemId", (select category_id from item where id = "itemId"), number, name,
            unit, quantity, "unitPrice", regular, net, records, taxes,
            (promised->>'promiseId')::uuid, promised->>'part', (promised->>'position')::smallint,
            (select id from stored_value where stored_value.number = "storedValue"->>'number'),
            "comesBack"->>'reason', "comesBack"->>'condition', ("comesBack"->'sale'->>'saleId')::uuid,
            ("comesBack"->'sale'->>'position')::smallint
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'lines') as line (position smallint,
       "itemId" integer, number text, name text, unit text, quantity bigint, "unitPrice" bigint, regular bigint,
       net bigint, records jsonb, taxes jsonb, promised jsonb, "storedValue" jsonb, "comesBack" jsonb)`,
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
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'offerUses') as one ("offerId" integer,
       uses integer)`,
    [sales],
  );
  await sql.query(
    `insert into tender (sale_id, position, kind, amount, handed, type_id, name, account_id, reference, stored_value_id,
                         refunds_sale, refunds_position)
     select (sale->>'id')::uuid, position, kind, amount, handed, "typeId", name, "accountId", reference,
            (select id from stored_value where number = "valueNumber"), "refundsSale", "refundsPosition"
     from jsonb_array_elements($1) as sale, jsonb_to_recordset(sale->'tenders') as paid (position smallint, kind text,
       amount bigint, handed bigint, "typeId" integer, name text, "accountId" integer, reference text,
       "valueNumber" text,
       "refundsSale" uuid, "refundsPosition" smallint)`,
    [sales],
  );
  await sql.query(
    `select pay_with_values(sale) from jsonb_array_elements($1) with ordinality as listed (sale, place)
     where sale->'tenders' @? '$[*] ? (@.kind == "stored-value")' order by place`,
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
     insert into account_balance (account, subject, balance)
     select account, subject, sum(amount) from posted
     where keeps_balance(account) group by account, subject
     on conflict (account, subject) do update set balance = account_balance.balance + excluded.balance`,
    [events, before],
  );
  await takeGoodsSold(sql, sales, events, before);
  await bringBack(sql, sales, events, before);
  await sql.query(
    `select count_figures((select array_agg((sale->>'id')::uuid) from jsonb_array_elements($1) as sale), 1)`,
    [sales],
  );
  await undo(sql, voids, before);
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
     cross join jsonb_to_recordset(sale->'lines') as line ("itemId" integer, position smallint, quantity bigint,
       stocked boolean)
     where stocked and quantity > 0`,
    [sales, events, before],
  );
  await sql.query(
    `insert into stock_level (item_id, place_id, quantity)
     select "itemId", "placeId", -sum(quantity)
       from jsonb_to_recordset($1) as line ("itemId" integer, "placeId" integer, quantity bigint)
     group by 1, 2
     on conflict (item_id, place_id) do update set quantity = stock_level.quantity + excluded.quantity`,
    [lines],
  );
  await sql.query('select take_goods(null, null, $1)', [lines]);
  await sql.query(
    `select post_costs(event_id) from (select distinct (line->>'eventId')::bigint as event_id
     from jsonb_array_elements($1) as line) as event order by event_id`,
    [lines],
  );
}

/** Gift cards are there once they were paid for; they were printed long ago. */
async function sellCards(sql: Writer, sales: string): Promise<void> {
  await sql.query(
    `select sell_values(sale) from jsonb_array_elements($1) with ordinality as listed (sale, place)
     where sale->'lines' @? '$[*].storedValue' order by place`,
    [sales],
  );
  await sql.query("delete from print_job where kind = 'gift-card'");
}

/** Goods that came back, to stock or as damaged, and what they had cost. */
async function bringBack(sql: Writer, sales: string, events: string, before: number): Promise<void> {
  await sql.query(
    `select take_back((sale->>'id')::uuid, (sale->>'at')::timestamptz), move_stock(sale, $3 + event.id),
      post_costs($3 + event.id)
     from jsonb_array_elements($1) as sale
     join jsonb_to_recordset($2) as event (id bigint, kind text, "saleId" text)
       on event.kind = 'sale' and event."saleId" = sale->>'id'
     where sale->>'kind' = 'return' order by event.id`,
    [sales, events, before],
  );
}

/** Sales that were mistakes: their goods lie there again, and no figure counts them. */
async function undo(sql: Writer, voids: string, before: number): Promise<void> {
  await sql.query(
    `insert into sale_void (sale_id, state, reason, till_id, shift_id, staff_id, began_at, done_at)
     select "saleId", 'done', 'Rung up twice', "tillId", "shiftId", "staffId", "voidedAt", "voidedAt"
     from jsonb_to_recordset($1) as one ("saleId" uuid, "tillId" integer, "shiftId" bigint, "staffId" integer,
       "voidedAt" timestamptz)`,
    [voids],
  );
  await sql.query(
    `select count_void("saleId"), put_goods_back("saleId", $2 + "eventId", "voidedAt"),
      give_back_offers("saleId", "voidedAt"),
            post_costs($2 + "eventId")
     from jsonb_to_recordset($1) as one ("saleId" uuid, "eventId" bigint, "voidedAt" timestamptz) order by "eventId"`,
    [voids, before],
  );
}
