<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { BasketLine } from '../../core/counter/basket.ts';
import { useKeys, type KeyAct } from '../keys/useKeys.ts';
import { useDrawerStore } from '../drawer/drawerStore.ts';
import { useBasketOffersStore } from '../sale/basketOffersStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import BehindList from './BehindList.vue';
import BasketPane from './BasketPane.vue';
import DiscountPane from './DiscountPane.vue';
import DonePane from './DonePane.vue';
import ItemPane from './ItemPane.vue';
import PaymentPane from '../payment/PaymentPane.vue';
import RefundPane from '../payment/RefundPane.vue';
import { useReturnStore } from '../journal/returnStore.ts';
import ReturnPane from '../journal/ReturnPane.vue';
import GiftCardPane from '../giftCards/GiftCardPane.vue';
import QuestionPane from './QuestionPane.vue';
import ShelfPane from './ShelfPane.vue';
import TotalsPane from './TotalsPane.vue';
import UnknownPane from './UnknownPane.vue';
import VariantPane from './VariantPane.vue';
import WorkPane from './WorkPane.vue';
import { useQuestionStore } from '../sale/questionStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import CashPane from '../drawer/CashPane.vue';
import OpeningPane from '../drawer/OpeningPane.vue';
import CustomerPane from '../people/CustomerPane.vue';
import PointsOffForm from '../people/PointsOffForm.vue';
import { usePointsOffStore } from '../people/pointsOffStore.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import HoldPane from '../waiting/HoldPane.vue';
import LayawayPane from '../waiting/LayawayPane.vue';
import OrderPane from '../waiting/OrderPane.vue';
import RelayPane from '../waiting/RelayPane.vue';
import PromisePane from '../waiting/PromisePane.vue';
import { usePromiseStore } from '../waiting/promiseStore.ts';

const basket = useBasketStore();
const ringUp = useRingUpStore();
const questions = useQuestionStore();
const drawer = useDrawerStore();
const work = useBasketWorkStore();
const countersigns = useCountersignStore();
const offers = useBasketOffersStore();
const pointsOff = usePointsOffStore();
const returns = useReturnStore();
const promises = usePromiseStore();
const router = useRouter();
const closed = computed(() => drawer.state !== null && drawer.state.shift === null);

// What was to be approved belongs to a step of a basket: with either of them gone nobody is asked any more.
watch(
  () => [basket.basket.id, work.work, basket.phase, questions.asked?.kind] as const,
  () => countersigns.leave(),
  // At once: the next step may ask for something itself.
  { flush: 'sync' },
);

/** The next step comes after what was scanned just before it, however fast the hand is. */
async function next(): Promise<void> {
  await ringUp.caughtUp();
  if (basket.phase === 'done') basket.nextSale();
  else if (closed.value) void router.push('/drawer');
  else await basket.takePayment();
}

async function focusChosenLine(): Promise<void> {
  await nextTick();
  document.querySelector<HTMLElement>('.row.on button.line')?.focus();
}

/** Keys that mean the chosen line act while the entry field is empty or a line has the focus. */
function onLine(event: KeyboardEvent): boolean {
  const { target } = event;
  if (basket.phase !== 'basket' || !(target instanceof HTMLElement) || target.closest('.panel')) return false;
  if (target instanceof HTMLInputElement) return target.name === 'entry' && target.value === '';
  return !(target instanceof HTMLTextAreaElement);
}
const unlessTyped =
  (act: KeyAct): KeyAct =>
  (event, nth) =>
    onLine(event) ? act(event, nth) : false;

/** Letters act while a line has the focus; a scanner's first letter is told from a finger's by what follows. */
const LETTER_WAITS_MS = 60;
let letter: ReturnType<typeof setTimeout> | undefined;
useEventListener(document, 'keydown', () => clearTimeout(letter), { capture: true });

const afterWait =
  (act: (line: BasketLine) => unknown): KeyAct =>
  (event) => {
    const line = basket.chosen;
    const { target } = event;
    if (!line || !onLine(event) || !(target instanceof HTMLElement) || !target.matches('button.line'))
      return false;
    letter = setTimeout(() => act(line), LETTER_WAITS_MS);
  };
useKeys('line', {
  discount: afterWait(() => work.beginDiscount()),
  price: afterWait(() => work.begin('price')),
  note: afterWait(() => work.begin('line-note')),
  item: afterWait(() => work.begin('item')),
  pick: afterWait(({ id }) => basket.pick(id)),
  gift: afterWait((line) => work.markGift(line)),
});

/** What nobody knows keeps nobody from going on. */
function leaveUnknown(): void {
  if (questions.asked?.kind === 'unknown') questions.leave();
}
const unlessPaying = () => basket.phase !== 'paying' && !questions.asked && !work.work;
/** What is begun comes after what was scanned just before it, however fast the hand is. */
async function begin(what: 'hold' | 'customer' | 'layaway' | 'order'): Promise<void> {
  leaveUnknown();
  await ringUp.caughtUp();
  if (basket.phase !== 'paying' && !questions.asked) work.begin(what);
}

useKeys('counter', {
  next: () => {
    leaveUnknown();
    return unlessPaying() && !countersigns.asking ? next() : false;
  },
  customer: () => begin('customer'),
  hold: () => begin('hold'),
  layaway: () => begin('layaway'),
  order: () => begin('order'),
  takeBack: () => (unlessPaying() ? returns.openEmpty() : false),
  follow: () => {
    if (basket.phase !== 'basket' || !unlessPaying()) return false;
    const nudge = basket.nudges.find(({ act }) => act !== null);
    if (nudge) return offers.follow(nudge);
    return pointsOff.offered ? work.begin('points-off') : false;
  },
  chooseLine: unlessTyped((_event, nth) => {
    basket.choose(nth === 0 ? -1 : 1);
    void focusChosenLine();
  }),
  more: unlessTyped(() => basket.step(1)),
  // In the entry field a minus begins `-1*`, goods that come back.
  less: unlessTyped(({ target }) => (target instanceof HTMLInputElement ? false : basket.step(-1))),
  remove: unlessTyped(() => basket.remove(basket.chosen)),
  nextSale: ({ target }) =>
    basket.phase === 'done' &&
    target instanceof HTMLInputElement &&
    target.name === 'entry' &&
    target.value === ''
      ? basket.nextSale()
      : false,
  back: () => {
    if (basket.phase === 'paying') return basket.backToBasket();
    if (questions.asked) return questions.leave();
    if (basket.picked.size > 0) return basket.pickNone();
    return basket.changeDue > 0 ? basket.changeGiven() : false;
  },
});
</script>

<template>
  <div class="counter">
    <h1 class="hidden-text">Counter</h1>
    <div class="zone left">
      <BasketPane class="zone" />
      <ShelfPane />
    </div>
    <aside class="zone column" aria-label="Totals and payment">
      <CountersignPane v-if="countersigns.asking" />
      <template v-if="questions.asked">
        <VariantPane
          v-if="questions.asked.kind === 'variant' && questions.asked.item"
          :key="questions.asked.item.id"
          :family="questions.asked.item"
        />
        <UnknownPane
          v-else-if="questions.asked.kind === 'unknown'"
          :key="questions.asked.code"
          :code="questions.asked.code"
        />
        <QuestionPane
          v-else
          v-show="!countersigns.asking"
          :key="`${questions.asked.kind}-${questions.asked.unit?.at ?? 0}`"
          :asked="questions.asked"
        />
        <BehindList />
      </template>
      <HoldPane v-else-if="work.work === 'hold'" />
      <LayawayPane v-else-if="work.work === 'layaway'" v-show="!countersigns.asking" />
      <OrderPane v-else-if="work.work === 'order'" v-show="!countersigns.asking" />
      <PromisePane
        v-else-if="work.work === 'promise'"
        v-show="!countersigns.asking"
        :key="promises.atCounter?.id"
      />
      <RelayPane v-else-if="work.work === 'relay'" />
      <ItemPane v-else-if="work.work === 'item'" />
      <CustomerPane v-else-if="work.work === 'customer'" />
      <PointsOffForm v-else-if="work.work === 'points-off'" />
      <DiscountPane v-else-if="work.work === 'discount'" v-show="!countersigns.asking" :key="work.panelKey" />
      <CashPane v-else-if="work.work === 'cash'" v-show="!countersigns.asking" />
      <OpeningPane v-else-if="work.work === 'drawer-opening'" v-show="!countersigns.asking" />
      <GiftCardPane v-else-if="work.work === 'gift-card'" />
      <WorkPane
        v-else-if="work.work && work.work !== 'return'"
        v-show="!countersigns.asking"
        :key="work.panelKey"
      />
      <ReturnPane v-else-if="work.work === 'return'" v-show="!countersigns.asking" />
      <div
        v-else-if="basket.phase === 'paying' && basket.total < 0"
        v-show="!countersigns.asking"
        class="whole"
      >
        <RefundPane />
      </div>
      <PaymentPane v-else-if="basket.phase === 'paying'" />
      <DonePane v-else-if="basket.phase === 'done'" />
      <TotalsPane v-else :closed="closed" @next="next" />
    </aside>
  </div>
</template>

<style scoped>
.counter {
  display: grid;
  grid-template-columns: 1fr 400px;
}
.column {
  border-left: var(--rule);
  display: flex;
  flex-direction: column;
  background: var(--paper);
  overflow-y: auto;
}
@media (max-width: 1100px) {
  .counter {
    grid-template-columns: 1fr 340px;
  }
}
@media (max-width: 800px) {
  .counter {
    grid-template: minmax(0, 1fr) minmax(0, auto) / 1fr;
  }
  .column {
    border-left: 0;
    border-top: var(--rule);
    max-height: 55vh;
  }
}
.whole {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.left {
  display: flex;
  flex-direction: column;
}
.left > :first-child {
  flex: 1;
}
</style>
