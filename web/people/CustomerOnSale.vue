<script setup lang="ts">
import KeyHint from '../keys/KeyHint.vue';
import { mdiAccountOutline } from '@mdi/js';
import { computed } from 'vue';
import type { CustomerPanel } from '../../contract/people.ts';
import { freeOn } from '../../core/people/account.ts';
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

/** How their house accounts stand: of their own first, else of those that they buy on. */
function accountWords({ accounts, owes }: CustomerPanel): string[] {
  const [account] = accounts;
  if (!account) return owes > 0 ? [`owes ${till.money(owes)}`] : [];
  const whose = account.customerId === basket.basket.customer?.id ? '' : `${account.name} `;
  const stands =
    account.owed < 0 ? `${till.money(-account.owed)} in favour` : `owes ${till.money(account.owed)}`;
  const free = account.blocked ? 'account blocked' : `${till.money(freeOn(account))} may go on the account`;
  return [`${whose}${stands}`, free];
}

const words = computed(() => {
  const panel = customers.panel;
  if (!panel) return '';
  return [
    ...panel.groups,
    ...(panel.points > 0 ? [points.words(panel.points)] : []),
    ...accountWords(panel),
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
