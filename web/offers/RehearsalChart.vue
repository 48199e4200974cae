<script setup lang="ts">
import { computed } from 'vue';
import VueApexCharts from 'vue3-apexcharts';
import { useTheme } from 'vuetify';
import type { RehearsalFindings } from '../../contract/offers.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What the offer would have cost on each day. */
const { days } = defineProps<{ days: RehearsalFindings['days'] }>();

const till = useTillStore();
const theme = useTheme();
const colors = computed(() => theme.current.value.colors);
const series = computed(() => [{ name: 'Cost', data: days.map(({ day, cost }) => ({ x: day, y: cost })) }]);
const options = computed(() => ({
  chart: {
    toolbar: { show: false },
    animations: { enabled: false },
    foreColor: String(colors.value.ink),
    fontFamily: 'Atkinson Hyperlegible Next Variable, sans-serif',
  },
  colors: [String(colors.value.primary)],
  plotOptions: { bar: { columnWidth: '70%' } },
  dataLabels: { enabled: false },
  grid: { borderColor: String(colors.value.hairline) },
  title: { text: 'What it would have cost, by day', style: { fontSize: '14px' } },
  xaxis: { type: 'category', tickAmount: 12, labels: { rotate: 0, hideOverlappingLabels: true } },
  yaxis: { labels: { formatter: (value: number) => till.money(Math.round(value)) } },
  tooltip: { theme: theme.current.value.dark ? 'dark' : 'light' },
}));
</script>

<template>
  <VueApexCharts :key="theme.name.value" type="bar" height="220" :options="options" :series="series" />
</template>
