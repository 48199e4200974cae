<script setup lang="ts">
import { computed } from 'vue';
import type { PromiseView } from '../../contract/promises.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Where a promise comes from, and what of it is paid. */
const { view } = defineProps<{ view: PromiseView }>();
const till = useTillStore();
const left = computed(() => Math.max(0, view.rest - view.held));
</script>

<template>
  <dl class="facts">
    <template v-if="view.placedAt">
      <dt>{{ view.partnerOrder ? 'Passed on by' : 'Ordered at' }}</dt>
      <dd>
        <b>{{ view.placedAt.name }}</b>, <span class="num whole-number">{{ view.placedAt.reference }}</span>
      </dd>
    </template>
    <template v-if="view.partnerOrder">
      <dt>What</dt>
      <dd>
        <b>{{ view.partnerOrder.goods }}</b>
      </dd>
      <dt>To be there</dt>
      <dd>
        <b>{{ till.calendarDay(view.partnerOrder.day) }}</b>
      </dd>
      <template v-if="view.partnerOrder.card">
        <dt>Card</dt>
        <dd>{{ view.partnerOrder.card }}</dd>
      </template>
    </template>
    <template v-if="view.state === 'asked'">
      <dt>What we get, tax in it</dt>
      <dd class="num">
        <b>{{ till.money(view.total) }}</b>
      </dd>
    </template>
    <template v-else>
      <dt>{{ view.partnerOrder ? 'Owed by the partner' : 'Paid and held' }}</dt>
      <dd class="num">{{ till.money(view.held) }}</dd>
      <dt>Left to pay</dt>
      <dd class="num">
        <b>{{ till.money(left) }}</b>
      </dd>
    </template>
    <template v-if="view.next">
      <dt>Next, on {{ till.calendarDay(view.next.day) }}</dt>
      <dd class="num">{{ till.money(view.next.amount) }}</dd>
    </template>
  </dl>
</template>

<style scoped>
.facts {
  grid-template-columns: auto 1fr;
}
</style>
