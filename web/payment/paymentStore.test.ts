import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { nextTick, reactive } from 'vue';
import type { FinishedSale } from '../../contract/counter.ts';
import type { PaymentView, TakeTender, TenderView } from '../../contract/payment.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { late } from '../../contract/testing/late.ts';
import { tell } from '../testing/houseEvents.ts';
import { usePaymentStore } from './paymentStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const stores = vi.hoisted(() => ({ basket: {} as Record<string, unknown>, customers: {}, till: {} }));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('../people/customerStore.ts', () => ({ useCustomerStore: () => stores.customers }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const typeOf = (id: number, kind: TenderType['kind']) =>
  ({ id, kind, name: kind, active: true }) as TenderType;
const [CASH, CARD, ACCOUNT, CHEQUE] = [
  typeOf(1, 'cash'),
  typeOf(2, 'card'),
  typeOf(3, 'account'),
  typeOf(4, 'cheque'),
];
const tender = (id: string, state: TenderView['state'], amount: number, more: Partial<TenderView> = {}) =>
  ({ id, state, amount, name: 'Card', words: '', terminalId: null, ...more }) as TenderView;
const viewOf = (...tenders: TenderView[]): PaymentView => ({
  basketId: 'b1',
  tenders,
  finished: null,
  begun: null,
});

function basketOf() {
  return reactive({
    basket: { id: 'b1', lines: [], paymentBegan: true as boolean | undefined, roundUp: undefined },
    lines: [{ id: 'l1' }] as { id: string; account?: unknown }[],
    due: 10_000,
    total: 10_000,
    busy: false,
    practised: null,
    phase: 'paying',
    deviceAsked: false,
    moneyHeld: false,
    storing: vi.fn((work: () => Promise<void>) => {
      basket.busy = true;
      return work().finally(() => (basket.busy = false));
    }),
    standBy: vi.fn(() => Promise.resolve()),
    finish: vi.fn(() => Promise.resolve()),
    goOnPaying: vi.fn(),
    backToBasket: vi.fn(),
    refusePayment: vi.fn(() => Promise.resolve()),
    change: vi.fn(() => Promise.resolve()),
  });
}
let basket: ReturnType<typeof basketOf>;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.write, net.writeSurely]) one.mockReset();
  basket = basketOf();
  stores.basket = basket;
  stores.customers = reactive({ panel: null as unknown });
  stores.till = reactive({
    facts: {
      till: { id: 7 },
      payment: {
        types: [CASH, CARD, ACCOUNT, CHEQUE, { ...CHEQUE, id: 5, active: false }],
        terminals: [{ id: 1 }],
        funds: [{ id: 9, name: 'Youth orchestra' }],
        roundUpStep: 100,
      },
    },
  });
});

const kept = () => localStorage.getItem('mondrel.tender.7');
const asked = (call = 0): TakeTender => net.writeSurely.mock.calls[call]?.[2] as TakeTender;

describe('the means of payment', () => {
  it('are those in use; a card needs a terminal, an account somebody who has one', () => {
    const payment = usePaymentStore();
    const kinds = () => payment.types.map(({ kind }) => kind);
    expect(kinds()).toEqual(['cash', 'card', 'cheque']);
    (stores.customers as { panel: unknown }).panel = { accounts: [{ id: 1 }] };
    expect(kinds()).toEqual(['cash', 'card', 'account', 'cheque']);
    // Nobody pays off an account by charging it.
    basket.lines = [{ id: 'l1', account: { id: 1 } }];
    expect(kinds()).not.toContain('account');
    (stores.till as { facts: { payment: { terminals: unknown[] } } }).facts.payment.terminals = [];
    expect(kinds()).toEqual(['cash', 'cheque']);
  });

  it('stay chosen when another one comes before them, as an account does once it is known', () => {
    const { facts } = stores.till as { facts: { payment: { types: TenderType[] } } };
    facts.payment.types = [ACCOUNT, CASH];
    const payment = usePaymentStore();
    expect(payment.chosen?.id).toBe(CASH.id);
    (stores.customers as { panel: unknown }).panel = { accounts: [{ id: 1 }] };
    expect(payment.types.map(({ id }) => id)).toEqual([ACCOUNT.id, CASH.id]);
    expect(payment.chosen?.id).toBe(CASH.id);
  });

  it('begin with the first, and with it again after money was taken', async () => {
    const payment = usePaymentStore();
    expect(payment.chosen?.id).toBe(CASH.id);
    payment.chosenId = CARD.id;
    expect(payment.chosen?.id).toBe(CARD.id);
    await payment.show(viewOf(tender('t1', 'declined', 4_000)));
    expect(payment.chosen?.id).toBe(CARD.id);
    await payment.show(viewOf(tender('t1', 'declined', 4_000), tender('t2', 'approved', 4_000)));
    expect(payment.chosen?.id).toBe(CASH.id);
  });
});

describe('what is left to pay', () => {
  it('is what the basket comes to without what was taken or is being asked for, and its share of what is split', async () => {
    const payment = usePaymentStore();
    await payment.show(
      viewOf(
        tender('t1', 'approved', 3_000),
        tender('t2', 'asked', 2_000),
        tender('t3', 'declined', 5_000),
        tender('t4', 'undone', 1_000),
      ),
    );
    expect([payment.takenAmount, payment.left]).toEqual([3_000, 5_000]);
    expect(payment.held.map(({ id }) => id)).toEqual(['t1', 't2']);
    expect(payment.open?.id).toBe('t2');
    payment.parts = 3;
    expect(payment.share).toBe(1_667);
  });

  it('is what it is after what was taken last, whenever an earlier look is answered', async () => {
    const payment = usePaymentStore();
    const look = late<PaymentView>();
    net.read.mockReturnValueOnce(look.promise);
    const looked = payment.load();
    net.writeSurely.mockResolvedValueOnce(viewOf(tender('t1', 'approved', 4_000)));
    await payment.take(CASH, 4_000);
    expect(payment.left).toBe(6_000);
    look.come(viewOf());
    await looked;
    expect(payment.left).toBe(6_000);
  });

  it('keeps the basket as it is while a terminal is asked, and goes on paying while money is held', async () => {
    const payment = usePaymentStore();
    await payment.show(viewOf(tender('t1', 'asked', 3_000)));
    expect([basket.deviceAsked, basket.moneyHeld]).toEqual([true, true]);
    expect(basket.goOnPaying).toHaveBeenCalledOnce();
    await payment.show(viewOf(tender('t1', 'declined', 3_000)));
    expect([basket.deviceAsked, basket.moneyHeld]).toEqual([false, false]);
    expect(basket.backToBasket).not.toHaveBeenCalled();
    basket.lines = [];
    await payment.show(viewOf(tender('t1', 'undone', 3_000)));
    expect(basket.backToBasket).toHaveBeenCalledOnce();
  });

  it('is forgotten with the basket', async () => {
    const payment = usePaymentStore();
    await payment.show(viewOf(tender('t1', 'approved', 3_000)));
    payment.parts = 2;
    basket.basket = { ...basket.basket, id: 'b2' };
    await nextTick();
    expect([payment.view, payment.parts, payment.left, basket.moneyHeld]).toEqual([null, 1, 10_000, false]);
    // An answer about the basket before is of no use.
    await payment.show(viewOf(tender('t1', 'approved', 3_000)));
    expect(payment.view).toBeNull();
  });
});

describe('a number that is scanned', () => {
  it('is somebody’s, nobody’s, or cannot be told just now, which is said', async () => {
    const payment = usePaymentStore();
    net.write.mockResolvedValueOnce({ number: '10000000017' });
    expect(await payment.lookUp('10000000017')).toMatchObject({ number: '10000000017' });
    net.write.mockRejectedValueOnce(
      new ApiProblem({ type: 'no-card', title: 'There is none.', status: 404 } as never),
    );
    expect(await payment.lookUp('10000000025')).toBeNull();
    const wait = { type: 'wait', title: 'Too many unknown numbers.', status: 429, data: { seconds: 4 } };
    net.write.mockRejectedValueOnce(new ApiProblem(wait as never));
    expect(await payment.lookUp('10000000033')).toBe('later');
    expect(useNoticeStore().notice?.text).toBe('Too many unknown numbers.');
  });
});

describe('a payment that is taken', () => {
  it('is kept until it is answered, and asked for once however often it is pressed', async () => {
    const payment = usePaymentStore();
    let answer = (_view: PaymentView): void => {};
    net.writeSurely.mockReturnValue(new Promise<PaymentView>((come) => (answer = come)));
    payment.parts = 2;
    const first = payment.take(CARD, 5_000, { terminalId: 1 });
    expect(await payment.take(CARD, 5_000, { terminalId: 1 })).toBe(false);
    // Goods of the next customer wait for it.
    expect(basket.busy).toBe(true);
    expect(JSON.parse(kept() ?? '')).toMatchObject({ typeId: 2, amount: 5_000, terminalId: 1 });
    answer(viewOf(tender('t1', 'approved', 5_000)));
    expect(await first).toBe(true);
    expect(basket.busy).toBe(false);
    expect(net.writeSurely).toHaveBeenCalledOnce();
    // Its id is its key.
    expect(net.writeSurely.mock.calls[0]?.[3]).toBe(asked().id);
    expect([kept(), payment.parts, payment.left]).toEqual([null, 1, 5_000]);
  });

  it('says next to its field what was wrong with it; what else was refused is said by the basket', async () => {
    const payment = usePaymentStore();
    const wrong = new ApiProblem({
      type: 'invalid',
      title: 'Not taken.',
      status: 422,
      fields: [{ field: 'number', message: 'There is no such card.' }],
    } as never);
    net.writeSurely.mockRejectedValueOnce(wrong);
    await expect(payment.take(CHEQUE, 5_000)).rejects.toBe(wrong);
    expect([kept(), payment.busy]).toEqual([null, false]);
    const gone = new ApiProblem({ type: 'figures-differ', title: 'Another total.', status: 409 } as never);
    net.writeSurely.mockRejectedValueOnce(gone);
    expect(await payment.take(CHEQUE, 5_000)).toBe(false);
    expect(basket.refusePayment).toHaveBeenCalledWith(gone);
  });

  it('finishes the sale with the last one', async () => {
    const payment = usePaymentStore();
    const sale = { id: 'b1' } as PaymentView['finished'];
    net.writeSurely.mockResolvedValue({ ...viewOf(tender('t1', 'approved', 10_000)), finished: sale });
    await payment.take(CASH, 10_000);
    expect(basket.finish).toHaveBeenCalledWith(sale);
    expect(payment.view).toBeNull();
  });
});

describe('after a reload', () => {
  it('asks again for what was not answered, with the same key, and finds what was taken', async () => {
    localStorage.setItem('mondrel.tender.7', JSON.stringify({ id: 'k1', basket: { id: 'b1' } }));
    net.writeSurely.mockResolvedValue(viewOf(tender('k1', 'approved', 4_000)));
    net.read.mockResolvedValue(viewOf(tender('k1', 'approved', 4_000)));
    const payment = usePaymentStore();
    await payment.begin();
    expect(net.writeSurely.mock.calls[0]?.[3]).toBe('k1');
    expect(net.read).toHaveBeenCalledWith('/payment/baskets/b1');
    expect([payment.takenAmount, kept()]).toEqual([4_000, null]);
  });

  it('lets go what was asked for another basket', async () => {
    localStorage.setItem('mondrel.tender.7', JSON.stringify({ id: 'k1', basket: { id: 'b0' } }));
    basket.basket.paymentBegan = undefined;
    await usePaymentStore().begin();
    expect([net.writeSurely.mock.calls.length, net.read.mock.calls.length, kept()]).toEqual([0, 0, null]);
  });
});

describe('a payment that was taken', () => {
  it('is undone, and what the device says is said', async () => {
    const payment = usePaymentStore();
    const paid = tender('t1', 'approved', 4_000);
    await payment.show(viewOf(paid));
    net.write.mockResolvedValue(viewOf({ ...paid, state: 'undone', words: 'It was sent back.' }));
    payment.chosenId = CARD.id;
    await payment.does(paid, 'undo');
    expect(net.write).toHaveBeenCalledWith('POST', '/payment/tenders/t1/undo');
    expect(useNoticeStore().notice?.text).toBe('Card undone. It was sent back.');
    expect(payment.chosenId).toBe(CASH.id);
  });

  it('says why it was not undone', async () => {
    const payment = usePaymentStore();
    net.write.mockRejectedValue(
      new ApiProblem({ type: 'not-now', title: 'The terminal is busy.', status: 409 } as never),
    );
    await payment.does(tender('t1', 'approved', 4_000), 'undo');
    expect(useNoticeStore().notice?.text).toContain('The terminal is busy.');
    expect(payment.busy).toBe(false);
  });
});

describe('a round total', () => {
  it('is asked for once, while nothing was given on a terminal', async () => {
    const payment = usePaymentStore();
    basket.total = 9_940;
    expect(payment.roundUp).toEqual({ fundId: 9, fund: 'Youth orchestra', amount: 60 });
    await payment.giveRoundUp(true);
    expect(basket.change).toHaveBeenCalledWith(
      expect.objectContaining({ roundUp: { fundId: 9, fund: 'Youth orchestra', amount: 60 } }),
    );
    await payment.show(viewOf(tender('t1', 'approved', 1_000, { terminalId: 1 })));
    expect(payment.roundUp).toBeNull();
    await payment.show(viewOf());
    expect(payment.roundUp).not.toBeNull();
    await payment.giveRoundUp(false);
    expect(payment.roundUp).toBeNull();
  });

  it('is not asked for on the terminal after somebody declined it', async () => {
    const payment = usePaymentStore();
    net.writeSurely.mockResolvedValue(viewOf());
    await payment.take(CARD, 1_000);
    await payment.takeBackRoundUp();
    await payment.take(CARD, 1_000);
    expect([asked(0).askRoundUp, asked(1).askRoundUp]).toEqual([true, false]);
  });

  it('is none where the total is round, or the shop has no fund', () => {
    const payment = usePaymentStore();
    expect(payment.roundUp).toBeNull();
    basket.total = 9_940;
    (stores.till as { facts: { payment: { funds: unknown[] } } }).facts.payment.funds = [];
    expect(payment.roundUp).toBeNull();
  });
});

describe('what happens elsewhere', () => {
  it('is looked at where it is about this basket, or may have been missed', async () => {
    const payment = usePaymentStore();
    const stop = payment.follow();
    net.read.mockResolvedValue(viewOf(tender('t1', 'approved', 2_000)));
    tell({ kind: 'payment-changed', basketId: 'b2' });
    tell({ kind: 'sale-finished', saleId: 'b3' });
    expect(net.read).not.toHaveBeenCalled();
    tell({ kind: 'payment-changed', basketId: 'b1' });
    await eventually(() => expect(payment.takenAmount).toBe(2_000));
    tell({ kind: 'connected' });
    expect(net.read).toHaveBeenCalledTimes(2);
    stop();
  });

  it('ends with the sale: what is told of it later leaves its change in sight', async () => {
    const payment = usePaymentStore();
    payment.follow();
    basket.finish.mockImplementation(() => {
      Object.assign(basket, { basket: { id: 'b2', lines: [] }, lines: [], phase: 'done' });
      return Promise.resolve();
    });
    const first = late<PaymentView>();
    net.read.mockReturnValueOnce(first.promise).mockResolvedValue({ ...viewOf(), basketId: 'b2' });
    tell({ kind: 'payment-changed', basketId: 'b1' });
    tell({ kind: 'sale-finished', saleId: 'b1' });
    first.come({ ...viewOf(tender('t1', 'approved', 10_000)), finished: { id: 'b1' } as FinishedSale });
    await eventually(() => expect(basket.finish).toHaveBeenCalledOnce());
    await nextTick();
    expect(net.read).toHaveBeenCalledOnce();
    // Nor does a look at the next one.
    await payment.load();
    expect([basket.backToBasket.mock.calls, basket.phase]).toEqual([[], 'done']);
  });

  it('is not asked for of a basket that is for practice', async () => {
    const payment = usePaymentStore();
    (basket as { practised: unknown }).practised = { id: 1 };
    await payment.load();
    expect(net.read).not.toHaveBeenCalled();
  });
});
