import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { reactive } from 'vue';
import type { GiveRefund, RefundPlan } from '../../contract/payment.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useRefundStore } from './refundStore.ts';

const net = vi.hoisted(() => ({ write: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const stores = vi.hoisted(() => ({
  basket: {} as Record<string, unknown>,
  payment: { show: vi.fn(() => Promise.resolve()) },
  countersigns: { need: vi.fn() },
  session: { person: { role: 'cashier' }, may: vi.fn(() => false) },
  till: { facts: { refundLimits: { cashier: 5_000 } }, money: (amount: number) => (amount / 100).toFixed(2) },
}));
vi.mock('../sale/basketStore.ts', () => ({ useBasketStore: () => stores.basket }));
vi.mock('./paymentStore.ts', () => ({ usePaymentStore: () => stores.payment }));
vi.mock('../staff/countersignStore.ts', () => ({ useCountersignStore: () => stores.countersigns }));
vi.mock('../staff/sessionStore.ts', () => ({ useSessionStore: () => stores.session }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));

const planOf = (amount: number, more: object = {}) =>
  ({
    amount,
    mostCash: 10_000,
    account: null,
    parts: [{ to: 'tender', saleId: 's1', position: 1, name: 'Card ·· 4242', amount }],
    ...more,
  }) as RefundPlan;

function basketOf(net: number) {
  const store = reactive({
    basket: {
      id: 'b1',
      lines: [
        {
          id: 'l1',
          quantity: -1_000,
          listPrice: 0 - net,
          comesBack: { reason: 'Not wanted', condition: 'to-stock' },
        },
      ],
    } as unknown as Basket,
    total: net,
    priced: { total: net, lines: [{ id: 'l1', net, taxes: [], records: [] }], taxMode: 'on-top' },
    backToBasket: vi.fn(),
    storing: vi.fn((work: () => Promise<void>) => work()),
    refusePayment: vi.fn(() => Promise.resolve()),
    change: vi.fn((next: Basket) => {
      store.basket = next;
      return Promise.resolve();
    }),
  });
  return store;
}
let basket: ReturnType<typeof basketOf>;
const given = (): GiveRefund => net.writeSurely.mock.lastCall?.[2] as GiveRefund;

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.write, net.writeSurely, stores.payment.show, stores.countersigns.need])
    one.mockReset();
  stores.session.may.mockReturnValue(false);
  net.writeSurely.mockResolvedValue({ finished: { id: 's9' } });
  basket = basketOf(-2_000);
  stores.basket = basket;
});

describe('money that goes back', () => {
  it('goes as it is planned, or another way as a whole', async () => {
    const refund = useRefundStore();
    net.write.mockResolvedValue(planOf(2_000, { account: 'Corrin & Sons' }));
    await refund.load();
    expect(refund.parts).toMatchObject([{ to: 'tender', saleId: 's1', amount: 2_000 }]);
    refund.way = 'account';
    expect(refund.parts).toEqual([
      { to: 'account', saleId: null, position: null, name: 'House account, Corrin & Sons', amount: 2_000 },
    ]);
    refund.way = 'store-credit';
    await refund.give();
    expect(given()).toMatchObject({ expectedTotal: -2_000, parts: [{ to: 'store-credit', amount: 2_000 }] });
    expect(stores.payment.show).toHaveBeenCalledWith({ finished: { id: 's9' } });
  });

  it('is given once however often it is pressed, and waits for its plan', async () => {
    const refund = useRefundStore();
    let answer = (_plan: RefundPlan): void => {};
    net.write.mockReturnValue(new Promise<RefundPlan>((come) => (answer = come)));
    void refund.load();
    const first = refund.give();
    await refund.give();
    expect(net.writeSurely).not.toHaveBeenCalled();
    answer(planOf(2_000));
    await first;
    expect(net.writeSurely).toHaveBeenCalledOnce();
  });

  it('is planned again where a part of it could not be given', async () => {
    const refund = useRefundStore();
    net.write.mockResolvedValueOnce(planOf(2_000)).mockResolvedValueOnce(planOf(500));
    net.writeSurely.mockResolvedValue({ finished: null });
    await refund.load();
    await refund.give();
    expect(refund.plan?.amount).toBe(500);
  });

  it('says what was refused, and shows other figures', async () => {
    const refund = useRefundStore();
    net.write.mockResolvedValue(planOf(2_000));
    await refund.load();
    const differ = new ApiProblem({ type: 'figures-differ', title: 'Another total.', status: 409 } as never);
    net.writeSurely.mockRejectedValue(differ);
    await refund.give();
    expect(useNoticeStore().notice?.text).toContain('Another total.');
    expect(basket.refusePayment).toHaveBeenCalledWith(differ);
    expect(refund.busy).toBe(false);
  });
});

describe('a refund that not everybody may give', () => {
  it('above the limit of the role is approved before it is planned', async () => {
    basket = basketOf(-9_000);
    stores.basket = basket;
    const refund = useRefundStore();
    stores.countersigns.need.mockResolvedValueOnce(null);
    await refund.load();
    expect([net.write.mock.calls.length, basket.backToBasket.mock.calls.length]).toEqual([0, 1]);
    stores.countersigns.need.mockResolvedValueOnce({ id: 'c1' });
    net.write.mockResolvedValue(planOf(9_000));
    await refund.load();
    expect(stores.countersigns.need.mock.lastCall?.slice(0, 3)).toEqual(['return.large', 'b1', '90.00']);
    expect(basket.basket.refundCountersign).toBe('c1');
    expect(refund.plan?.amount).toBe(9_000);
    // It is approved once.
    await refund.load();
    expect(stores.countersigns.need).toHaveBeenCalledTimes(2);
  });

  it('in cash above what the drawer gives is approved as it is given', async () => {
    const refund = useRefundStore();
    net.write.mockResolvedValue(planOf(2_000, { mostCash: 1_500 }));
    await refund.load();
    refund.way = 'cash';
    stores.countersigns.need.mockResolvedValueOnce(null);
    await refund.give();
    expect(net.writeSurely).not.toHaveBeenCalled();
    stores.countersigns.need.mockResolvedValueOnce({ id: 'c2' });
    await refund.give();
    expect(given()).toMatchObject({ countersign: 'c2', parts: [{ to: 'cash', amount: 2_000 }] });
  });

  it('goes back to the basket where it cannot be planned', async () => {
    const refund = useRefundStore();
    net.write.mockRejectedValue(
      new ApiProblem({ type: 'no-open-drawer', title: 'Closed.', status: 409 } as never),
    );
    await refund.load();
    expect(basket.backToBasket).toHaveBeenCalledOnce();
    await refund.give();
    expect(net.writeSurely).not.toHaveBeenCalled();
  });
});
