<script setup lang="ts">
import { computed } from 'vue';
import VueApexCharts from 'vue3-apexcharts';
import { useTheme } from 'vuetify';
import type { ShiftRow } from '../../contract/drawer.ts';
import { useTillStore } from '../setup/tillStore.ts';

/** Over and short of shifts, oldest on the left, a line for each till. */
const { rows } = defineProps<{ rows: ShiftRow[] }>();

const till = useTillStore();
const theme = useTheme();
const colors = computed(() => theme.current.value.colors);
const tills = computed(() => [...new Set(rows.map((row) => row.till))].toSorted((a, b) => a - b));
const series = computed(() =>
  tills.value.map((number) => ({
    name: `Till ${number}`,
    data: rows
      .filter((row) => row.till === number)
      .map(({ closedAt, variance }) => ({ x: new Date(closedAt).getTime(), y: variance }))
      .toSorted((a, b) => a.x - b.x),
  })),
);
const options = computed(() => ({
  chart: {
    toolbar: { show: false },
    zoom: { enabled: false },
    animations: { enabled: false },
    foreColor: String(colors.value.ink),
    fontFamily: 'Atkinson Hyperlegible Next Variable, sans-serif',
  },
  colors: [String(colors.value.primary), String(colors.value.ink), String(colors.value.soft)],
  stroke: { width: 2, curve: 'straight', dashArray: [0, 4, 8] },
  markers: { size: 4 },
  grid: { borderColor: String(colors.value.hairline) },
  title: { text: 'Over and short, shift by shift', style: { fontSize: '14px' } },
  annotations: { yaxis: [{ y: 0, borderColor: String(colors.value.ink), strokeDashArray: 0 }] },
  xaxis: { type: 'datetime' },
  yaxis: { labels: { formatter: (value: number) => till.money(Math.round(value)) } },
  tooltip: { theme: theme.current.value.dark ? 'dark' : 'light', x: { format: 'dd MMM yyyy' } },
}));
</script>

<template>
  <VueApexCharts :key="theme.name.value" type="line" height="220" :options="options" :series="series" />
</template>
