import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProblemDetails } from '../../contract/problem.ts';
import type { StockValue } from '../../contract/stockValue.ts';
import { MOVES_PAGE, type StockMovesPage } from '../../contract/stockMoves.ts';
import type {
  DeliveryPage,
  ItemSupply,
  OrderPage,
  OrderableItem,
  OrdersPage,
  SupplierPage,
} from '../../contract/supply.ts';
import { MOST_ORDER_LINES } from '../../core/supply/purchaseOrder.ts';
import { verify } from '../books/verify.ts';
import { setStock } from '../testing/stocking.ts';
import {
  ENGINE,
  openDrawer,
  openHouse,
  pay,
  ringUp,
  type Browser,
  type TestHouse,
} from '../testing/testHouse.ts';

let test: TestHouse;
let maren: Browser;
let isolde: Browser;
let noor: Browser;
let supplierId: number;
beforeAll(async () => {
  test = await openHouse();
  [noor, maren, isolde] = [test.browser(), test.browser(), test.browser()];
  await noor.signIn('1357', 1);
  await openDrawer(noor);
  await maren.signIn('3690', 2);
  await isolde.signIn('8024', 3);
  const made = await maren.ask<{ id: number }>('POST', '/supply/suppliers', {
    name: 'Oakfield Strings',
    email: 'orders@oakfield.example',
    leadDays: 5,
  });
  supplierId = made.body.id;
});
afterAll(() => test.stop());

const sql = <Row extends object>(text: string, values: (string | number)[] = []) =>
  test.house.database.ask((reader) => reader.query<Row>(text, values));
async function itemId(number: string): Promise<number> {
  const [row] = await sql<{ id: number }>('select id from item where number = $1', [number]);
  return row?.id ?? 0;
}
const stockOf = async (number: string) =>
  (
    await sql<{ quantity: number }>(
      'select quantity from stock_level where item_id = (select id from item where number = $1) and place_id = 1',
      [number],
    )
  )[0]?.quantity ?? 0;
const wrong = async () =>
  (await test.house.database.ask((reader) => verify(reader))).map(({ check, what }) => `${check}: ${what}`);
const balance = async (account: string, subject: string) =>
  (
    await sql<{ amount: number }>(
      'select coalesce(sum(amount), 0)::bigint as amount from ledger_entry where account = $1 and subject = $2',
      [account, subject],
    )
  )[0]?.amount ?? 0;

/** An order over lines of so many thousandths at so much. */
async function order(
  lines: readonly [number: string, quantity: number, unitCost: number | null][],
): Promise<OrderPage> {
  const made = await maren.ask<{ id: number }>('POST', '/supply/orders', {
    supplierId,
    placeId: 1,
    suggested: false,
  });
  const page = await maren.ask<OrderPage>('GET', `/supply/orders/${made.body.id}`);
  const wanted: object[] = [];
  for (const [number, quantity, unitCost] of lines)
    wanted.push({ itemId: await itemId(number), quantity, unitCost });
  const changed = await maren.ask<OrderPage>('PUT', `/supply/orders/${made.body.id}`, {
    version: page.body.version,
    lines: wanted,
  });
  expect(changed.status).toBe(200);
  return changed.body;
}

const receive = (page: OrderPage, more: object, lines: object[]) =>
  maren.ask<{ id: number }>('POST', `/supply/orders/${page.id}/deliveries`, {
    version: page.version,
    ...more,
    lines,
  });

describe(`orders and deliveries on ${ENGINE}`, () => {
  it('come in once at what they cost with their freight, sell at once, and follow their invoice', async () => {
    const before = await stockOf('MET-C');
    const page = await order([
      ['MET-C', 4_000, 10_00],
      ['MUS-ME-RE', 2_000, 30_00],
    ]);
    const [first, second] = page.lines;
    const lines = [
      { itemId: first?.itemId, quantity: 4_000, damaged: 1_000, unitCost: 10_00 },
      { itemId: second?.itemId, quantity: 2_000, unitCost: 30_00 },
    ];
    const made = await receive(page, { freight: 10_00, spreadBy: 'value', deliveryNote: 'L 77' }, lines);
    expect(made.status).toBe(200);
    expect(await stockOf('MET-C')).toBe(before + 3_000);
    expect((await receive(page, {}, lines)).status).toBe(409);
    const subject = `supplier:${supplierId}`;
    expect(await balance('goods-received', subject)).toBe(-110_00);
    const { body: delivery } = await isolde.ask<DeliveryPage>('GET', `/supply/deliveries/${made.body.id}`);
    expect(delivery.lines.map(({ goodsCost, freight }) => [goodsCost, freight])).toEqual([
      [40_00, 4_00],
      [60_00, 6_00],
    ]);
    expect(await wrong()).toEqual([]);

    // Sold meanwhile; then the invoice asks for more, and for no freight.
    expect((await pay(noor, await ringUp(test, ['MUS-ME-RE']))).status).toBe(200);
    const sold = await balance('cost-of-goods', '');
    const paid = await isolde.ask<DeliveryPage>('POST', `/supply/deliveries/${made.body.id}/invoice`, {
      version: delivery.version,
      number: 'R 4711',
      freight: 0,
      lines: [40_00, 80_00],
    });
    expect(paid.status).toBe(200);
    expect(await balance('goods-received', subject)).toBe(0);
    expect(await balance('suppliers', subject)).toBe(-120_00);
    const after = await balance('cost-of-goods', '');
    expect(after).toBeGreaterThanOrEqual(sold);
    expect(await wrong()).toEqual([]);
    const again = await isolde.ask('POST', `/supply/deliveries/${made.body.id}/invoice`, {
      version: paid.body.version,
      number: 'R 4711',
      freight: 0,
      lines: [40_00, 80_00],
    });
    expect(again.status).toBe(409);
    const supplier = await maren.ask<SupplierPage>('GET', `/supply/suppliers/${supplierId}`);
    expect(supplier.body).toMatchObject({
      notInvoiced: 0,
      owed: 120_00,
      reliability: { orders: 1, complete: 1_000_000 },
    });
    expect(supplier.body.orders[0]?.state).toBe('closed');
  });

  it('come in part, leave the rest to come, and are closed by hand', async () => {
    const page = await order([['MET-W', 5_000, 20_00]]);
    const [line] = page.lines;
    const sent = await maren.ask<OrderPage>('POST', `/supply/orders/${page.id}/sent`, {
      version: page.version,
      mail: true,
    });
    expect(sent.body.state).toBe('sent');
    expect((await receive(sent.body, {}, [{ itemId: line?.itemId, quantity: 2_000 }])).status).toBe(200);
    const { body: rest } = await maren.ask<OrderPage>('GET', `/supply/orders/${page.id}`);
    expect(rest).toMatchObject({ state: 'sent', lines: [{ received: 2_000 }] });
    const gone = await maren.ask('PUT', `/supply/orders/${page.id}`, { version: rest.version, lines: [] });
    expect(gone.status).toBe(422);
    const closed = await maren.ask('POST', `/supply/orders/${page.id}/closed`, { version: rest.version });
    expect(closed.status).toBe(200);
    expect(
      (await receive({ ...rest, version: rest.version + 1 }, {}, [{ itemId: line?.itemId, quantity: 1_000 }]))
        .status,
    ).toBe(422);
    const [mail] = await sql<{ subject: string }>('select subject from outbox where purchase_order_id = $1', [
      page.id,
    ]);
    expect(mail?.subject).toMatch(/^Order B-\d{4} from /);
    expect(await wrong()).toEqual([]);
  });

  it('are suggested by reorder point, in packs, with the reason', async () => {
    const id = await itemId('MET-C');
    await maren.ask('POST', `/supply/items/${id}/suppliers`, {
      supplierId,
      pack: 6_000,
      cost: 9_00,
      first: true,
    });
    const { reorder } = (await maren.ask<ItemSupply>('GET', `/supply/items/${id}`)).body;
    const seen = reorder.find(({ placeId }) => placeId === 1);
    const put = (point: number, target: number) =>
      maren.ask('PUT', `/supply/items/${id}/reorder`, { placeId: 1, point, target, seen });
    expect((await put(9_000, 5_000)).status).toBe(422);
    const there = await stockOf('MET-C');
    expect((await put(there + 1_000, there + 7_000)).status).toBe(200);
    // Who has not seen that does not undo it.
    expect((await put(there + 2_000, there + 7_000)).body.type).toBe('changed-meanwhile');
    const made = await maren.ask<{ id: number }>('POST', '/supply/orders', {
      supplierId,
      placeId: 1,
      cover: 0,
    });
    const { body: page } = await maren.ask<OrderPage>('GET', `/supply/orders/${made.body.id}`);
    const line = page.lines.find(({ number }) => number === 'MET-C');
    expect(line).toMatchObject({ quantity: 12_000, unitCost: 9_00 });
    expect(line?.reason).toContain('in packs of 6');
    const { body: found } = await maren.ask<OrderableItem[]>(
      'GET',
      `/supply/orders/${page.id}/items?find=met-c`,
    );
    expect(found[0]).toMatchObject({ number: 'MET-C', pack: 6_000 });
    const pdf = await maren.ask('GET', `/supply/orders/${page.id}.pdf`);
    expect(pdf.status).toBe(200);
    expect(
      (await maren.ask('POST', `/supply/orders/${page.id}/closed`, { version: page.version })).body,
    ).toEqual({ gone: true });
    expect((await maren.ask('GET', `/supply/orders/${page.id}`)).status).toBe(404);
  });

  it('have room for so many lines, and say how many more should be ordered', async () => {
    const { body: large } = await maren.ask<{ id: number }>('POST', '/supply/suppliers', {
      name: 'All and More',
    });
    await sql(
      `with made as (
         insert into item (number, name, category_id, tax_category_id, price, words)
         select 'ROOM-' || n, 'Of very many', category_id, tax_category_id, 100, ' of very many'
         from item, generate_series(1, ${MOST_ORDER_LINES + 7}) as n where number = 'MET-C' returning id
       ), from_them as (
         insert into item_supplier (item_id, supplier_id, rank) select id, $1, 1 from made
       ) insert into reorder_point (item_id, place_id, point, target) select id, 1, 2000, 5000 from made`,
      [large.id],
    );
    const asked = { supplierId: large.id, placeId: 1, cover: 0 };
    const made = await maren.ask<{ id: number; left: number }>('POST', '/supply/orders', asked);
    expect([made.status, made.body.left]).toEqual([200, 7]);
    const { body: page } = await maren.ask<OrderPage>('GET', `/supply/orders/${made.body.id}`);
    expect(page.lines).toHaveLength(MOST_ORDER_LINES);
    // It is saved and sent as it stands, and the rest comes next.
    const lines = page.lines.map(({ itemId, quantity, unitCost }) => ({ itemId, quantity, unitCost }));
    const saved = await maren.ask<OrderPage>('PUT', `/supply/orders/${page.id}`, {
      version: page.version,
      expectedOn: '',
      words: '',
      lines,
    });
    expect(saved.status).toBe(200);
    const { version } = saved.body;
    expect((await maren.ask('POST', `/supply/orders/${page.id}/sent`, { version, mail: false })).status).toBe(
      200,
    );
    const next = await maren.ask<{ id: number; left: number }>('POST', '/supply/orders', asked);
    expect(next.body.left).toBe(0);
    expect((await maren.ask<OrderPage>('GET', `/supply/orders/${next.body.id}`)).body.lines).toHaveLength(7);
  });

  it('are found by supplier, goods and number, page by page, those that are open first', async () => {
    const listed = async (show: string, find: string, at = 0) =>
      (
        await maren.ask<OrdersPage>(
          'GET',
          `/supply/orders?${new URLSearchParams({ show, find, page: String(at) }).toString()}`,
        )
      ).body;
    const before = await listed('all', '');
    const { id, number, version } = await order([['MET-W', 2_000, 10_00]]);
    const came = await receive({ id, version } as OrderPage, { deliveryNote: 'Note 77/b' }, [
      { itemId: await itemId('MET-W'), quantity: 2_000 },
    ]);
    expect(came.status).toBe(200);
    const orders = async (show: string, find: string) =>
      (await listed(show, find)).orders.map((row) => row.id);
    expect(await orders('all', `b-${String(number).padStart(4, '0')}`)).toEqual([id]);
    expect(await orders('all', 'metronome wind')).toContain(id);
    expect(await orders('all', 'no such thing')).toEqual([]);
    // All of it came: it is no open one any more.
    expect(await orders('open', '')).not.toContain(id);
    const deliveries = async (find: string) =>
      (await listed('deliveries', find)).deliveries.map((row) => row.id);
    expect(await deliveries('NOTE 77/')).toEqual([came.body.id]);
    expect(await deliveries('met-w')).toContain(came.body.id);
    for (let nth = 0; nth < 100; nth += 1)
      await maren.ask('POST', '/supply/orders', { supplierId, placeId: 1, suggested: false });
    const [top, rest] = [await listed('all', ''), await listed('all', '', 1)];
    expect([top.count, top.orders.length]).toEqual([before.count + 101, 100]);
    expect(rest.orders.map((row) => row.id)).toContain(id);
    expect((await listed('open', '')).count).toBeGreaterThanOrEqual(100);
  });

  it('show what goods cost to those who may see it, and let them correct it once', async () => {
    const id = await itemId('MET-C');
    const { body: supply } = await isolde.ask<ItemSupply>('GET', `/supply/items/${id}`);
    const layer = supply.layers.at(-1);
    if (!layer) throw new Error('no layer');
    const { body: hidden } = await maren.ask<ItemSupply>('GET', `/supply/items/${id}`);
    expect(hidden).toMatchObject({ layers: [], worth: null });
    const wish = { cost: layer.cost + 5_00, was: layer.cost, why: 'discount taken back' };
    expect((await maren.ask('POST', `/supply/layers/${layer.id}/cost`, wish)).status).toBe(403);
    const done = await isolde.ask<ItemSupply>('POST', `/supply/layers/${layer.id}/cost`, wish);
    expect(done.body.layers.find((one) => one.id === layer.id)?.cost).toBe(layer.cost + 5_00);
    expect((await isolde.ask('POST', `/supply/layers/${layer.id}/cost`, wish)).status).toBe(409);
    expect(await wrong()).toEqual([]);
  });

  it('go back in part: they leave at what they cost, the supplier owes that, and the history of stock leads to it', async () => {
    const page = await order([
      ['MET-W', 4_000, 1_000],
      ['MET-C', 2_000, 500],
    ]);
    const { body: made } = await receive(page, { deliveryNote: 'DN-9' }, [
      { itemId: await itemId('MET-W'), quantity: 4_000, damaged: 1_000 },
      { itemId: await itemId('MET-C'), quantity: 2_000 },
    ]);
    const had = await stockOf('MET-W');
    const owed = await balance('suppliers', `supplier:${supplierId}`);
    const sendBack = (lines: object[], words = 'Wrong goods', by = maren) =>
      by.ask<DeliveryPage & ProblemDetails>('POST', `/supply/deliveries/${made.id}/returns`, {
        words,
        lines,
      });
    const said = async (lines: object[], words?: string) =>
      (await sendBack(lines, words)).body.fields?.map(({ field, message }) => `${field}: ${message}`);
    expect(await said([{ line: 0, quantity: 4_000 }])).toEqual([
      'lines[0].quantity: At most 3 can go back: that is what came whole, and did not go back.',
    ]);
    expect(await said([{ line: 0, quantity: 500 }])).toEqual([
      'lines[0].quantity: A quantity of it has no decimals.',
    ]);
    expect(await said([{ line: 7, quantity: 1_000 }])).toEqual(['lines[0].quantity: There is no such line.']);
    expect(await said([{ line: 0, quantity: 1_000 }], ' ')).toEqual(['words: Why?']);
    expect((await sendBack([{ line: 0, quantity: 1_000 }], 'Wrong', noor)).status).toBe(403);
    const { body } = await sendBack([{ line: 0, quantity: 2_000 }]);
    expect(body.lines.map(({ back }) => back)).toEqual([2_000, 0]);
    expect(body.returns).toMatchObject([
      { words: 'Wrong goods', who: 'Maren K.', cost: 2_000, lines: [{ number: 'MET-W', quantity: 2_000 }] },
    ]);
    expect(await stockOf('MET-W')).toBe(had - 2_000);
    expect(await balance('suppliers', `supplier:${supplierId}`)).toBe(owed + 2_000);
    expect((await sendBack([{ line: 0, quantity: 2_000 }])).status).toBe(422);
    const pdf = await maren.raw('GET', `/supply/returns/${body.returns[0]?.id}.pdf`, {});
    expect([pdf.status, pdf.text.startsWith('%PDF')]).toEqual([200, true]);
    // What is set aside, or gone, cannot be sent.
    await test.house.database.write((writer) => setStock(writer, 'MET-C', 1, 1_000));
    expect(await said([{ line: 1, quantity: 2_000 }])).toEqual([
      'lines[0].quantity: So many of Metronome, clip-on are not there to be sent.',
    ]);
    const moves = (await maren.ask<StockMovesPage>('GET', '/goods/moves?find=MET-W')).body;
    expect(moves.rows[0]).toMatchObject({
      reason: 'to-supplier',
      quantity: -2_000,
      by: 'Maren K.',
      cost: null,
      origin: { kind: 'supplier-return', id: made.id },
    });
    const asked = async (query: string) =>
      (await isolde.ask<StockMovesPage>('GET', `/goods/moves?${query}`)).body;
    const back = await asked(`supplier=${supplierId}&reason=to-supplier`);
    expect([back.count, back.rows[0]?.cost]).toEqual([1, -2_000]);
    expect((await asked(`find=MET-W&reason=received&place=1`)).rows[0]?.origin).toMatchObject({
      kind: 'delivery',
      id: made.id,
    });
    expect((await asked('find=MET-W&place=2&reason=received')).rows).toEqual([]);
    expect((await asked('find=MET-W&from=2031-01-01')).count).toBe(0);
    const staff = moves.staff.find(({ name }) => name === 'Maren K.')?.id ?? 0;
    const all = await asked('find=MET-W');
    expect((await asked(`find=MET-W&staff=${staff}`)).count).toBeLessThanOrEqual(all.count);
    // Newest first, of all places together and of one, page by page.
    for (const place of [0, 1, 2]) {
      const newest = await test.house.database.ask((sql) =>
        sql.query<{ id: number }>(
          `select id from stock_move where $1 = 0 or place_id = $1 order by at desc, id desc`,
          [place],
        ),
      );
      const pages = await Promise.all([0, 1].map((page) => asked(`place=${place}&page=${page}`)));
      expect(pages.flatMap(({ rows }) => rows.map(({ id }) => id))).toEqual(
        newest.slice(0, 2 * MOVES_PAGE).map(({ id }) => id),
      );
    }
    expect((await noor.ask('GET', '/goods/moves')).status).toBe(403);
    const csv = (await isolde.raw('GET', '/goods/moves.csv?find=MET-W', {})).text;
    expect(csv.split('\r\n').length).toBe(all.count + 2);
    expect(csv).toContain('To the supplier,Wrong goods,Maren K.,,-20.00');
    expect(await wrong()).toEqual([]);
  });

  it('is worth at the end of any day what the books said of it then', async () => {
    const now = (await isolde.ask<StockValue>('GET', '/goods/value')).body;
    expect(now.value).toBeGreaterThan(0);
    expect(now.books).toBe(now.value);
    for (const place of now.places) expect(place.books).toBe(place.value);
    expect(now.categories.reduce((all, { value }) => all + value, 0)).toBe(now.value);
    const then = (await isolde.ask<StockValue>('GET', '/goods/value?day=2020-01-01')).body;
    expect([then.value, then.books, then.categories]).toEqual([0, 0, []]);
    const csv = (await isolde.raw('GET', '/goods/value.csv', {})).text.trim().split('\r\n').slice(1);
    const cents = csv.map((line) => Math.round(Number(line.split(',').at(-1)) * 100));
    expect(cents.reduce((all, one) => all + one, 0)).toBe(now.value);
    expect((await maren.ask('GET', '/goods/value')).status).toBe(403);
    expect((await isolde.ask('GET', '/goods/value?day=soon')).status).toBe(422);
  });

  it('refuse what cannot be: too many broken, half a piece, serial numbers that are missing or known', async () => {
    const page = await order([
      ['MET-C', 1_000, 10_00],
      ['CLA-0510', 1_000, 200_00],
    ]);
    const [plain, serial] = page.lines.map(({ itemId: id }) => id);
    const fields = async (line: object) => {
      const { body } = await receive(page, {}, [line]);
      return (body as unknown as { fields?: { field: string }[] }).fields?.map(({ field }) => field);
    };
    expect(await fields({ itemId: plain, quantity: 1_000, damaged: 2_000 })).toEqual(['lines[0].damaged']);
    expect(await fields({ itemId: plain, quantity: 1_500 })).toEqual(['lines[0].quantity']);
    expect(await fields({ itemId: serial, quantity: 1_000 })).toEqual(['lines[0].serials']);
    const [known] = await sql<{ serial: string }>('select serial from serial where item_id = $1 limit 1', [
      serial ?? 0,
    ]);
    expect(await fields({ itemId: serial, quantity: 1_000, serials: [known?.serial] })).toEqual([
      'lines[0].serials',
    ]);
    const done = await receive(page, {}, [{ itemId: serial, quantity: 1_000, serials: ['NEW-1'] }]);
    expect(done.status).toBe(200);
    const [owned] = await sql<{ quantity: number }>(
      `select layer.quantity from serial join stock_layer as layer on layer.id = layer_id where serial = 'NEW-1'`,
    );
    expect(owned?.quantity).toBe(1_000);
    expect(await wrong()).toEqual([]);
  });
});
