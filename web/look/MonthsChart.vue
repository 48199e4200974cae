<script setup lang="ts">
import { dayLater, monthOf } from '../../core/day.ts';
import { computed } from 'vue';
import MoneyChart from './MoneyChart.vue';
import { useTillStore } from '../shop/tillStore.ts';

/** Money by month, `2026-03`, over the last twelve. */
const { name, months } = defineProps<{
  name: string;
  months: readonly { month: string; amount: number }[];
}>();

const till = useTillStore();
/** The last twelve months, `2026-03`, also those without any. */
const all = computed(() => {
  const now = monthOf(till.today());
  return Array.from({ length: 12 }, (_, at) => dayLater(now, { months: at - 11 }).slice(0, 7));
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
