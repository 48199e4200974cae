import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef, watch } from 'vue';
import type { StoredValueView } from '../../contract/giftCards.ts';
import type { PaymentView, TakeTender, TenderView } from '../../contract/payment.ts';
import type { Money } from '../../core/money.ts';
import { roundUpAmount } from '../../core/payment/roundUp.ts';
import { holdsMoney, isOpen, mayBeTaken, splitEvenly, taken } from '../../core/payment/tender.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useChosenOf } from '../look/chosenOf.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write, writeSurely } from '../net/api.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { hear } from '../net/houseEvents.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { oneLook } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What else than an amount a payment needs. */
export type TenderDetails = Partial<
  Pick<
    TakeTender,
    'reference' | 'number' | 'terminalId' | 'notPresent' | 'cardOnFileId' | 'accountId' | 'countersign'
  >
>;

const LOOK_AGAIN_MS = 1_000;

/** The payment of the basket on this till: what was taken, what is left, and what a terminal is doing. */
export const usePaymentStore = defineStore('payment', () => {
  const basket = useBasketStore();
  const customers = useCustomerStore();
  const till = useTillStore();
  const notices = useNoticeStore();
  const view = shallowRef<PaymentView | null>(null);
  const busy = ref(false);
  /** Into how many parts what is left is split; 1 is not at all. */
  const parts = ref(1);
  /** A number that was scanned while paying. */
  const scanned = ref('');
  const declinedRoundUp = ref('');

  const tenders = computed<TenderView[]>(() => view.value?.tenders ?? []);
  /** Payments that hold money, or may; those that came to nothing are history. */
  const held = computed(() => tenders.value.filter(({ state }) => holdsMoney(state)));
  const open = computed(() => tenders.value.find(({ state }) => isOpen(state)) ?? null);
  const last = computed(() => tenders.value.at(-1) ?? null);
  const takenAmount = computed<Money>(() => taken(tenders.value));
  const left = computed<Money>(() => mayBeTaken(basket.due, tenders.value));
  /** What the next payment is suggested to take. */
  const share = computed<Money>(() =>
    parts.value > 1 ? (splitEvenly(left.value, parts.value)[0] ?? left.value) : left.value,
  );

  const facts = computed(() => till.facts?.payment);
  /** Whether somebody is on the sale who may buy on a house account, and the sale is not a payment of one. */
  const mayCharge = computed(
    () => (customers.panel?.accounts.length ?? 0) > 0 && !basket.lines.some(({ account }) => account),
  );
  const types = computed<TenderType[]>(() =>
    (facts.value?.types ?? []).filter(
      ({ active, kind }) =>
        active &&
        (kind !== 'card' || (facts.value?.terminals.length ?? 0) > 0) &&
        (kind !== 'account' || mayCharge.value),
    ),
  );
  const { chosenId, chosen: picked } = useChosenOf(() => types.value);
  const chosen = computed(() => picked.value ?? types.value[0] ?? null);

  /** What may be asked for: a round total, once, while nothing has been given yet. */
  const roundUp = computed(() => {
    const { roundUpStep = 0, funds = [] } = facts.value ?? {};
    const [fund] = funds;
    if (!fund || roundUpStep === 0 || basket.basket.roundUp || declinedRoundUp.value === basket.basket.id)
      return null;
    // Who paid a part on a terminal was asked there.
    if (tenders.value.some(({ state, terminalId }) => state === 'approved' && terminalId !== null))
      return null;
    const amount = roundUpAmount(basket.total, roundUpStep);
    return amount > 0 ? { fundId: fund.id, fund: fund.name, amount } : null;
  });

  const keyOf = () => `mondrel.tender.${till.facts?.till.id ?? 0}`;

  async function load(): Promise<void> {
    const { id } = basket.basket;
    if (basket.practised) return;
    await answered(read<PaymentView>(`/payment/baskets/${id}`));
  }

  const lastAsked = lastAnswer();
  /** Shows what is answered, unless something was asked after it: an earlier look knows nothing of what was taken. */
  async function answered(question: Promise<PaymentView>): Promise<void> {
    const next = await lastAsked(question);
    if (next) await show(next);
  }

  async function show(next: PaymentView): Promise<void> {
    if (next.basketId !== basket.basket.id) return;
    // What is still on its way is older.
    void lastAsked(Promise.resolve());
    const before = takenAmount.value;
    view.value = next;
    // What is left is paid another way, most often in cash.
    if (takenAmount.value > before) chosenId.value = null;
    basket.deviceAsked = open.value !== null;
    basket.moneyHeld = held.value.length > 0;
    await basket.standBy(next.begun);
    // The next sale has begun meanwhile.
    if (next.basketId !== basket.basket.id) return;
    if (next.finished) {
      view.value = null;
      parts.value = 1;
      await basket.finish(next.finished);
    } else if (basket.moneyHeld) {
      basket.goOnPaying();
    } else if (basket.lines.length === 0 && basket.phase === 'paying') {
      basket.backToBasket();
    }
  }

  /** Takes one payment; what was asked for is kept until it is answered. @returns whether it was taken or asked for */
  async function take(type: TenderType, amount: Money, details: TenderDetails = {}): Promise<boolean> {
    if (busy.value || basket.busy) return false;
    const asked: TakeTender = {
      id: newId(),
      basket: basket.basket as TakeTender['basket'],
      expectedTotal: basket.total,
      typeId: type.id,
      amount,
      reference: '',
      number: '',
      terminalId: null,
      notPresent: false,
      cardOnFileId: null,
      accountId: null,
      askRoundUp: declinedRoundUp.value !== basket.basket.id,
      ...details,
    };
    localStorage.setItem(keyOf(), JSON.stringify(asked));
    return send(asked);
  }

  async function send(asked: TakeTender): Promise<boolean> {
    busy.value = true;
    try {
      await basket.storing(async () => {
        const answer = await lastAsked(
          writeSurely<PaymentView>('POST', '/payment/tenders', asked, asked.id, basket.sayUnanswered),
        );
        localStorage.removeItem(keyOf());
        notices.clear();
        if (parts.value > 1) parts.value -= 1;
        if (answer) await show(answer);
      });
      return true;
    } catch (error) {
      localStorage.removeItem(keyOf());
      if (error instanceof ApiProblem && error.details.fields) throw error;
      await basket.refusePayment(error);
      return false;
    } finally {
      busy.value = false;
    }
  }

  /** After a reload: what was asked for and not answered is asked for again, and what was taken is found. */
  async function begin(): Promise<void> {
    view.value = null;
    const kept = localStorage.getItem(keyOf());
    if (kept) {
      const asked = JSON.parse(kept) as TakeTender;
      if (asked.basket.id === basket.basket.id) await send(asked).catch(() => {});
      else localStorage.removeItem(keyOf());
    }
    if (basket.basket.paymentBegan) await load().catch(() => {});
  }

  async function does(tender: TenderView, what: 'cancel' | 'check' | 'abandon' | 'undo'): Promise<void> {
    if (busy.value) return;
    busy.value = true;
    try {
      await answered(write<PaymentView>('POST', `/payment/tenders/${tender.id}/${what}`));
      if (what === 'abandon' || what === 'undo') chosenId.value = null;
      const undone = view.value?.tenders.find(({ id, state }) => id === tender.id && state === 'undone');
      if (what === 'undo' && undone) notices.say(`${undone.name} undone. ${undone.words}`);
    } catch (error) {
      notices.failed(problemWords(error));
    } finally {
      busy.value = false;
    }
  }

  const enquire = (number: string): Promise<StoredValueView> =>
    write<StoredValueView>('POST', '/gift-cards/enquiries', { number: number.trim() });

  /**
   * Looks up a number that was scanned.
   * @returns what has it; `null` where nothing has, `later` after too many unknown ones, which is said
   */
  async function lookUp(number: string): Promise<StoredValueView | 'later' | null> {
    try {
      return await enquire(number);
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      if (!error.data('wait')) return null;
      notices.failed(error.words);
      return 'later';
    }
  }

  /** Gives what makes the total a round one, or not. */
  async function giveRoundUp(yes: boolean): Promise<void> {
    if (!yes) declinedRoundUp.value = basket.basket.id;
    else if (roundUp.value) await basket.change({ ...basket.basket, roundUp: roundUp.value });
  }

  const takeBackRoundUp = (): Promise<void> => {
    declinedRoundUp.value = basket.basket.id;
    return basket.change({ ...basket.basket, roundUp: undefined });
  };

  async function keepCard(tender: TenderView): Promise<void> {
    const { customer } = basket.basket;
    if (!customer) return;
    await write('POST', `/payment/tenders/${tender.id}/keep-card`, {
      customerId: customer.id,
      agreed: true,
    });
    notices.say(`${tender.name} is on file for ${customer.name}.`);
  }

  watch(
    () => basket.basket.id,
    () => {
      view.value = null;
      parts.value = 1;
      chosenId.value = null;
      basket.moneyHeld = false;
      void basket.standBy(null);
    },
  );

  /** Hears what terminals answer. @returns a function that stops it */
  function follow(): () => void {
    /** The basket of which something was told: the next one is none of its business. */
    let told = '';
    const look = async () => {
      if (told === basket.basket.id) await load();
    };
    let lookOnce = oneLook(look);
    function again(): void {
      told = basket.basket.id;
      lookOnce();
    }
    const stop = hear((event) => {
      const mine = event.kind === 'payment-changed' && event.basketId === basket.basket.id;
      const finished = event.kind === 'sale-finished' && event.saleId === basket.basket.id;
      const back = event.kind === 'connected' && basket.phase === 'paying';
      if (back) lookOnce = oneLook(look);
      if ((mine || finished || back) && !busy.value && !basket.busy) again();
    });
    // An event may get lost; while a terminal is asked, it is looked after.
    const clock = setInterval(() => {
      if (open.value && !busy.value) again();
    }, LOOK_AGAIN_MS);
    return () => {
      stop();
      clearInterval(clock);
    };
  }

  return {
    view,
    tenders,
    held,
    open,
    last,
    takenAmount,
    left,
    share,
    parts,
    types,
    chosen,
    chosenId,
    scanned,
    roundUp,
    busy,
    load,
    show,
    take,
    begin,
    does,
    enquire,
    lookUp,
    giveRoundUp,
    takeBackRoundUp,
    keepCard,
    follow,
  };
});
