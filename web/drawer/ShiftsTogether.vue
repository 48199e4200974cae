<script setup lang="ts">
import type { ShiftHistory } from '../../contract/drawer.ts';
import { formatRate } from '../../core/rate.ts';
import { useTillStore } from '../shop/tillStore.ts';
import VarianceChart from './VarianceChart.vue';

/** What several shifts came to: over and short as it went, means of payment, tax, reductions, and cash moved. */
defineProps<{ history: ShiftHistory }>();

const till = useTillStore();
const MOVES = { in: 'Cash in', out: 'Cash out', drop: 'Safe drop' } as const;
</script>

<template>
  <div class="scroll together" tabindex="0" role="region" aria-label="Together">
    <VarianceChart :rows="history.rows" />
    <div class="groups">
      <section>
        <h2 class="label">Paid with</h2>
        <ul>
          <li v-for="one in history.tenders" :key="one.name">
            <span>{{ one.name }}, {{ one.count === 1 ? 'one payment' : `${one.count} payments` }}</span
            ><span class="num">{{ till.money(one.amount) }}</span>
          </li>
        </ul>
      </section>
      <section>
        <h2 class="label">Tax</h2>
        <ul>
          <li v-for="one in history.taxes" :key="one.name">
            <span>{{ one.name }} {{ formatRate(one.rate) }} on {{ till.money(one.base) }}</span
            ><span class="num">{{ till.money(one.tax) }}</span>
          </li>
        </ul>
      </section>
      <section>
        <h2 class="label">Reductions by reason and person</h2>
        <ul>
          <li v-for="(one, at) in history.reductions" :key="at">
            <span>{{ one.count }} × {{ one.reason }}, {{ one.person }}</span
            ><span class="num">{{ till.money(one.amount) }}</span>
          </li>
        </ul>
      </section>
      <section v-if="history.moves.length > 0">
        <h2 class="label">Cash in, out and safe drops</h2>
        <ul>
          <li v-for="(one, at) in history.moves" :key="at">
            <span>{{ one.count }} × {{ MOVES[one.kind] }}: {{ one.reason }}</span
            ><span class="num">{{ till.money(one.amount) }}</span>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
.together {
  flex: 1;
  /* The chart is drawn at the width that it finds: a bar that comes afterwards must not take of it. */
  scrollbar-gutter: stable;
}
.groups {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 22px;
  padding: 22px 18px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: var(--hair);
}
</style>
