<script setup lang="ts">
import { computed } from 'vue';
import MoneyChart from './MoneyChart.vue';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Money by month, `2026-03`, over the last twelve. */
const { name, months } = defineProps<{
  name: string;
  months: readonly { month: string; amount: number }[];
}>();

const till = useTillStore();
/** The last twelve months, `2026-03`, also those without any. */
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
    name,
    data: all.value.map((month) => ({
      x: monthWords(month),
      y: months.find((one) => one.month === month)?.amount ?? 0,
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
