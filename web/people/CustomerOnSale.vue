<script setup lang="ts">
import KeyHint from '../keys/KeyHint.vue';
import { mdiAccountOutline } from '@mdi/js';
import { computed } from 'vue';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCustomerStore } from './customerStore.ts';
import { usePointsStore } from './pointsStore.ts';

const basket = useBasketStore();
const work = useBasketWorkStore();
const customers = useCustomerStore();
const till = useTillStore();
const points = usePointsStore();

const words = computed(() => {
  const panel = customers.panel;
  if (!panel) return '';
  return [
    ...panel.groups,
    ...(panel.points > 0 ? [points.words(panel.points)] : []),
    ...(panel.owes > 0 ? [`owes ${till.money(panel.owes)}`] : []),
    ...(panel.credit > 0 ? [`${till.money(panel.credit)} credit`] : []),
  ].join(' · ');
});
</script>

<template>
  <button type="button" class="customer" @click="work.begin('customer')">
    <v-icon :icon="mdiAccountOutline" />
    <span v-if="basket.basket.customer" class="who">
      <b>{{ basket.basket.customer.name }}</b>
      <span class="soft">{{ words }}</span>
    </span>
    <span v-else class="who soft">No customer on the sale</span>
    <KeyHint of="counter.customer" />
  </button>
</template>

<style scoped>
.customer {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 12px;
  align-items: center;
  min-height: 56px;
  padding: 6px 18px;
  border-bottom: var(--group);
  background: var(--surface);
}
.who {
  min-width: 0;
}
.who b,
.who span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.who b {
  font-size: 17px;
}
.who span {
  font-size: 14px;
}
</style>
