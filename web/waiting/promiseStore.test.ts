import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { LayawayWanted, PromisePage, PromiseView } from '../../contract/promises.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { usePromiseStore } from './promiseStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const basket = vi.hoisted(() => ({
  phase: 'basket',
  basket: { id: 'b1', lines: [] } as Basket,
  total: 7418,
  ready: true,
  readyForGoods: () => basket.ready,
  change: vi.fn(),
  continueWith: vi.fn(),
  startAfresh: vi.fn(),
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => basket }));
const work = vi.hoisted(() => ({ begin: vi.fn(), leave: vi.fn(), exempt: vi.fn() }));
vi.mock('../sale/basketWorkStore.ts', () => ({ useBasketWorkStore: () => work }));
vi.mock('../sale/ringUpStore.ts', () => ({ useRingUpStore: () => ({ caughtUp: () => Promise.resolve() }) }));
const catalogue = vi.hoisted(() => ({ look: vi.fn() }));
vi.mock('../sale/catalogue/thread.ts', () => ({ catalogue }));
const countersigns = vi.hoisted(() => ({ need: vi.fn() }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => countersigns }));
vi.mock('../shop/tillStore.ts', () => ({
  useTillStore: () => ({ facts: { till: { placeId: 1 } } }),
}));

const TERMS: LayawayWanted = {
  deposit: 2000,
  parts: 3,
  interval: 'month',
  firstDay: '2026-04-02',
  fee: 0,
  coming: false,
  note: '',
};
const money = { itemId: 8, number: 'DEPOSIT', unit: 'each', taxCategoryId: 1 };
const VIEW = {
  id: 'p1',
  number: 'L-0001',
  state: 'running',
  customerId: 4,
  customer: 'Hedy Marchbanks',
  held: 2000,
  heldThere: 0,
  placedAt: null,
  exemption: null,
  rest: 10_000,
  lines: [
    {
      position: 1,
      itemId: 1,
      number: 'X',
      name: 'Stand',
      unit: 'each',
      decimals: 0,
      taxCategoryId: 1,
      quantity: 1000,
      handed: 0,
      unitPrice: 10_000,
      regular: 10_000,
      net: 10_000,
      tax: 0,
      records: [],
      serial: null,
      note: '',
      gift: false,
      ageChecked: false,
      bundle: null,
    },
  ],
  depositItem: money,
  feeItem: { ...money, itemId: 9 },
  handover: null,
  keeps: 200_000,
} as unknown as PromiseView;
const page = (numbers: readonly string[], attention = 0) =>
  ({
    rows: numbers.map((number) => ({ id: number, number })),
    count: numbers.length,
    attention,
  }) as PromisePage;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [
    ...[net.read, net.writeSurely, basket.change, basket.continueWith, work.begin, work.leave, work.exempt],
    countersigns.need,
  ]) {
    one.mockReset();
  }
  Object.assign(basket, { phase: 'basket', ready: true, basket: { id: 'b1', lines: [] } });
});

describe('making a layaway', () => {
  it('is asked for with one key however often it is pressed, and with another for other terms', async () => {
    const promises = usePromiseStore();
    net.writeSurely.mockRejectedValueOnce(new Error('gone')).mockRejectedValueOnce(new Error('gone'));
    net.writeSurely.mockResolvedValue({ number: 'L-0001', stored: { basket: { id: 'b2' }, revision: 1 } });
    const keys = () => net.writeSurely.mock.calls.map((call): unknown => call[3]);
    await expect(promises.make(TERMS)).rejects.toThrow();
    await expect(promises.make(TERMS)).rejects.toThrow();
    expect(keys()[0]).toBe(keys()[1]);
    expect(await promises.make({ ...TERMS, deposit: 3000 })).toBe('L-0001');
    expect(keys()[2]).not.toBe(keys()[1]);
    expect(basket.continueWith).toHaveBeenCalledWith({ basket: { id: 'b2' }, revision: 1 });
  });
});

describe('a promise at the Counter', () => {
  it('opens with what is most likely to be done, and not while a payment is under way', async () => {
    const promises = usePromiseStore();
    await promises.open(VIEW);
    expect(promises.doing).toBe('pay');
    await promises.open({ ...VIEW, held: 10_000 });
    expect(promises.doing).toBe('hand-over');
    expect(work.begin).toHaveBeenCalledTimes(2);
    await promises.open({ ...VIEW, state: 'asked' });
    expect(work.begin).toHaveBeenCalledTimes(2);
    expect(useNoticeStore().notice?.text).toContain('answer Hedy Marchbanks first');
    basket.phase = 'paying';
    await promises.open(VIEW);
    expect(work.begin).toHaveBeenCalledTimes(2);
    expect(useNoticeStore().notice?.text).toContain('finish this payment first');
  });

  it('brings its deposit in the place of the one before, and its customer where there is none', async () => {
    const promises = usePromiseStore();
    await promises.bringDeposit(VIEW, 1000);
    const put = () => basket.change.mock.lastCall?.[0] as Basket;
    expect(put().customer).toEqual({ id: 4, name: 'Hedy Marchbanks' });
    basket.basket = { ...put(), customer: { id: 5, name: 'Bo Farrant' } };
    await promises.bringDeposit(VIEW, 1500);
    expect(put().lines.map(({ listPrice }) => listPrice)).toEqual([1500]);
    expect(put().customer?.name).toBe('Bo Farrant');
    basket.ready = false;
    basket.change.mockReset();
    expect(await promises.bringDeposit(VIEW, 1500)).toBe(false);
    expect(basket.change).not.toHaveBeenCalled();
  });

  it('brings goods with as much of the deposit as they can use', async () => {
    catalogue.look.mockImplementation(({ lines }: Basket) =>
      Promise.resolve({
        priced: {
          taxMode: 'on-top',
          lines: lines.map(({ id }) => ({ id, net: 10_000, taxes: [{ tax: 750 }] })),
        },
      }),
    );
    const promises = usePromiseStore();
    await promises.bringGoods(VIEW, new Map([[1, 1000]]));
    const { lines } = basket.change.mock.lastCall?.[0] as Basket;
    expect(lines.map(({ promised, listPrice }) => [promised?.part, listPrice])).toEqual([
      ['goods', 10_000],
      ['used', -2000],
    ]);
  });
});

describe('a promise that is given up', () => {
  const given = () => basket.change.mock.lastCall?.[0] as Basket;

  it('keeps the agreed fee without asking, and no more than goes back', async () => {
    const promises = usePromiseStore();
    expect(await promises.bringBack({ ...VIEW, fee: 500 }, 500, 'why')).toBe(true);
    expect(await promises.bringBack({ ...VIEW, fee: 5000 }, 2000, 'why')).toBe(true);
    expect(countersigns.need).not.toHaveBeenCalled();
  });

  it('keeps less once somebody has approved just that', async () => {
    const promises = usePromiseStore();
    countersigns.need.mockResolvedValueOnce(null).mockResolvedValueOnce({ id: 'approval' });
    expect(await promises.bringBack({ ...VIEW, fee: 500 }, 200, 'why')).toBe(false);
    expect(basket.change).not.toHaveBeenCalled();
    expect(await promises.bringBack({ ...VIEW, fee: 500 }, 200, 'why')).toBe(true);
    expect(countersigns.need).toHaveBeenCalledWith('fee.waive', 'b1', 'L-0001, why', [
      { subject: 'fee:p1', from: 500, to: 200, unit: 'money', amount: 300 },
    ]);
    expect(
      given().lines.map(({ promised, returnCountersign }) => [promised?.part, returnCountersign]),
    ).toEqual([
      ['back', 'approval'],
      ['fee', undefined],
    ]);
  });
});

describe('a promise without tax', () => {
  const EXEMPT = { ...VIEW, exemption: { reason: 'School', certificate: 'C-1' } };
  const wanted = new Map([[1, 1000]]);

  it('is handed over once somebody has approved that, and with nothing else in the basket', async () => {
    const promises = usePromiseStore();
    work.exempt.mockResolvedValueOnce(false);
    expect(await promises.bringGoods(EXEMPT, wanted)).toBe(false);
    expect(work.exempt).toHaveBeenCalledWith('School', 'C-1');
    basket.basket = { id: 'b1', lines: [{ id: 'other' }] } as Basket;
    expect(await promises.bringGoods(EXEMPT, wanted)).toBe(false);
    expect(useNoticeStore().notice?.text).toContain('without tax: finish the basket first');
    expect(basket.change).not.toHaveBeenCalled();
  });
});

describe('the list of promises', () => {
  it('is read again when one has changed, and keeps what is looked for', async () => {
    const promises = usePromiseStore();
    promises.follow();
    net.read.mockResolvedValue(page(['L-0001'], 3));
    promises.filter.find = 'hedy m';
    tell({ kind: 'promises-changed' });
    await eventually(() => expect(promises.page?.rows).toHaveLength(1));
    expect(promises.attention).toBe(3);
    expect(net.read).toHaveBeenCalledWith('/waiting/promises?show=open&find=hedy+m&from=&to=&page=0');
    tell({ kind: 'shop-changed' });
    expect(net.read).toHaveBeenCalledTimes(1);
  });

  it('shows nothing of an answer that comes after something else was looked for', async () => {
    const promises = usePromiseStore();
    let answer = (_page: PromisePage): void => {};
    net.read.mockReturnValueOnce(new Promise<PromisePage>((done) => (answer = done)));
    const late = promises.load();
    promises.filter.find = 'bo';
    net.read.mockResolvedValueOnce(page(['L-0002']));
    await promises.load();
    answer(page(['L-0001', 'L-0003']));
    await late;
    expect(promises.page?.rows.map(({ number }) => number)).toEqual(['L-0002']);
  });

  it('shows the promise that was chosen last, whatever is read again for the one before', async () => {
    const promises = usePromiseStore();
    promises.follow();
    net.read.mockResolvedValueOnce(VIEW);
    await promises.look('p1');
    net.read.mockImplementation((path: string) =>
      Promise.resolve(path.includes('?') ? page([]) : { ...VIEW, id: path.slice(-2) }),
    );
    const chosen = promises.look('p2');
    tell({ kind: 'relays-changed' });
    await chosen;
    await eventually(() => expect(promises.looked?.id).toBe('p2'));
    expect(net.read).not.toHaveBeenLastCalledWith('/waiting/promises/p1');
  });

  it('adds the next page to the one before, and reads both again when something changes', async () => {
    const promises = usePromiseStore();
    const numbers = () => promises.page?.rows.map(({ number }) => number);
    const shop = (...pages: string[][]) =>
      net.read.mockImplementation((path: string) =>
        Promise.resolve(page(pages[Number(path.slice(-1))] ?? [])),
      );
    shop(['L-0001'], ['L-0002']);
    promises.follow();
    await promises.load();
    expect(numbers()).toEqual(['L-0001']);
    await promises.more();
    expect(numbers()).toEqual(['L-0001', 'L-0002']);
    // One that was asked for on two pages, because another one came, stands there once.
    shop(['L-0003', 'L-0001'], ['L-0001', 'L-0002']);
    tell({ kind: 'promises-changed' });
    await eventually(() => expect(numbers()).toEqual(['L-0003', 'L-0001', 'L-0002']));
  });
});
