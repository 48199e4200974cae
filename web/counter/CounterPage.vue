<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, watch } from 'vue';
import { useRouter } from 'vue-router';
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
import GiftCardPane from '../payment/GiftCardPane.vue';
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
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import HoldPane from '../waiting/HoldPane.vue';

const basket = useBasketStore();
const ringUp = useRingUpStore();
const questions = useQuestionStore();
const drawer = useDrawerStore();
const work = useBasketWorkStore();
const countersigns = useCountersignStore();
const offers = useBasketOffersStore();
const returns = useReturnStore();
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

/** Keys that mean the chosen line act while the entry field is empty or a line has the focus. */
function lineKey(event: KeyboardEvent): (() => void) | undefined {
  if (event.ctrlKey || event.metaKey || event.altKey) return undefined;
  switch (event.key) {
    case 'ArrowUp':
    case 'ArrowDown':
      return () => {
        basket.choose(event.key === 'ArrowUp' ? -1 : 1);
        void focusChosenLine();
      };
    case '+':
      return () => void basket.step(1);
    case '-':
      // In the entry field a minus begins `-1*`, goods that come back.
      return event.target instanceof HTMLInputElement ? undefined : () => void basket.step(-1);
    case 'Delete':
      return () => void basket.remove(basket.chosen);
    default:
      return undefined;
  }
}

/** Letters act while a line has the focus; a scanner's first letter is told from a finger's by what follows. */
const LETTER_WAITS_MS = 60;
let letter: ReturnType<typeof setTimeout> | undefined;

function letterKey(event: KeyboardEvent): (() => void) | undefined {
  const { target, key } = event;
  if (!(target instanceof HTMLElement) || !target.matches('button.line')) return undefined;
  const line = basket.chosen;
  if (key === 'd') return () => work.beginDiscount();
  if (key === 'p') return () => work.begin('price');
  if (key === 'n') return () => work.begin('line-note');
  if (key === 'i') return () => work.begin('item');
  if (key === ' ' && line) return () => basket.pick(line.id);
  if (key === 'g' && line) return () => void work.markGift(line);
  return undefined;
}

async function focusChosenLine(): Promise<void> {
  await nextTick();
  document.querySelector<HTMLElement>('.row.on button.line')?.focus();
}

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  const { target, key } = event;
  clearTimeout(letter);
  // What nobody knows keeps nobody from going on.
  if (/^F[489]$/.test(key) && questions.asked?.kind === 'unknown') questions.leave();
  if (key === 'F9' && basket.phase !== 'paying' && !questions.asked && !work.work && !countersigns.asking) {
    event.preventDefault();
    return void next();
  }
  if (key === 'F2' && basket.phase === 'basket' && !questions.asked && !work.work) {
    event.preventDefault();
    const nudge = basket.nudges.find(({ act }) => act !== null);
    if (nudge) void offers.follow(nudge);
    return;
  }
  if (key === 'F6' && basket.phase !== 'paying' && !questions.asked && !work.work) {
    event.preventDefault();
    return returns.openEmpty();
  }
  if ((key === 'F8' || key === 'F4') && basket.phase === 'basket' && !questions.asked) {
    event.preventDefault();
    return work.begin(key === 'F8' ? 'hold' : 'customer');
  }
  if (key === 'Escape' && basket.phase === 'paying') return basket.backToBasket();
  if (key === 'Escape' && questions.asked) return questions.leave();
  if (key === 'Escape' && basket.picked.size > 0) return basket.pickNone();
  if (
    target instanceof HTMLTextAreaElement ||
    (target instanceof HTMLInputElement && target.name !== 'entry')
  )
    return;
  if (target instanceof HTMLInputElement && target.value !== '') return;
  if (basket.phase === 'done' && key === 'Enter' && target instanceof HTMLInputElement)
    return basket.nextSale();
  if (basket.phase !== 'basket') return;
  const shortcut = letterKey(event);
  if (shortcut) {
    event.preventDefault();
    letter = setTimeout(shortcut, LETTER_WAITS_MS);
    return;
  }
  const act = lineKey(event);
  if (!act) return;
  event.preventDefault();
  act();
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
      <ItemPane v-else-if="work.work === 'item'" />
      <CustomerPane v-else-if="work.work === 'customer'" />
      <DiscountPane v-else-if="work.work === 'discount'" v-show="!countersigns.asking" />
      <CashPane v-else-if="work.work === 'cash'" v-show="!countersigns.asking" />
      <OpeningPane v-else-if="work.work === 'drawer-opening'" v-show="!countersigns.asking" />
      <GiftCardPane v-else-if="work.work === 'gift-card'" />
      <WorkPane
        v-else-if="work.work && work.work !== 'return'"
        v-show="!countersigns.asking"
        :key="work.work"
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
