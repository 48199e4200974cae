import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref } from 'vue';
import type { PaymentView, RefundPlan } from '../../contract/payment.ts';
import type { Basket } from '../../core/counter/basket.ts';
import { largeRefund } from '../../core/counter/neededRights.ts';
import { cashRefundStep } from '../../core/payment/refund.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { write, writeSurely } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { ApiProblem, formWords } from '../net/problem.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentStore } from './paymentStore.ts';

/** The way money goes: as the shop's rules plan it, all in cash, all as store credit, or all onto a house account. */
export type RefundWay = 'planned' | 'cash' | 'store-credit' | 'account';

/** Money that goes back to the customer. */
export const useRefundStore = defineStore('refund', () => {
  const basket = useBasketStore();
  const payment = usePaymentStore();
  const countersigns = useCountersignStore();
  const session = useSessionStore();
  const till = useTillStore();
  const notices = useNoticeStore();
  const [plan, showPlan, putPlan] = shown<RefundPlan | null>(null);
  const way = ref<RefundWay>('planned');
  const busy = ref(false);

  const parts = computed<RefundPlan['parts']>(() => {
    if (!plan.value) return [];
    if (way.value === 'planned') return plan.value.parts;
    const account = `House account, ${plan.value.account ?? ''}`;
    const name = { cash: 'Cash', 'store-credit': 'Store credit', account }[way.value];
    return [{ to: way.value, saleId: null, position: null, name, amount: plan.value.amount }];
  });

  /** A refund above the limit of the role is approved before anything is planned. @returns false when nobody did */
  async function approved(): Promise<boolean> {
    const { role = 'cashier' } = session.person ?? {};
    const limit = till.facts?.refundLimits[role] ?? null;
    if (!basket.priced || basket.basket.refundCountersign || session.may('return.large')) return true;
    const large = largeRefund(basket.basket, basket.priced, limit);
    if (large.length === 0) return true;
    const approval = await countersigns.need(
      'return.large',
      basket.basket.id,
      till.money(0 - basket.total),
      large.map(({ step }) => step),
    );
    if (!approval?.id) return false;
    await basket.change({ ...basket.basket, refundCountersign: approval.id });
    return true;
  }

  /** The plan that is being asked for: whoever gives back at once waits for it. */
  let planning: Promise<void> = Promise.resolve();
  function load(): Promise<void> {
    planning = askForPlan();
    return planning;
  }

  async function askForPlan(): Promise<void> {
    putPlan(null);
    way.value = 'planned';
    if (!(await approved())) return basket.backToBasket();
    try {
      await showPlan(
        write<RefundPlan>('POST', '/payment/refunds/plan', {
          basket: basket.basket,
          expectedTotal: basket.total,
        }),
      );
    } catch (error) {
      await basket.refusePayment(error);
      if (error instanceof ApiProblem && error.details.type !== 'payment-open') basket.backToBasket();
    }
  }

  /** Gives the money back the chosen way; each part is asked for once, however often it is sent. */
  async function give(): Promise<void> {
    if (busy.value) return;
    busy.value = true;
    try {
      await planning;
      if (!plan.value) return;
      let countersign: string | undefined;
      if (way.value === 'cash' && plan.value.amount > plan.value.mostCash) {
        const approval = await countersigns.need(
          'refund.cash',
          basket.basket.id,
          till.money(plan.value.amount),
          [cashRefundStep(plan.value.amount)],
        );
        if (!approval) return;
        countersign = approval.id;
      }
      const asked: Basket = basket.basket;
      await basket.storing(async () => {
        const answer = await writeSurely<PaymentView>('POST', '/payment/refunds', {
          basket: asked,
          expectedTotal: basket.total,
          parts: parts.value.map(({ to, saleId, position, amount }) => ({
            id: newId(),
            to,
            saleId,
            position,
            amount,
          })),
          countersign,
        });
        await payment.show(answer);
        if (!answer.finished) await load();
      });
    } catch (error) {
      notices.failed(formWords(error));
      if (error instanceof ApiProblem && error.details.type === 'figures-differ')
        await basket.refusePayment(error);
    } finally {
      busy.value = false;
    }
  }

  return { plan, way, parts, busy, load, give };
});
