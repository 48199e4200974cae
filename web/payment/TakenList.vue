<script setup lang="ts">
import { computed } from 'vue';
import type { TenderView } from '../../contract/payment.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentStore } from './paymentStore.ts';
import WordButton from '../look/WordButton.vue';

const basket = useBasketStore();
const payment = usePaymentStore();
const session = useSessionStore();
const till = useTillStore();

/** What was taken, and the last one that came to nothing: its reason must be read. */
const shown = computed(() =>
  payment.tenders.filter(
    (tender) =>
      tender.state === 'approved' ||
      tender.state === 'abandoned' ||
      (tender.id === payment.last?.id && (tender.state === 'declined' || tender.state === 'cancelled')),
  ),
);
const trouble = ({ state }: TenderView) => state !== 'approved';

function wordsFor({ state, words, leftOn }: TenderView): string {
  if (state === 'declined') return `Declined: ${words}`;
  if (state === 'approved' && leftOn !== null) return `${till.money(leftOn)} left on it`;
  if (state === 'abandoned') return 'Not answered. If the card was charged, the money goes back by itself.';
  return state === 'approved' ? '' : words;
}
</script>

<template>
  <ul v-if="shown.length > 0" class="taken" aria-label="Payments">
    <li v-for="tender in shown" :key="tender.id" :class="{ trouble: trouble(tender) }">
      <div>
        <b>{{ tender.name }}</b>
        <span class="soft">{{ wordsFor(tender) }}</span>
        <span v-if="tender.tip > 0" class="soft">and {{ till.money(tender.tip) }} tip</span>
        <span v-if="tender.roundUp > 0" class="soft">and {{ till.money(tender.roundUp) }} given</span>
      </div>
      <span class="num" :class="{ none: trouble(tender) }">{{ till.money(tender.amount) }}</span>
      <template v-if="tender.state === 'approved'">
        <WordButton v-if="tender.canBeKept && basket.basket.customer" @click="payment.keepCard(tender)">
          Keep on file, the customer agrees
        </WordButton>
        <WordButton
          v-if="session.may('payment.undo')"
          class="bad"
          data-money
          :disabled="payment.busy"
          @click="payment.does(tender, 'undo')"
        >
          Undo
        </WordButton>
      </template>
    </li>
  </ul>
</template>

<style scoped>
.taken {
  background: var(--surface);
  max-height: 190px;
  overflow-y: auto;
}
.taken li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 18px;
  min-height: 52px;
  border-bottom: 1px solid var(--ink);
}
.taken li > div {
  flex: 1;
  display: grid;
}
.taken .soft {
  font-size: 14px;
}
.taken .num {
  font-size: 18px;
  font-weight: 600;
}
.taken .none {
  text-decoration: line-through;
  color: var(--soft);
}
.trouble {
  background: var(--red-wash);
}
</style>
