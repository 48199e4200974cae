<script setup lang="ts">
import { computed } from 'vue';
import type { CustomerPage } from '../../contract/people.ts';
import MoneyChart from '../look/MoneyChart.vue';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What somebody spent by month, over the last twelve. */
const { months } = defineProps<{ months: CustomerPage['months'] }>();

const till = useTillStore();
/** The last twelve months, `2026-03`, also those without a visit. */
const all = computed(() => {
  const [year = 0, month = 1] = shopDay(houseNow(), till.facts?.shop.timezone ?? 'UTC')
    .split('-')
    .map(Number);
  return Array.from({ length: 12 }, (_, at) => {
    const first = new Date(Date.UTC(year, month - 12 + at, 1));
    return first.toISOString().slice(0, 7);
  });
});
const series = computed(() => [
  {
    name: 'Spent',
    data: all.value.map((month) => ({
      x: monthWords(month),
      y: months.find((one) => one.month === month)?.total ?? 0,
    })),
  },
]);
function monthWords(month: string): string {
  const format = new Intl.DateTimeFormat(till.facts?.shop.locale ?? 'en-US', {
    month: 'short',
    timeZone: 'UTC',
  });
  return format.format(new Date(`${month}-01T00:00:00Z`));
}
</script>

<template>
  <MoneyChart
    type="bar"
    :height="170"
    :series="series"
    :xaxis="{ type: 'category', labels: { rotate: 0 } }"
    :more="{ plotOptions: { bar: { columnWidth: '60%' } } }"
  />
</template>
