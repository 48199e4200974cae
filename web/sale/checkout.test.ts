import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { FinishedSale, FinishSale } from '../../contract/counter.ts';
import type { TillFacts } from '../../contract/setup.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import type { Offer } from '../../core/offers/offer.ts';
import { ONE } from '../../core/quantity.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { late } from '../../contract/testing/late.ts';
import { memoryStorage } from '../testing/memoryStorage.ts';
import { tell } from '../testing/houseEvents.ts';
import { useBasketStore } from './basketStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const sound = vi.hoisted(() => ({ soundRefusal: vi.fn() }));
vi.mock('./sound.ts', () => sound);
const claims = vi.hoisted(() => ({ hold: vi.fn(), letGo: vi.fn() }));
vi.mock('./offerClaims.ts', () => ({ offerClaims: () => claims }));
const stores = vi.hoisted(() => ({ countersigns: { need: vi.fn() }, till: { facts: null, load: vi.fn() } }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => stores.countersigns }));
const catalogue = vi.hoisted(() => ({
  load: vi.fn(() => Promise.resolve()),
  refresh: vi.fn(() => Promise.resolve()),
  setFacts: vi.fn(() => Promise.resolve()),
  setStock: vi.fn(() => Promise.resolve()),
  catchUp: vi.fn(() => Promise.resolve()),
  practise: vi.fn(() => Promise.resolve()),
  nudges: () => Promise.resolve([]),
  /** Goods cost their list prices. */
  price: ({ lines }: Basket) =>
    Promise.resolve({
      priced: {
        lines: lines.map(({ id }) => ({ id })),
        total: lines.reduce((total, { listPrice, quantity }) => total + (listPrice * quantity) / 1000, 0),
      },
      stock: {},
    }),
}));
vi.mock('./catalogue/thread.ts', () => ({ catalogue }));

const line = (id: string, more: Partial<BasketLine> = {}): BasketLine => ({
  id,
  itemId: 1,
  number: 'X',
  name: 'Stand',
  unit: 'each',
  decimals: 0,
  taxCategoryId: 1,
  quantity: ONE,
  listPrice: 1_000,
  ...more,
});
const FACTS = { till: { id: 7 } } as TillFacts;
const sale = (id: string) => ({ id, total: 1_000 }) as unknown as FinishedSale;
const refused = (type: string, data?: object) =>
  new ApiProblem({ type, title: 'Refused.', status: 409, data } as never);
const kept = () =>
  JSON.parse(localStorage.getItem('mondrel.basket.7') ?? 'null') as {
    basket: Basket;
    unsent: boolean;
    paying?: FinishSale;
    finished?: FinishedSale;
  } | null;
const words = () => useNoticeStore().notice?.text;
const ids = () => useBasketStore().lines.map(({ id }) => id);

beforeEach(() => {
  setActivePinia(createPinia());
  vi.stubGlobal('localStorage', memoryStorage());
  vi.useFakeTimers();
  for (const one of [net.read, net.write, net.writeSurely, claims.hold, claims.letGo]) one.mockReset();
  stores.countersigns.need.mockReset();
  sound.soundRefusal.mockReset();
  stores.till.load.mockReset().mockResolvedValue(FACTS);
  net.read.mockResolvedValue(null);
  net.write.mockResolvedValue({ revision: 1 });
  claims.hold.mockResolvedValue(null);
});
afterEach(() => {
  vi.useRealTimers();
});

/** A basket of this till that is about to be paid. */
async function paying(...lines: BasketLine[]) {
  const basket = useBasketStore();
  await basket.begin(FACTS);
  await basket.change({ ...basket.basket, lines });
  await basket.takePayment();
  return basket;
}

describe('paying in cash', () => {
  it('asks once however often it is pressed, and the next sale begins with the answer', async () => {
    const basket = await paying(line('l1'));
    expect([basket.phase, basket.basket.paymentBegan]).toEqual(['paying', true]);
    const { id } = basket.basket;
    let answer = (_sale: FinishedSale): void => {};
    net.writeSurely.mockReturnValue(new Promise<FinishedSale>((come) => (answer = come)));
    const first = basket.payCash(2_000);
    await basket.payCash(2_000);
    expect(net.writeSurely).toHaveBeenCalledOnce();
    const [, path, body, key] = net.writeSurely.mock.lastCall as [string, string, FinishSale, string];
    expect([path, key]).toEqual(['/counter/sales', id]);
    expect(body).toMatchObject({ expectedTotal: 1_000, handed: 2_000 });
    // It is kept until it is answered.
    expect(kept()?.paying).toMatchObject({ handed: 2_000 });
    answer(sale(id));
    await first;
    expect([basket.phase, basket.finished?.id, basket.lines.length]).toEqual(['done', id, 0]);
    expect([kept()?.paying, kept()?.finished?.id]).toEqual([undefined, id]);
    expect(basket.readyForGoods('Reeds')).toBe(true);
    expect([basket.phase, basket.finished]).toEqual(['basket', null]);
  });

  it('says while the server does not answer, and no more once it has', async () => {
    const basket = await paying(line('l1'));
    const { promise, come } = late<FinishedSale>();
    net.writeSurely.mockReturnValueOnce(promise);
    const paid = basket.payCash(1_000);
    (net.writeSurely.mock.lastCall?.[4] as () => void)();
    expect(words()).toContain('The server does not answer.');
    come(sale(basket.basket.id));
    await paid;
    expect(words()).toBeUndefined();
  });

  it('lets what comes meanwhile wait until it is stored', async () => {
    const basket = await paying(line('l1'));
    expect(await basket.paymentStored(), 'nothing is being stored').toBe(false);
    const { promise, come } = late<FinishedSale>();
    net.writeSurely.mockReturnValueOnce(promise);
    const paid = basket.payCash(1_000);
    const stored = basket.paymentStored();
    expect(basket.busy).toBe(true);
    come({ ...sale(basket.basket.id), change: 320 });
    expect(await stored).toBe(true);
    await paid;
    // The next sale begins at once: the change of this one stays in sight until it is given, also after a reload.
    expect(basket.readyForGoods('Reeds')).toBe(true);
    expect([basket.finished, basket.changeDue]).toEqual([null, 320]);
    setActivePinia(createPinia());
    await useBasketStore().begin(FACTS);
    expect(useBasketStore().changeDue).toBe(320);
    useBasketStore().changeGiven();
    expect(useBasketStore().changeDue).toBe(0);
    const again = await paying(line('l2'));
    net.writeSurely.mockRejectedValueOnce(refused('other-figures'));
    const refusal = again.payCash(1_000);
    expect(await again.paymentStored()).toBe(false);
    await refusal;
  });

  it('is asked again after a reload, with the same key', async () => {
    const basket = await paying(line('l1'));
    const { id } = basket.basket;
    net.writeSurely.mockReturnValue(new Promise(() => {}));
    void basket.payCash(1_000);
    // The page is loaded anew twice: the first time it is gone before it has asked.
    for (const round of [1, 2]) {
      setActivePinia(createPinia());
      net.writeSurely.mockReset().mockReturnValue(new Promise(() => {}));
      void useBasketStore().begin(FACTS);
      await eventually(() => expect(net.writeSurely, `load ${round}`).toHaveBeenCalledOnce());
      expect(kept()?.paying?.basket.id).toBe(id);
    }
    expect(net.writeSurely.mock.lastCall?.[3]).toBe(id);
    expect(useBasketStore().readyForGoods('Reeds')).toBe(false);
    expect(words()).toContain('Reeds was not added');
  });

  it('needs no money where nothing is to pay for goods that come back', async () => {
    net.writeSurely.mockResolvedValue(sale('s1'));
    const basket = await paying(line('l1'), line('l2', { quantity: -ONE }));
    expect(basket.phase).toBe('done');
    expect(net.writeSurely.mock.lastCall?.[2]).toMatchObject({ expectedTotal: 0, handed: 0 });
  });

  it('does not begin with an empty basket, unless money is held for it', async () => {
    const basket = await paying();
    expect(basket.phase).toBe('basket');
    basket.moneyHeld = true;
    await basket.takePayment();
    expect(basket.phase).toBe('paying');
  });
});

describe('a payment that is refused', () => {
  it('with other figures shows those of the server', async () => {
    const basket = await paying(line('l1'));
    const right = { ...basket.basket, lines: [line('l1', { listPrice: 1_200 })] };
    net.writeSurely.mockRejectedValue(refused('figures-differ', { basket: right }));
    await basket.payCash(1_000);
    expect([basket.total, basket.phase, words()]).toEqual([1_200, 'paying', 'Refused.']);
    expect(kept()?.paying).toBeUndefined();
  });

  it('as it was paid before, with another amount, stands as it was', async () => {
    const basket = await paying(line('l1'));
    net.writeSurely.mockRejectedValue(refused('key-used'));
    net.read.mockResolvedValue({ finished: sale('earlier') });
    await basket.payCash(1_000);
    expect([basket.phase, basket.finished?.id]).toEqual(['done', 'earlier']);
  });

  it('without an open drawer goes back to the basket', async () => {
    const basket = await paying(line('l1'));
    net.writeSurely.mockRejectedValue(refused('no-open-drawer'));
    await basket.payCash(1_000);
    expect([basket.phase, ids()]).toEqual(['basket', ['l1']]);
  });

  it('as a code was used up comes without it', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    const codes = [
      { code: 'ONE', offerId: 1 },
      { code: 'TWO', offerId: 2 },
    ];
    await basket.change({ ...basket.basket, lines: [line('l1')], codes } as Basket);
    claims.hold.mockResolvedValueOnce(refused('offer-used-up', { codes: ['ONE'], points: false }));
    await basket.takePayment();
    expect([basket.phase, basket.basket.codes?.map(({ code }) => code)]).toEqual(['basket', ['TWO']]);
    expect(catalogue.setFacts).toHaveBeenCalledWith(FACTS);
  });

  it('as nobody approved what is in it now asks for that approval', async () => {
    const steps = [{ subject: 'line:l1', from: 1_000, to: 500, unit: 'money', amount: 500 }];
    const basket = await paying(
      line('l1', { typedPrice: { unitPrice: 500, reason: 'Worn' } } as Partial<BasketLine>),
    );
    stores.countersigns.need.mockResolvedValue({ id: 'c9' });
    net.writeSurely.mockRejectedValue(
      refused('countersign-needed', { needed: { right: 'price.change', about: basket.basket.id, steps } }),
    );
    await basket.payCash(1_000);
    await eventually(() => expect(basket.lines[0]?.typedPrice?.countersign).toBe('c9'));
    expect([basket.phase, stores.countersigns.need.mock.lastCall?.[0]]).toEqual(['basket', 'price.change']);
  });
});

describe('goods that are taken out', () => {
  it('after payment has begun need a right', async () => {
    const basket = await paying(line('l1'), line('l2'));
    basket.backToBasket();
    expect([basket.phase, claims.letGo.mock.calls.length]).toEqual(['basket', 1]);
    stores.countersigns.need.mockResolvedValueOnce(null);
    await basket.remove(basket.lines[0] ?? null);
    expect(ids()).toEqual(['l1', 'l2']);
    stores.countersigns.need.mockResolvedValueOnce({ id: undefined });
    await basket.remove(basket.lines[0] ?? null);
    expect([ids(), basket.chosenId]).toEqual([['l2'], 'l2']);
    expect(stores.countersigns.need.mock.lastCall?.[0]).toBe('line.remove-late');
  });

  it('or added while a terminal is asked are refused aloud, and the words outlive the sale', async () => {
    const basket = await paying(line('l1'));
    basket.deviceAsked = true;
    expect(basket.readyForGoods('Reeds')).toBe(false);
    expect(sound.soundRefusal).toHaveBeenCalledOnce();
    await basket.finish(sale(basket.basket.id));
    expect([basket.phase, words()]).toEqual([
      'done',
      'Reeds was not added: the card terminal is being asked. Call it off first.',
    ]);
  });

  it('are none while a terminal is asked', async () => {
    const basket = await paying(line('l1'));
    basket.deviceAsked = true;
    await basket.change({ ...basket.basket, lines: [] });
    expect([ids(), words()]).toEqual([
      ['l1'],
      'The card terminal is being asked for this basket. Call it off first.',
    ]);
    basket.backToBasket();
    expect(basket.phase).toBe('paying');
    expect(basket.readyForGoods('Reeds')).toBe(false);
  });
});

describe('lines', () => {
  it('go up and down by one, and out below it', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    await basket.change({
      ...basket.basket,
      lines: [line('l1'), line('l2', { decimals: 2, quantity: 1_500 })],
    });
    expect(basket.chosenId).toBe('l2');
    await basket.step(1);
    expect(basket.lines[1]?.quantity).toBe(1_600);
    basket.choose(-1);
    basket.choose(-1);
    expect(basket.chosenId).toBe('l1');
    await basket.step(-1);
    expect(ids()).toEqual(['l2']);
  });

  it('are picked together, and all of them', async () => {
    const basket = useBasketStore();
    await basket.change({ ...basket.basket, lines: [line('l1'), line('l2')] });
    basket.pick('l2');
    expect(basket.pickedLines.map(({ id }) => id)).toEqual(['l2']);
    basket.pickAll();
    basket.pick('l2');
    expect(basket.pickedLines.map(({ id }) => id)).toEqual(['l1']);
    basket.pickNone();
    expect(basket.pickedLines).toEqual([]);
  });

  it('are not those of somebody else’s points', async () => {
    const basket = useBasketStore();
    await basket.change({
      ...basket.basket,
      lines: [line('l1')],
      customer: { id: 4, name: 'Wilma' },
      pointsOff: 500,
    } as Basket);
    await basket.setCustomer({ id: 4, name: 'Wilma Corrin' });
    expect(basket.basket).toMatchObject({ pointsOff: 500, customer: { name: 'Wilma Corrin' } });
    await basket.setCustomer(null);
    expect([basket.basket.pointsOff, basket.basket.customer]).toEqual([undefined, undefined]);
  });
});

describe('practice', () => {
  const OFFER = { id: 3 } as Offer;

  it('neither keeps nor pays, and the basket comes back as it was', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    await basket.change({ ...basket.basket, lines: [line('l1')] });
    const { id } = basket.basket;
    await vi.advanceTimersByTimeAsync(500);
    net.write.mockClear();
    await basket.practise(OFFER);
    await basket.change({ ...basket.basket, lines: [line('l1'), line('l2')] });
    await basket.takePayment();
    await vi.advanceTimersByTimeAsync(5_000);
    expect([basket.phase, net.write.mock.calls.length, kept()?.basket.id]).toEqual(['basket', 0, id]);
    expect(words()).toContain('This basket is for practice');
    await basket.endPractice();
    expect([basket.basket.id, ids(), basket.practised]).toEqual([id, ['l1'], null]);
    expect(catalogue.practise).toHaveBeenLastCalledWith(null);
  });
});

describe('what other windows of this till do', () => {
  it('is shown, unless something goes on here', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    basket.follow();
    const theirs = { basket: { id: 'b9', lines: [line('l9')] }, revision: 4, savedBy: null };
    net.read.mockResolvedValue(theirs);
    tell({ kind: 'basket-changed', tillId: 8, revision: 4 });
    tell({ kind: 'basket-changed', tillId: 7, revision: 0 });
    expect(net.read).toHaveBeenCalledTimes(1);
    tell({ kind: 'basket-changed', tillId: 7, revision: 4 });
    await eventually(() => expect(ids()).toEqual(['l9']));
    await basket.change({ ...basket.basket, lines: [line('l9'), line('l10')] });
    tell({ kind: 'basket-changed', tillId: 7, revision: 9 });
    expect(net.read).toHaveBeenCalledTimes(2);
  });

  it('ends the sale here where it was paid there; not while it is paid here', async () => {
    const basket = await paying(line('l1'));
    basket.follow();
    tell({ kind: 'sale-finished', saleId: basket.basket.id });
    expect(ids()).toEqual(['l1']);
    basket.backToBasket();
    tell({ kind: 'sale-finished', saleId: basket.basket.id });
    await eventually(() => expect(ids()).toEqual([]));
    expect(kept()?.unsent).toBe(false);
  });

  it('gives the basket of another till to this one, and takes this one’s away', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    await basket.change({ ...basket.basket, lines: [line('l1')] });
    const before = basket.basket.id;
    await basket.startAfresh();
    expect([ids(), basket.basket.id === before, kept()?.unsent]).toEqual([[], false, false]);
    await basket.continueWith({ basket: { id: 'b5', lines: [line('l5')] }, revision: 3, savedBy: null });
    await basket.change({ ...basket.basket, lines: [] });
    await vi.advanceTimersByTimeAsync(500);
    expect(net.write.mock.lastCall?.[2]).toMatchObject({ basket: { id: 'b5' }, revision: 3 });
  });
});

describe('the shop and its goods', () => {
  it('change what the basket comes to', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    basket.follow();
    tell({ kind: 'shop-changed' });
    await eventually(() => expect(catalogue.setFacts).toHaveBeenCalledWith(FACTS));
    tell({ kind: 'catalogue-changed' });
    expect(catalogue.refresh).toHaveBeenCalled();
    tell({ kind: 'stock-changed', levels: [{ itemId: 1 }] });
    expect(catalogue.setStock).toHaveBeenCalledWith([{ itemId: 1 }]);
    tell({ kind: 'connected' });
    expect(catalogue.catchUp).toHaveBeenCalled();
  });

  it('are asked for again where the server was away just then', async () => {
    const basket = useBasketStore();
    await basket.begin(FACTS);
    const stop = basket.follow();
    catalogue.refresh.mockClear();
    catalogue.refresh
      .mockRejectedValueOnce(new Unreachable(false))
      .mockRejectedValueOnce(new Unreachable(false));
    tell({ kind: 'catalogue-changed' });
    await vi.advanceTimersByTimeAsync(5000);
    expect(catalogue.refresh).toHaveBeenCalledTimes(3);
    catalogue.refresh.mockRejectedValueOnce(new Unreachable(false));
    tell({ kind: 'catalogue-changed' });
    stop();
    await vi.advanceTimersByTimeAsync(5000);
    expect(catalogue.refresh).toHaveBeenCalledTimes(4);
  });
});
