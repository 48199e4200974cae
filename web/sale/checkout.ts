import { until } from '@vueuse/core';
import type { FinishedSale, FinishSale, UsedUpProblem } from '../../contract/counter.ts';
import type { PaymentView } from '../../contract/payment.ts';
import type { CountersignNeeded } from '../../contract/problem.ts';
import { withoutPoints } from '../../core/counter/basketCodes.ts';
import { withApproval } from '../../core/counter/neededRights.ts';
import type { Money } from '../../core/money.ts';
import type { read, writeSurely } from '../net/api.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import type { BasketChanges } from './basketChanges.ts';
import type { BasketPractice } from './basketPractice.ts';
import type { BasketPrices } from './basketPrices.ts';
import { emptyBasket, type BasketState } from './basketState.ts';
import type { BasketSync } from './basketSync.ts';
import { catalogue } from './catalogue/thread.ts';
import { offerClaims } from './offerClaims.ts';
import { soundRefusal } from './sound.ts';

interface Parts {
  prices: BasketPrices;
  sync: BasketSync;
  changes: BasketChanges;
  practice: BasketPractice;
}

const UNANSWERED = 'The server does not answer. The payment is kept and is stored as soon as it does.';

/** The way from a basket to a finished sale. @param net how the server is asked */
export function checkout(
  state: BasketState,
  { prices, sync, changes, practice }: Parts,
  net: { read: typeof read; writeSurely: typeof writeSurely },
) {
  const { basket, priced, lines, total, phase, finished, busy, changeDue, deviceAsked, moneyHeld, behind } =
    state;
  const notices = useNoticeStore();
  const countersigns = useCountersignStore();
  const till = useTillStore();
  const claims = offerClaims();
  let claiming = false;

  /** Takes codes and points off that are somebody else's by now, and prices with what is left of the offers. */
  async function withoutUsedUp({ codes, points }: UsedUpProblem): Promise<void> {
    const kept = basket.value.codes?.filter(({ code }) => !codes.includes(code));
    await prices.takeFacts(await till.load());
    const left = points ? withoutPoints(basket.value) : basket.value;
    await changes.change({ ...left, codes: kept?.length ? kept : undefined });
  }

  async function refuseClaim(refused: ApiProblem): Promise<void> {
    soundRefusal();
    const gone = refused.data('offer-used-up');
    if (gone) await withoutUsedUp(gone);
    notices.failed(refused.words);
  }

  async function takePayment(): Promise<void> {
    if ((lines.value.length === 0 && !moneyHeld.value) || claiming) return;
    if (practice.refusedInPractice()) return;
    claiming = true;
    // What was changed a moment ago is priced before anything is asked for; where that failed, it has been said.
    await prices.figured().catch(() => {});
    const asked = basket.value;
    const refused = await claims.hold(asked, priced.value, till.facts?.offers ?? []);
    claiming = false;
    if (refused) return refuseClaim(refused);
    if (basket.value !== asked) return;
    notices.clear();
    phase.value = 'paying';
    // Goods that are swapped evenly, or were paid for before, need no payment.
    const settled = asked.lines.some(
      ({ quantity, promised }) => quantity < 0 || promised?.part === 'used' || promised?.part === 'back',
    );
    if (total.value === 0 && settled) return payCash(0);
    if (!basket.value.paymentBegan) void changes.change({ ...basket.value, paymentBegan: true });
  }

  function backToBasket(): void {
    if (busy.value || deviceAsked.value) return;
    phase.value = 'basket';
    claims.letGo(basket.value.id);
  }

  /** Money was taken for this basket before: the payment goes on. */
  function goOnPaying(): void {
    if (phase.value === 'basket') phase.value = 'paying';
  }

  /** Finishes the sale in cash. What was asked is kept until it is answered, so that nothing is taken and forgotten. */
  async function payCash(handed: Money): Promise<void> {
    if (busy.value || phase.value !== 'paying') return;
    notices.clear();
    sync.wait();
    behind.paying = { basket: basket.value, expectedTotal: total.value, handed };
    state.remember();
    await settle(behind.paying);
  }

  /** Does what stores a payment: until that is done what is scanned waits for it. */
  async function storing(work: () => Promise<void>): Promise<void> {
    busy.value = true;
    try {
      await work();
    } finally {
      busy.value = false;
      state.remember();
    }
  }

  const sayUnanswered = (): void => notices.failed(UNANSWERED);

  /** The next sale begins with what waited for the one before: its change stays in sight. */
  function keepChange(): void {
    changeDue.value = finished.value?.change ?? changeDue.value;
  }

  /**
   * Waits until the payment that is being stored is.
   * @returns whether the sale is finished, and the next may begin
   */
  async function paymentStored(): Promise<boolean> {
    const { id } = basket.value;
    await until(busy).toBe(false, { flush: 'sync' });
    if (basket.value.id === id) return false;
    keepChange();
    return true;
  }

  function changeGiven(): void {
    changeDue.value = 0;
    state.remember();
  }

  /** Asks for a payment until it is answered. */
  const settle = (asked: FinishSale): Promise<void> =>
    storing(async () => {
      try {
        const sale = await net.writeSurely<FinishedSale>(
          'POST',
          '/counter/sales',
          asked,
          asked.basket.id,
          sayUnanswered,
        );
        behind.paying = undefined;
        await finish(sale);
      } catch (error) {
        behind.paying = undefined;
        await refusePayment(error);
      }
    });

  /** The sale is finished: what it came to is shown until the next one begins. */
  async function finish(sale: FinishedSale): Promise<void> {
    // The server has dropped its basket with the sale; the next one starts a new row.
    sync.restart();
    deviceAsked.value = false;
    moneyHeld.value = false;
    prices.standNoMore();
    finished.value = sale;
    changeDue.value = 0;
    phase.value = 'done';
    // What could not be done meanwhile is still to be done: its words stay.
    if (notices.notice?.tone === 'say' || notices.notice?.text === UNANSWERED) notices.clear();
    const shown = prices.show(emptyBasket());
    // The next sale may begin at once: its first scan must not meet the end of this one.
    busy.value = false;
    await shown;
    state.remember();
  }

  async function refusePayment(error: unknown): Promise<void> {
    const problem = error instanceof ApiProblem ? error : null;
    if (problem?.details.type === 'key-used') {
      // It was paid before, with another amount handed over: that sale stands.
      const { finished: earlier } = await net.read<PaymentView>(`/payment/baskets/${basket.value.id}`);
      if (earlier) return finish(earlier);
    }
    const right = problem?.data('figures-differ');
    if (right) {
      await catalogue.refresh();
      await changes.change(right.basket);
    }
    const gone = problem?.data('offer-used-up');
    const unapproved = problem?.data('countersign-needed');
    if (gone || unapproved || problem?.details.type === 'no-open-drawer') phase.value = 'basket';
    if (gone) await withoutUsedUp(gone);
    notices.failed(problemWords(error));
    if (unapproved) void approveAgain(unapproved.needed, problem?.details.detail ?? '');
    if (behind.unsent) sync.sendSoon();
  }

  /** What was approved is not what is in the basket now: it is asked for again, with both figures. */
  async function approveAgain({ right, steps }: CountersignNeeded, why: string): Promise<void> {
    const before = basket.value;
    // The panel that asks says it, too.
    notices.clear();
    const approval = await countersigns.need(right, before.id, why, steps);
    if (!approval?.id || basket.value !== before) return;
    const id = approval.id;
    await changes.change(steps.reduce((now, step) => withApproval(now, { right, step }, id), before));
  }

  return {
    takePayment,
    backToBasket,
    goOnPaying,
    payCash,
    settle,
    storing,
    sayUnanswered,
    paymentStored,
    keepChange,
    changeGiven,
    finish,
    refusePayment,
  };
}
