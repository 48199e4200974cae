<script setup lang="ts">
import { computed } from 'vue';
import VueApexCharts from 'vue3-apexcharts';
import { useTheme } from 'vuetify';
import type { CustomerPage } from '../../contract/people.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What somebody spent by month, over the last twelve. */
const { months } = defineProps<{ months: CustomerPage['months'] }>();

const till = useTillStore();
const theme = useTheme();
const colors = computed(() => theme.current.value.colors);
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
const options = computed(() => ({
  chart: {
    toolbar: { show: false },
    animations: { enabled: false },
    foreColor: String(colors.value.ink),
    fontFamily: 'Atkinson Hyperlegible Next Variable, sans-serif',
  },
  colors: [String(colors.value.primary)],
  plotOptions: { bar: { columnWidth: '60%' } },
  dataLabels: { enabled: false },
  grid: { borderColor: String(colors.value.hairline) },
  xaxis: { type: 'category', labels: { rotate: 0 } },
  yaxis: { labels: { formatter: (value: number) => till.money(Math.round(value)) } },
  tooltip: { theme: theme.current.value.dark ? 'dark' : 'light' },
}));
</script>

<template>
  <VueApexCharts :key="theme.name.value" type="bar" height="170" :options="options" :series="series" />
</template>
