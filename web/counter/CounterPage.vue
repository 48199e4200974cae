<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick } from 'vue';
import { useRouter } from 'vue-router';
import { useDrawerStore } from '../drawer/drawerStore.ts';
import { useBasketStore } from './basketStore.ts';
import BasketPane from './BasketPane.vue';
import DonePane from './DonePane.vue';
import ItemPane from './ItemPane.vue';
import PaymentPane from './PaymentPane.vue';
import PricePane from './PricePane.vue';
import ShelfPane from './ShelfPane.vue';
import TotalsPane from './TotalsPane.vue';
import WorkPane from './WorkPane.vue';
import { useBasketWorkStore } from './basketWorkStore.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import HoldPane from '../waiting/HoldPane.vue';

const basket = useBasketStore();
const drawer = useDrawerStore();
const work = useBasketWorkStore();
const countersigns = useCountersignStore();
const router = useRouter();
const closed = computed(() => drawer.state !== null && drawer.state.shift === null);

/** The next step comes after what was scanned just before it, however fast the hand is. */
async function next(): Promise<void> {
  await basket.caughtUp();
  if (basket.phase === 'done') basket.nextSale();
  else if (closed.value) void router.push('/drawer');
  else basket.takePayment();
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
      return () => void basket.step(-1);
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
  if (key === 'p') return () => work.begin('price');
  if (key === 'n') return () => work.begin('line-note');
  if (key === 'i') return () => work.begin('item');
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
  if (key === 'F9' && basket.phase !== 'paying' && !basket.asking && !work.work && !countersigns.asking) {
    event.preventDefault();
    return void next();
  }
  if (key === 'F8' && basket.phase === 'basket') {
    event.preventDefault();
    return work.begin('hold');
  }
  if (key === 'Escape' && basket.phase === 'paying') return basket.backToBasket();
  if (key === 'Escape' && basket.asking) {
    basket.asking = null;
    return;
  }
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
      <PricePane v-show="!countersigns.asking" v-if="basket.asking" />
      <HoldPane v-else-if="work.work === 'hold'" />
      <ItemPane v-else-if="work.work === 'item'" />
      <WorkPane v-else-if="work.work" v-show="!countersigns.asking" :key="work.work" />
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
.left {
  display: flex;
  flex-direction: column;
}
.left > :first-child {
  flex: 1;
}
</style>
