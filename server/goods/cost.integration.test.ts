import fc from 'fast-check';
import { v4 as newKey } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CostReplay, EstimateError, type Step } from '../../core/goods/testing/costReplay.ts';
import type { Writer } from '../db/database.ts';
import { COST_CHECKS } from '../books/costChecks.ts';
import { verify } from '../books/verify.ts';
import { ENGINE, openDrawer, openHouse, type TestHouse } from '../testing/testHouse.ts';

let test: TestHouse;
let shift: { id: number; tillId: number; staffId: number };
let number = 1_000_000;
beforeAll(async () => {
  test = await openHouse();
  const noor = test.browser();
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  const [open] = await test.house.database.ask((sql) =>
    sql.query<typeof shift>(
      `select id, till_id as "tillId", opened_by as "staffId" from shift where state = 'open'`,
    ),
  );
  if (!open) throw new Error('no shift');
  shift = open;
});
afterAll(() => test.stop());

const AT = '2026-03-02T15:00:00Z';

/**
 * A shop of two items and three places that nobody else touches, driven by the functions that sales and receipts
 * call.
 */
class Shop {
  readonly #items: number[] = [];
  readonly #places: number[] = [];
  readonly #layers: number[] = [];
  readonly #sales: { id: string; item: number; place: number }[] = [];
  readonly #transfers: number[] = [];
  readonly #sql: Writer;

  constructor(sql: Writer) {
    this.#sql = sql;
  }

  async open(): Promise<this> {
    const name = newKey().slice(0, 8);
    const places = await this.#sql.query<{ id: number }>(
      `insert into place (name, kind) select $1 || n, 'stock' from generate_series(1, 3) as n returning id`,
      [name],
    );
    const items = await this.#sql.query<{ id: number }>(
      `insert into item (number, name, category_id, tax_category_id, price)
       select $1 || n, 'Screw', (select min(id) from category), (select min(id) from tax_category), 100
       from generate_series(1, 2) as n returning id`,
      [name],
    );
    this.#places.push(...places.map(({ id }) => id));
    this.#items.push(...items.map(({ id }) => id));
    return this;
  }

  #one<T>(list: readonly T[], at: number): T {
    const found = list[at];
    if (found === undefined) throw new Error(`there is no ${at}`);
    return found;
  }

  async #event(kind: string, saleId?: string): Promise<number> {
    const [row] = await this.#sql.query<{ id: number }>('select open_event($1) as id', [
      JSON.stringify({ kind, at: AT, staffId: shift.staffId, saleId }),
    ]);
    return row?.id ?? 0;
  }

  async #level(item: number, place: number, change: number): Promise<void> {
    await this.#sql.query('select lock_levels(array[$1::integer], array[$2::integer])', [item, place]);
    await this.#sql.query(
      'update stock_level set quantity = quantity + $3 where item_id = $1 and place_id = $2',
      [item, place, change],
    );
  }

  async #sell(line: { itemId: number; quantity: number; comesBack?: object }, place: number, back?: string) {
    const id = newKey();
    number += 1;
    await this.#sql.query(
      `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
        tax_mode, regular, reductions, tax, total)
       values ($1, $2, $3, $4, $5, '2026-03-02', $6, 12, 'USD', 'on-top', 0, 0, 0, 0)`,
      [id, shift.tillId, shift.id, shift.staffId, number, AT],
    );
    await this.#sql.query(
      `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
        regular, net, return_reason, condition, return_sale, return_position)
       values ($1, 1, $2, 1, '', '', 'each', $3, 0, 0, 0, $4, $5, $6, $7)`,
      [
        id,
        line.itemId,
        line.quantity,
        back ? 'Broken' : null,
        back ? 'to-stock' : null,
        back ?? null,
        back ? 1 : null,
      ],
    );
    const event = await this.#event('sale', id);
    await this.#sql.query('select move_stock($1, $2)', [
      JSON.stringify({ id, placeId: place, at: AT, lines: [{ position: 1, stocked: true, ...line }] }),
      event,
    ]);
    await this.#sql.query('select post_costs($1)', [event]);
    return id;
  }

  async do(step: Step): Promise<void> {
    const sql = this.#sql;
    switch (step.kind) {
      case 'receive': {
        const [itemId, placeId] = [this.#one(this.#items, step.item), this.#one(this.#places, step.place)];
        await this.#level(itemId, placeId, step.quantity);
        const event = await this.#event('stock');
        const [row] = await sql.query<{ laid: number[] }>('select bring_layers($1, $2, $3, $4) as laid', [
          event,
          AT,
          JSON.stringify([{ itemId, placeId, quantity: step.quantity, cost: step.cost }]),
          JSON.stringify({ reason: 'received', against: 'goods-received' }),
        ]);
        this.#layers.push(...(row?.laid ?? []));
        await sql.query('select post_costs($1)', [event]);
        return;
      }
      case 'sell': {
        const [item, place] = [this.#one(this.#items, step.item), this.#one(this.#places, step.place)];
        const id = await this.#sell({ itemId: item, quantity: step.quantity }, place);
        this.#sales.push({ id, item, place });
        return;
      }
      case 'damage': {
        const [itemId, placeId] = [this.#one(this.#items, step.item), this.#one(this.#places, step.place)];
        await this.#level(itemId, placeId, -step.quantity);
        const event = await this.#event('stock');
        await sql.query('select take_goods($1, $2, $3)', [
          event,
          AT,
          JSON.stringify([
            { itemId, placeId, quantity: step.quantity, reason: 'damaged', against: 'shrinkage' },
          ]),
        ]);
        await sql.query('select post_costs($1)', [event]);
        return;
      }
      case 'return': {
        const sale = this.#one(this.#sales, step.sale);
        const comesBack = {
          condition: step.damaged ? 'damaged' : 'to-stock',
          sale: { saleId: sale.id, position: 1 },
        };
        const line = { itemId: sale.item, quantity: -step.quantity, comesBack };
        await this.#sell(line, this.#one(this.#places, step.place), sale.id);
        return;
      }
      case 'void': {
        const { id } = this.#one(this.#sales, step.sale);
        const event = await this.#event('void', id);
        await sql.query('select put_goods_back($1, $2, $3)', [id, event, AT]);
        await sql.query('select post_costs($1)', [event]);
        return;
      }
      case 'send': {
        const [row] = await sql.query<{ id: number }>(
          `insert into stock_transfer (from_place, to_place, state, asked_at, asked_by)
            values ($1, $2, 'asked', $3, $4) returning id`,
          [this.#one(this.#places, step.from), this.#one(this.#places, step.to), AT, shift.staffId],
        );
        const id = row?.id ?? 0;
        await sql.query(
          'insert into stock_transfer_line (transfer_id, position, item_id, quantity) values ($1, 1, $2, $3)',
          [id, this.#one(this.#items, step.item), step.quantity],
        );
        await sql.query('select send_transfer($1, $2, $3)', [id, AT, shift.staffId]);
        this.#transfers.push(id);
        return;
      }
      case 'arrive':
        await sql.query('select take_in_transfer($1, $2, $3, $4)', [
          this.#one(this.#transfers, step.transfer),
          JSON.stringify([{ position: 1, quantity: step.quantity }]),
          AT,
          shift.staffId,
        ]);
        return;
      case 'correct':
        await sql.query('select correct_layer($1, $2, $3, $4, $5)', [
          this.#one(this.#layers, step.receipt),
          step.cost,
          AT,
          shift.staffId,
          'the invoice',
        ]);
    }
  }

  /** Balances of what this shop posted, its places by their order. */
  async balances(): Promise<Record<string, number>> {
    const rows = await this.#sql.query<{ account: string; amount: number }>(
      `select case account when 'stock' then 'stock place:' || array_position($2::integer[],
        substr(subject, 7)::integer) - 1
              else account end as account, sum(amount)::bigint as amount
       from ledger_entry where event_id in (select event_id from stock_move where item_id = any ($1::integer[]))
         and account in ('stock', 'stock-on-way', 'cost-of-goods', 'shrinkage')
       group by 1 having sum(amount) <> 0`,
      [this.#items, this.#places],
    );
    return Object.fromEntries(rows.map(({ account, amount }) => [account, amount]));
  }

  async whereabouts(): Promise<Record<string, string>> {
    const rows = await this.#sql.query<{ key: string; units: string }>(
      `select array_position($1::integer[], item_id) - 1 || '/' || array_position($2::integer[], place_id) - 1 as key,
              string_agg(array_position($3::bigint[], layer_id) - 1 || ':' || nth, ' ' order by layer_id, nth) as units
       from stock_held, generate_series(after + 1, upto) as nth
       where item_id = any ($1::integer[]) group by item_id, place_id`,
      [this.#items, this.#places, this.#layers],
    );
    return Object.fromEntries(rows.map(({ key, units }) => [key, units]));
  }

  /** What `verify` would find of stock and its cost. */
  async wrong(): Promise<string[]> {
    return (await verify(this.#sql, COST_CHECKS)).map(({ check, what }) => `${check}: ${what}`);
  }
}

const small = (most: number) => fc.integer({ min: 1, max: most });
const pick = (count: number) => fc.nat(count - 1);
const cost = fc.oneof(fc.integer({ min: -40, max: 900 }), fc.constantFrom(0, 1, 2_000_000_000));
const wish = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      kind: fc.constant('receive'),
      item: pick(2),
      place: pick(3),
      quantity: small(9),
      cost,
    }),
  },
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant('sell'),
      item: pick(2),
      place: pick(3),
      quantity: small(7),
      cost,
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('damage'),
      item: pick(2),
      place: pick(3),
      quantity: small(3),
      cost,
    }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('return'),
      item: fc.nat(),
      place: fc.nat(8),
      quantity: small(5),
      cost,
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('void'),
      item: fc.nat(),
      place: pick(3),
      quantity: small(5),
      cost,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('send'),
      item: pick(2),
      place: pick(3),
      quantity: small(5),
      cost,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('arrive'),
      item: fc.nat(),
      place: pick(3),
      quantity: fc.nat(5),
      cost,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('correct'),
      item: fc.nat(),
      place: pick(3),
      quantity: small(5),
      cost,
    }),
  },
);
type Wish = typeof wish extends fc.Arbitrary<infer T> ? T : never;

/** Sales of which goods came back, and those that were voided: neither is voided. */
interface Left {
  returned: Set<number>;
  voided: Set<number>;
}

/** What of a wish can be done now. */
function stepOf({ kind, item, place, quantity, cost: worth }: Wish, so: CostReplay, left: Left): Step | null {
  const sale = so.sales.length > 0 ? item % so.sales.length : -1;
  const units = so.sales[sale]?.units.length ?? 0;
  switch (kind) {
    case 'receive':
      return { kind, item, place, quantity, cost: worth };
    case 'sell':
    case 'damage':
      return { kind, item, place, quantity };
    case 'return': {
      if (units === 0 || left.voided.has(sale)) return null;
      const where = place < 3 ? place : (so.sales[sale]?.place ?? 0);
      return { kind, sale, place: where, quantity: Math.min(quantity, units), damaged: quantity === 5 };
    }
    case 'void': {
      if (units === 0 || left.voided.has(sale) || left.returned.has(sale)) return null;
      return { kind, sale };
    }
    case 'send':
      return { kind, item, from: place, to: (place + 1) % 3, quantity };
    case 'arrive': {
      const open = so.transfers.findIndex((transfer) => transfer.units.length > 0);
      return open < 0
        ? null
        : { kind, transfer: open, quantity: Math.min(quantity, so.transfers[open]?.units.length ?? 0) };
    }
    case 'correct':
      return so.receipts.length > 0 ? { kind, receipt: item % so.receipts.length, cost: worth } : null;
    default:
      return null;
  }
}

/** Plays wishes in a shop that is undone afterwards, and compares it with the replay after each step or at the end. */
async function play(
  wishes: readonly Wish[],
  look: (shop: Shop, so: CostReplay) => Promise<void>,
): Promise<void> {
  const undo = new Error('undone');
  const done = test.house.database.write(async (sql) => {
    const shop = await new Shop(sql).open();
    const so = new CostReplay();
    const left: Left = { returned: new Set(), voided: new Set() };
    for (const one of wishes) {
      const step = stepOf(one, so, left);
      if (!step) continue;
      try {
        so.do(step);
      } catch (error) {
        if (error instanceof EstimateError) continue;
        throw error;
      }
      if (step.kind === 'void') left.voided.add(step.sale);
      if (step.kind === 'return') left.returned.add(step.sale);
      await shop.do(step);
    }
    await look(shop, so);
    throw undo;
  });
  await done.catch((error: unknown) => {
    if (error !== undo) throw error;
  });
}

describe(`what goods cost, first in, first out, on ${ENGINE}`, () => {
  it('is what a replay of every thousandth with the costs that turned out to be right says', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(wish, { minLength: 5, maxLength: 40 }), (wishes) =>
        play(wishes, async (shop, so) => {
          expect(await shop.whereabouts()).toEqual(so.whereabouts());
          expect(await shop.balances()).toEqual(so.balances());
          expect(await shop.wrong()).toEqual([]);
        }),
      ),
      { numRuns: 60 },
    );
  });

  it('stays right when goods are sold, come back elsewhere and are owed while their cost is corrected', async () => {
    const { database } = test.house;
    const shop = await database.write(async (sql) => {
      const [item] = await sql.query<{ id: number }>(
        `insert into item (number, name, category_id, tax_category_id, price)
         values ('RACE-1', 'Screw', (select min(id) from category), (select min(id) from tax_category), 100)
           returning id`,
      );
      const places = await sql.query<{ id: number }>('select id from place order by id limit 3');
      return { item: item?.id ?? 0, places: places.map(({ id }) => id) };
    });
    const [here = 0, there = 0, elsewhere = 0] = shop.places;
    const layer = await database.write(async (sql) => {
      await sql.query('select lock_levels(array[$1::integer], array[$2::integer])', [shop.item, here]);
      await sql.query('update stock_level set quantity = 50000 where item_id = $1 and place_id = $2', [
        shop.item,
        here,
      ]);
      const [event] = await sql.query<{ id: number }>(
        `select open_event('{"kind": "stock", "at": "${AT}"}') as id`,
      );
      const [row] = await sql.query<{ laid: number[] }>(
        `select bring_layers($1, '${AT}', $2, '{"reason": "received", "against": "goods-received"}') as laid`,
        [event?.id ?? 0, JSON.stringify([{ itemId: shop.item, placeId: here, quantity: 50_000, cost: 777 }])],
      );
      await sql.query('select post_costs($1)', [event?.id ?? 0]);
      return row?.laid[0] ?? 0;
    });
    /** Sells one at a place: where none lies, it is owed by that layer. */
    const sell = (place: number, back?: string) =>
      database.write(async (sql) => {
        const id = newKey();
        number += 1;
        await sql.query(
          `insert into sale (id, till_id, shift_id, staff_id, number, business_date, finished_at, hour, currency,
            tax_mode, regular, reductions, tax, total)
           values ($1, $2, $3, $4, $5, '2026-03-02', $6, 12, 'USD', 'on-top', 0, 0, 0, 0)`,
          [id, shift.tillId, shift.id, shift.staffId, number, AT],
        );
        await sql.query(
          `insert into sale_line (sale_id, position, item_id, category_id, number, name, unit, quantity, unit_price,
            regular, net, return_reason, condition, return_sale, return_position)
           values ($1, 1, $2, 1, '', '', 'each', $3, 0, 0, 0, $4, $5, $6, $7)`,
          [
            id,
            shop.item,
            back ? -1000 : 1000,
            back ? 'Broken' : null,
            back ? 'to-stock' : null,
            back ?? null,
            back ? 1 : null,
          ],
        );
        const [event] = await sql.query<{ id: number }>('select open_event($1) as id', [
          JSON.stringify({ kind: 'sale', at: AT, saleId: id }),
        ]);
        const comesBack = back && { condition: 'to-stock', sale: { saleId: back, position: 1 } };
        const line = {
          position: 1,
          stocked: true,
          itemId: shop.item,
          quantity: back ? -1000 : 1000,
          comesBack,
        };
        await sql.query('select move_stock($1, $2)', [
          JSON.stringify({ id, placeId: place, at: AT, lines: [line] }),
          event?.id ?? 0,
        ]);
        await sql.query('select post_costs($1)', [event?.id ?? 0]);
        return id;
      });
    /** Corrects the cost, and meanwhile somebody begins something that needs it: they come to wait for each other. */
    async function correctWhile(cost: number, begun: () => Promise<unknown>): Promise<void> {
      let corrected = () => {};
      const until = new Promise<void>((resolve) => (corrected = resolve));
      const correcting = database.write(async (sql) => {
        const before = await waiting(sql);
        await sql.query('select correct_layer($1, $2, $3, $4, $5)', [
          layer,
          cost,
          AT,
          shift.staffId,
          'the invoice',
        ]);
        corrected();
        // One connection serves all on the embedded database: there, the other one begins afterwards.
        for (let looks = 0; ENGINE === 'postgres' && looks < 5_000; looks += 1)
          if ((await waiting(sql)) > before) return;
      });
      await until;
      const other = begun();
      await correcting;
      await other;
    }
    const waiting = async (sql: Writer) =>
      (
        await sql.query<{ count: number }>(
          'select count(*)::integer as count from pg_locks where not granted',
        )
      )[0]?.count ?? 0;
    const first = await sell(here);
    await correctWhile(801, () => sell(there));
    await correctWhile(907, () => sell(elsewhere, first));
    await correctWhile(1013, () => sell(here));
    // The sales of this test hold no money: nothing else of them is looked at.
    expect(await database.ask((sql) => verify(sql, COST_CHECKS))).toEqual([]);
  });
});
