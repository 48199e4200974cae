<script setup lang="ts">
import type { DaySummary } from '../../contract/books.ts';
import { counted } from '../../core/locale.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { formatRate } from '../../core/rate.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What a day came to: sales, reductions, tax, and how it was paid. */
defineProps<{ day: DaySummary }>();

const till = useTillStore();
</script>

<template>
  <div class="day">
    <dl>
      <dt>Sales</dt>
      <dd class="num">{{ day.sales }}</dd>
      <dt>With goods that came back</dt>
      <dd class="num">{{ day.returns }}</dd>
      <dt>Voided</dt>
      <dd class="num">{{ day.voids }}</dd>
      <dt>Units sold</dt>
      <dd class="num">{{ formatQuantity(day.units) }}</dd>
      <dt>At regular prices</dt>
      <dd class="num">{{ till.money(day.gross) }}</dd>
      <dt>Reductions</dt>
      <dd class="num">{{ till.money(day.reductions) }}</dd>
      <dt>Goods that came back</dt>
      <dd class="num">{{ till.money(-day.refunded) }}</dd>
      <template v-if="day.deposits !== 0">
        <dt>Deposits, less what was used of them</dt>
        <dd class="num">{{ till.money(day.deposits) }}</dd>
      </template>
      <template v-if="day.onAccounts !== 0">
        <dt>Paid onto house accounts</dt>
        <dd class="num">{{ till.money(day.onAccounts) }}</dd>
      </template>
      <dt>Tax</dt>
      <dd class="num">{{ till.money(day.tax) }}</dd>
      <dt><b>Taken</b></dt>
      <dd class="num strong" data-test="day-total">{{ till.money(day.total) }}</dd>
    </dl>
    <dl>
      <template v-for="one in day.tenders" :key="one.name">
        <dt>{{ one.count }} × {{ one.name }}</dt>
        <dd class="num">{{ till.money(one.amount) }}</dd>
      </template>
      <template v-for="one in day.taxes" :key="one.name + one.rate">
        <dt>{{ one.name }} {{ formatRate(one.rate) }} on {{ till.money(one.base) }}</dt>
        <dd class="num">{{ till.money(one.tax) }}</dd>
      </template>
      <template v-for="one in day.tills" :key="one.till">
        <dt>Till {{ one.till }}, {{ counted(one.sales, 'sale') }}</dt>
        <dd class="num">{{ till.money(one.total) }}</dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.day {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
  padding-top: 18px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  align-content: start;
}
dt,
dd {
  padding: 6px 0;
  border-bottom: var(--hair);
}
.strong {
  font-weight: 700;
}
</style>
