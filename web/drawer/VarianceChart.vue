<script setup lang="ts">
import { computed } from 'vue';
import VueApexCharts from 'vue3-apexcharts';
import { useTheme } from 'vuetify';
import type { ShiftRow } from '../../contract/drawer.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Over and short of shifts, oldest on the left, a line for each till. */
const { rows } = defineProps<{ rows: ShiftRow[] }>();

const till = useTillStore();
const theme = useTheme();
const colors = computed(() => theme.current.value.colors);
const tills = computed(() => [...new Set(rows.map((row) => row.till))].toSorted((a, b) => a - b));
/** Each till has a line of its own, told by its dashes too. */
const DASHES = [0, 4, 10];
const lineColors = computed(() => [colors.value.primary, colors.value.ink, colors.value.error].map(String));
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
  colors: lineColors.value,
  legend: { show: false },
  stroke: { width: 2, curve: 'straight', dashArray: DASHES },
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
  <p class="tills">
    <span v-for="(number, at) in tills" :key="number">
      <svg width="34" height="10" aria-hidden="true">
        <line
          x1="0"
          y1="5"
          x2="34"
          y2="5"
          stroke-width="3"
          :stroke="lineColors[at % lineColors.length]"
          :stroke-dasharray="DASHES[at % DASHES.length]"
        />
      </svg>
      Till {{ number }}
    </span>
  </p>
  <VueApexCharts :key="theme.name.value" type="line" height="220" :options="options" :series="series" />
</template>

<style scoped>
.tills {
  display: flex;
  gap: 22px;
  padding: 12px 18px 0;
  font-size: 14px;
}
.tills span {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
