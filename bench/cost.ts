import type { Database, Writer } from '../server/db/database.ts';
import { takeIn } from '../server/supply/deliveries.ts';
import { beginOrder, changeOrder, orderPage } from '../server/supply/orders.ts';
import { addSupplier } from '../server/supply/suppliers.ts';
import { supplierSchema } from '../contract/supply.ts';
import { openEvent } from '../server/books/store.ts';
import type { Serving } from '../server/serve.ts';
import { onBothEngines } from './bothEngines.ts';
import { figure, inTurn, median, type Figure } from './measure.ts';

const LINES = 500;
const USES = 10_000;
const TRANSFERS = 1_000;
const ROUNDS = 12;
const AT = new Date('2026-03-02T15:00:00Z');

const goal = { words: 'at most 2 times the floor', met: (_value: number, ratio: number) => ratio <= 2 };

/** Items of their own, so that each measurement has the same rows. @returns their ids, which follow each other */
async function addItems(database: Database, count: number): Promise<number[]> {
  const rows = await database.write((sql) =>
    sql.query<{ id: number }>(
      `insert into item (number, name, category_id, tax_category_id, price, cost)
       select gen_random_uuid(), 'Screw ' || n, (select min(id) from category), (select min(id) from tax_category),
         300, 100
       from generate_series(1, $1::integer) as n returning id`,
      [count],
    ),
  );
  return rows.map(({ id }) => id);
}

/** A delivery of 500 lines; the floor writes the rows of layers, spans, moves, levels and lines bare. */
export const receive500 = (): Promise<Figure[]> =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    const items = await addItems(database, LINES);
    const staffId = 1;
    const by = { staffId, at: AT };
    const { id: supplierId } = await database.write(async (sql) =>
      addSupplier(sql, await supplierSchema.validate({ name: 'Bench & Sons' }), AT),
    );
    const lines = items.map((itemId) => ({ itemId, quantity: 12_000, unitCost: 100, reason: '' }));
    const [whole, bare] = await inTurn(
      ROUNDS,
      () =>
        database.write(async (sql) => {
          const { id } = await beginOrder(sql, { supplierId, placeId: 1, suggested: false, cover: 0 }, by);
          await changeOrder(sql, id, { version: 2, expectedOn: '', words: '', lines });
          const { version } = await orderPage(sql, id);
          return takeIn(
            sql,
            id,
            {
              version,
              deliveryNote: '',
              freight: 50_00,
              spreadBy: 'value',
              lines: lines.map(({ itemId, quantity, unitCost }) => ({
                itemId,
                quantity,
                unitCost,
                damaged: 0,
                serials: [],
              })),
            },
            by,
          );
        }),
      () => database.write((sql) => bareReceipt(sql, supplierId, lines)),
    );
    return [figure(`receive-500 ${engine}`, 'ms median', median(whole), median(bare), ROUNDS, goal)];
  });

/** The rows of an order and its delivery, without asking anything first. */
async function bareReceipt(
  sql: Writer,
  supplierId: number,
  lines: readonly { itemId: number; quantity: number; unitCost: number }[],
): Promise<void> {
  const list = JSON.stringify(lines);
  const of = `jsonb_to_recordset($1) as line ("itemId" integer, quantity bigint, "unitCost" bigint)`;
  const event = await openEvent(sql, { kind: 'receipt', at: AT, staffId: 1 });
  const [order] = await sql.query<{ id: number }>(
    `insert into purchase_order (number, supplier_id, place_id, state, made_at, made_by)
     values (nextval('purchase_order_number'), $1, 1, 'draft', now(), 1) returning id`,
    [supplierId],
  );
  await sql.query(
    `insert into purchase_order_line (order_id, position, item_id, quantity, unit_cost, received)
     select $2, row_number() over (), "itemId", quantity, "unitCost", quantity from ${of}`,
    [list, order?.id ?? 0],
  );
  await sql.query(
    `insert into stock_level (item_id, place_id, quantity) select "itemId", 1, quantity from ${of}
     on conflict (item_id, place_id) do update set quantity = stock_level.quantity + excluded.quantity`,
    [list],
  );
  await sql.query(
    `insert into stock_layer (item_id, quantity, cost, place_id, origin, known, at)
     select "itemId", quantity, "unitCost" * 12, 1, 'received', true, now() from ${of}`,
    [list],
  );
  await sql.query(
    `insert into stock_held (place_id, item_id, layer_id, after, upto)
     select 1, item_id, id, 0, quantity from stock_layer order by id desc limit ${LINES}`,
  );
  await sql.query(
    `insert into stock_move (item_id, place_id, quantity, reason, at, event_id, layer_id, upto, cost, against)
     select item_id, 1, quantity, 'received', now(), $1, id, quantity, cost, 'goods-received'
     from stock_layer order by id desc limit ${LINES}`,
    [event],
  );
  const [receipt] = await sql.query<{ id: number }>(
    `insert into goods_receipt (number, order_id, supplier_id, place_id, event_id, at, staff_id)
     values (nextval('goods_receipt_number'), $1, $2, 1, $3, now(), 1) returning id`,
    [order?.id ?? 0, supplierId, event],
  );
  await sql.query(
    `insert into goods_receipt_line (receipt_id, position, item_id, quantity, goods_cost, layer_id)
     select $1, row_number() over (order by id), item_id, quantity, cost, id
     from (select * from stock_layer order by id desc limit ${LINES}) as layer`,
    [receipt?.id ?? 0],
  );
}

/** A layer of its own at the shop. @returns its item and its number */
async function addLayer(sql: Writer, itemId: number, quantity: number): Promise<number> {
  await sql.query('select lock_levels(array[$1::integer], array[1])', [itemId]);
  const event = await openEvent(sql, { kind: 'stock', at: AT });
  const [row] = await sql.query<{ laid: number[] }>('select bring_layers($1, $2, $3, $4) as laid', [
    event,
    AT.toISOString(),
    JSON.stringify([{ itemId, placeId: 1, quantity, cost: quantity }]),
    JSON.stringify({ reason: 'received', against: 'goods-received' }),
  ]);
  return row?.laid[0] ?? 0;
}

/** What a correction reads and writes, in plain statements. */
async function bareCorrection(sql: Writer, layer: number, cost: number): Promise<void> {
  const event = await openEvent(sql, { kind: 'cost-corrected', at: AT });
  await sql.query(
    `with change as (
       select place_id, against, sum(sign(quantity) * (layer_cost($2, size, upto) - layer_cost($2, size,
         upto - abs(quantity))
           - layer_cost(was, size, upto) + layer_cost(was, size, upto - abs(quantity))))::bigint as amount
       from (select move.*, layer.quantity as size, layer.cost as was from stock_move as move
             join stock_layer as layer on layer.id = layer_id where layer_id = $1 and move.quantity <> 0) as move
               group by 1, 2)
     insert into stock_move (item_id, place_id, quantity, reason, at, event_id, layer_id, upto, cost, against)
     select (select item_id from stock_layer where id = $1), place_id, 0, 'revalued', now(), $3, $1, 1, amount,
       against from change`,
    [layer, cost, event],
  );
  await sql.query('update stock_layer set cost = $2 where id = $1', [layer, cost]);
}

const correction = (uses: (sql: Writer, itemId: number) => Promise<void>, name: string) =>
  onBothEngines(async (serving: Serving, engine: string) => {
    const { database } = serving.house;
    const [itemId = 0] = await addItems(database, 1);
    const layer = await database.write(async (sql) => {
      const laid = await addLayer(sql, itemId, (USES + TRANSFERS) * 1000);
      await uses(sql, itemId);
      return laid;
    });
    await database.ask((sql) => sql.query('analyze'));
    const [corrected, bare] = await inTurn(
      ROUNDS,
      (round) =>
        database.write((sql) =>
          sql.query('select correct_layer($1, $2, $3, 1, $4)', [
            layer,
            10_000_000 + round,
            AT.toISOString(),
            'bench',
          ]),
        ),
      (round) => database.write((sql) => bareCorrection(sql, layer, 20_000_000 + round)),
    );
    return [figure(`${name} ${engine}`, 'ms median', median(corrected), median(bare), ROUNDS, goal)];
  });

/** Correcting what a layer with 10,000 uses cost. */
export const reflow10k = (): Promise<Figure[]> =>
  correction(async (sql, itemId) => {
    const event = await openEvent(sql, { kind: 'stock', at: AT });
    const line = { itemId, placeId: 1, quantity: 1000, reason: 'own-use', against: 'own-use' };
    await sql.query('select take_goods($1, $2, $3)', [
      event,
      AT.toISOString(),
      JSON.stringify(Array.from({ length: USES }, () => line)),
    ]);
  }, 'reflow-10k');

/** Correcting a layer that was sent to another place in 1,000 transfers. */
export const reflowTransfers = (): Promise<Figure[]> =>
  correction(async (sql, itemId) => {
    for (let nth = 0; nth < TRANSFERS; nth += 1) {
      const [row] = await sql.query<{ id: number }>(
        `insert into stock_transfer (from_place, to_place, state, asked_at, asked_by)
          values (1, 2, 'asked', now(), 1) returning id`,
      );
      await sql.query(
        'insert into stock_transfer_line (transfer_id, position, item_id, quantity) values ($1, 1, $2, 1000)',
        [row?.id ?? 0, itemId],
      );
      await sql.query('select send_transfer($1, $2, 1)', [row?.id ?? 0, AT.toISOString()]);
      await sql.query('select take_in_transfer($1, $2, $3, 1)', [
        row?.id ?? 0,
        JSON.stringify([{ position: 1, quantity: 1000 }]),
        AT.toISOString(),
      ]);
    }
  }, 'reflow-transfers');
