import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { RefundQuote, Returnable, ReturnableLine } from '../../contract/returns.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { ONE } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useReturnStore } from './returnStore.ts';
import { fakeBasket } from '../testing/fakeBasket.ts';
import { late } from '../../contract/testing/late.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const catalogue = vi.hoisted(() => ({ find: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  work: { work: null as string | null, begin: vi.fn(), leave: vi.fn() },
  ringUp: { add: vi.fn(), enter: vi.fn(), returning: null as unknown },
  countersigns: { need: vi.fn() },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../sale/basketWorkStore.ts', () => ({ useBasketWorkStore: () => stores.work }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => stores.ringUp }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => stores.countersigns }));

const line = (position: number, more: Partial<ReturnableLine> = {}): ReturnableLine => ({
  position,
  itemId: position,
  number: `N-${position}`,
  name: `Item ${position}`,
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  unitPrice: 1_000,
  quantity: 2 * ONE,
  net: 1_800,
  left: 2 * ONE,
  serial: null,
  whole: false,
  why: '',
  ...more,
});
const saleOf = (lines: ReturnableLine[], more: Partial<Returnable> = {}): Returnable => ({
  saleId: 's1',
  receipt: '1-0042',
  soldAt: '2026-03-01T10:00:00Z',
  late: false,
  way: 'share',
  voided: false,
  customer: null,
  lines,
  ...more,
});
const figuresOf = (position: number, net: number) => ({ position, figures: { net, taxes: [{ tax: -90 }] } });
const quoteOf = (more: object = {}) =>
  ({ way: 'share', chosen: [figuresOf(1, -900)], other: null, swap: [], ...more }) as unknown as RefundQuote;

const basketOf = () => Object.assign(fakeBasket(), { priced: { taxMode: 'on-top' } });
let basket: ReturnType<typeof basketOf>;
const words = () => useNoticeStore().notice?.text;
const quotes = () => net.write.mock.calls.map((call) => (call[2] as { parts: unknown }).parts);

/** The sale is open, and its quote has come. */
async function opened(sale: Returnable, quote = quoteOf()) {
  const returns = useReturnStore();
  net.read.mockResolvedValueOnce(sale);
  net.write.mockResolvedValue(quote);
  await returns.open(sale.saleId);
  return returns;
}

beforeEach(() => {
  setActivePinia(createPinia());
  const fakes = [net.read, net.write, catalogue.find, stores.work.leave, stores.countersigns.need];
  for (const one of [...fakes, stores.ringUp.add, stores.ringUp.enter]) one.mockReset();
  stores.work.begin.mockImplementation((what: string) => {
    stores.work.work = what;
  });
  stores.work.work = null;
  stores.ringUp.returning = null;
  basket = basketOf();
  stores.basket = basket;
});

describe('a sale whose goods come back', () => {
  it('is not opened where it was voided, or everything came back', async () => {
    const returns = useReturnStore();
    net.read.mockResolvedValueOnce(saleOf([line(1)], { voided: true }));
    expect(await returns.open('s1')).toBe(false);
    expect(words()).toBe('1-0042 was voided: nothing comes back from it.');
    net.read.mockResolvedValueOnce(saleOf([line(1, { left: 0 })]));
    expect(await returns.open('s1')).toBe(false);
    expect(words()).toBe('Everything of 1-0042 came back already.');
    expect(stores.work.work).toBeNull();
  });

  it('begins with one of it, where only one thing can come back', async () => {
    const returns = await opened(saleOf([line(1), line(2, { left: 0 })]));
    expect(returns.parts).toEqual([{ position: 1, quantity: ONE }]);
    await eventually(() => expect(returns.quote).not.toBeNull());
    expect(quotes()).toEqual([[{ position: 1, quantity: ONE }]]);
  });

  it('begins with what is in the basket of it already', async () => {
    basket.basket = {
      id: 'b1',
      lines: [
        {
          id: 'l1',
          itemId: 2,
          quantity: -2 * ONE,
          serial: 'SN-7',
          comesBack: {
            reason: 'Broken',
            condition: 'damaged',
            sale: { saleId: 's1', position: 2, way: 're-price' },
          },
        },
      ],
    } as unknown as Basket;
    const both = quoteOf({ other: [figuresOf(2, -500)] });
    const returns = await opened(saleOf([line(1), line(2)]), both);
    expect([returns.parts, returns.serials[2]]).toEqual([[{ position: 2, quantity: 2 * ONE }], 'SN-7']);
    expect([returns.reason, returns.condition, returns.way]).toEqual(['Broken', 'damaged', 're-price']);
  });
});

describe('how much comes back', () => {
  it('is never more than is left, and all of what cannot be parted', async () => {
    const returns = await opened(saleOf([line(1), line(2, { whole: true, left: 3 * ONE })]));
    returns.take(line(1), 9 * ONE);
    returns.take(line(2, { whole: true, left: 3 * ONE }), ONE);
    expect(returns.chosen).toEqual({ 1: 2 * ONE, 2: 3 * ONE });
    returns.take(line(1), -ONE);
    expect(returns.parts).toEqual([{ position: 2, quantity: 3 * ONE }]);
  });

  it('is worth what the last question was answered with', async () => {
    const returns = await opened(saleOf([line(1), line(2)]));
    let late = (_quote: RefundQuote): void => {};
    net.write.mockReturnValueOnce(new Promise<RefundQuote>((come) => (late = come)));
    returns.take(line(1), ONE);
    net.write.mockResolvedValueOnce(quoteOf({ chosen: [figuresOf(1, -1_800)] }));
    returns.take(line(1), 2 * ONE);
    await eventually(() => expect(returns.worth(returns.figures)).toBe(1_890));
    late(quoteOf());
    await Promise.resolve();
    expect(returns.worth(returns.figures)).toBe(1_890);
    basket.priced = { taxMode: 'inside' };
    expect(returns.worth(returns.figures)).toBe(1_800);
    returns.take(line(1), 0);
    expect([returns.quote, returns.figures]).toEqual([null, null]);
  });

  it('may be worth either of two things, where a person chooses', async () => {
    const both = quoteOf({ other: [figuresOf(1, -500)] });
    const returns = await opened(saleOf([line(1)]), both);
    await eventually(() => expect(returns.worth(returns.figures)).toBe(990));
    returns.way = 're-price';
    expect(returns.worth(returns.figures)).toBe(590);
  });
});

describe('what is put into the basket', () => {
  it('is nothing as long as something is wrong', async () => {
    const returns = await opened(saleOf([line(1, { serial: 'SN-7', left: ONE })]));
    await eventually(() => expect(returns.quote).not.toBeNull());
    expect(returns.wrong()).toBe('Read the serial number of Item 1: it was sold as SN-7.');
    expect(await returns.put()).toBe(false);
    returns.serials[1] = ' sn-7 ';
    returns.reason = ' ';
    expect(returns.wrong()).toBe('Say why it comes back.');
    returns.reason = 'Too small';
    expect(returns.wrong()).toBe('');
    returns.take(line(1), 0);
    expect(returns.wrong()).toBe('Choose what comes back.');
  });

  it('comes with its figures, its reason, and the customer of the sale', async () => {
    const returns = await opened(saleOf([line(1)], { customer: { id: 4, name: 'Wilma Corrin' } }));
    await eventually(() => expect(returns.quote).not.toBeNull());
    returns.reason = ' Too small ';
    expect(await returns.put()).toBe(true);
    expect(basket.basket.lines).toMatchObject([
      {
        itemId: 1,
        quantity: -ONE,
        listPrice: 1_000,
        comesBack: {
          reason: 'Too small',
          condition: 'to-stock',
          sale: { saleId: 's1', receipt: '1-0042', position: 1, way: 'share', figures: { net: -900 } },
        },
      },
    ]);
    expect(basket.basket.customer).toEqual({ id: 4, name: 'Wilma Corrin' });
    expect(stores.work.leave).toHaveBeenCalledOnce();
    // Who is on the sale already stays.
    basket.basket = { ...basket.basket, customer: { id: 9, name: 'Other' } };
    await returns.put();
    expect(basket.basket.customer?.id).toBe(9);
    expect(stores.countersigns.need).not.toHaveBeenCalled();
  });

  it('needs an approval after the time for returns', async () => {
    const returns = await opened(saleOf([line(1)], { late: true }));
    await eventually(() => expect(returns.quote).not.toBeNull());
    stores.countersigns.need.mockResolvedValueOnce(null);
    expect(await returns.put()).toBe(false);
    expect(basket.lines).toEqual([]);
    stores.countersigns.need.mockResolvedValueOnce({ id: 'c1' });
    expect(await returns.put()).toBe(true);
    expect(stores.countersigns.need.mock.lastCall?.slice(0, 3)).toEqual([
      'return.late',
      'b1',
      `1-0042, ${returns.reason}`,
    ]);
    expect(JSON.stringify(basket.lines)).toContain('"c1"');
  });

  it('comes back for what all of it is worth, however fast the hand is', async () => {
    const returns = await opened(saleOf([line(1), line(2)]));
    returns.take(line(1), ONE);
    await eventually(() => expect(returns.quote).not.toBeNull());
    const [second, third] = [late<RefundQuote>(), late<RefundQuote>()];
    net.write.mockReturnValueOnce(second.promise).mockReturnValueOnce(third.promise);
    returns.take(line(1), 2 * ONE);
    returns.take(line(2), ONE);
    const put = returns.put();
    third.come(quoteOf({ chosen: [figuresOf(1, -1_800), figuresOf(2, -900)] }));
    second.come(quoteOf({ chosen: [figuresOf(1, -1_800)] }));
    expect(await put).toBe(true);
    expect(
      basket.lines.map(({ itemId, quantity, comesBack }) => [itemId, quantity, comesBack?.sale?.figures.net]),
    ).toEqual([
      [1, -2 * ONE, -1_800],
      [2, -ONE, -900],
    ]);
  });

  it('does not come back for what other goods were worth, where it cannot be asked', async () => {
    const returns = await opened(saleOf([line(1), line(2)]));
    returns.take(line(1), ONE);
    await eventually(() => expect(returns.quote).not.toBeNull());
    net.write.mockRejectedValueOnce(new Error('The server does not answer.'));
    returns.take(line(1), 2 * ONE);
    expect(await returns.put()).toBe(false);
    expect([words(), basket.lines]).toEqual(['The server does not answer.', []]);
  });

  it('is swapped for what its family has, for what was paid', async () => {
    const returns = await opened(saleOf([line(1), line(2)]), quoteOf({ swap: [figuresOf(1, -1_000)] }));
    returns.take(line(1), ONE);
    await eventually(() => expect(returns.quote?.swap).toHaveLength(1));
    const family = { id: 50, name: 'Shirts' };
    catalogue.find.mockImplementation(([id]: number[]) =>
      Promise.resolve(id === 50 ? [family] : [{ id: 1, name: 'Shirt M', more: { familyId: 50 } }]),
    );
    await returns.swap();
    const [back] = basket.lines;
    expect(back?.comesBack?.sale?.way).toBe('share');
    expect(stores.ringUp.add).toHaveBeenCalledWith(family, ONE, back?.id);
  });
});

describe('who has no receipt', () => {
  it('is found by its number, and told where nothing was sold under it', async () => {
    const returns = useReturnStore();
    net.read.mockResolvedValueOnce({ rows: [{ id: 's1' }] }).mockResolvedValueOnce(saleOf([line(1)]));
    net.write.mockResolvedValue(quoteOf());
    expect(await returns.find(' 1-0042 ')).toBe(true);
    expect(net.read.mock.calls.map((call): unknown => call[0])).toEqual([
      '/journal/sales?find=1-0042',
      '/journal/sales/s1/returnable',
    ]);
    net.read.mockResolvedValueOnce({ rows: [] });
    expect(await returns.find('9-9999')).toBe(false);
    expect(words()).toBe('Nothing was sold under “9-9999”.');
  });

  it('gets the receipt that was scanned last, whatever is found first', async () => {
    const returns = useReturnStore();
    const slow = late<Returnable>();
    net.write.mockResolvedValue(quoteOf());
    net.read.mockReturnValueOnce(slow.promise).mockResolvedValueOnce(saleOf([line(2)], { saleId: 's2' }));
    const first = returns.open('s1');
    expect(await returns.open('s2')).toBe(true);
    slow.come(saleOf([line(1)]));
    expect(await first).toBe(false);
    expect(returns.sale?.saleId).toBe('s2');
  });

  it('is not called back to a receipt by an answer that comes after they went on', async () => {
    const returns = useReturnStore();
    const slow = late<Returnable>();
    net.read.mockReturnValueOnce(slow.promise);
    stores.work.work = 'return';
    stores.work.begin.mockClear();
    const opened = returns.open('s1');
    stores.work.work = null;
    slow.come(saleOf([line(1)]));
    expect(await opened).toBe(false);
    expect(returns.sale).toBeNull();
    expect(stores.work.begin).not.toHaveBeenCalled();
  });

  it('brings goods back by their own code', async () => {
    const returns = useReturnStore();
    returns.openEmpty();
    returns.condition = 'damaged';
    returns.reason = '';
    await returns.takeWithoutReceipt(' N-1 ');
    expect(stores.ringUp.returning).toEqual({ reason: 'Without receipt', condition: 'damaged' });
    expect(stores.ringUp.enter).toHaveBeenCalledWith('-1*N-1');
  });

  it('is shown what they bought and did not void', async () => {
    net.read.mockResolvedValue({
      rows: [
        { id: 's1', voided: false },
        { id: 's2', voided: true },
      ],
    });
    expect((await useReturnStore().boughtBy(4)).map(({ id }) => id)).toEqual(['s1']);
  });
});
