<script setup lang="ts">
import { computed } from 'vue';
import { useTheme } from 'vuetify';
import type { ShiftRow } from '../../contract/drawer.ts';
import { formatCount } from '../../core/locale.ts';
import MoneyChart from '../look/MoneyChart.vue';

/** Over and short of shifts, oldest on the left, a line for each till: of very many the newest ones. */
const { rows: all } = defineProps<{ rows: ShiftRow[] }>();

const MOST_DRAWN = 2000;
const rows = computed(() => all.slice(0, MOST_DRAWN));

const theme = useTheme();
const tills = computed(() => [...new Set(rows.value.map((row) => row.till))].toSorted((a, b) => a - b));
/** Each till has a line of its own, told by its dashes too. */
const DASHES = [0, 4, 10];
const COLORS = ['primary', 'ink', 'error'] as const;
/** With as many colours as dashes nine tills look different. */
const dashOf = (at: number) => DASHES[(at + Math.floor(at / COLORS.length)) % DASHES.length] ?? 0;
const lineColors = computed(() => COLORS.map((name) => String(theme.current.value.colors[name])));
const series = computed(() =>
  tills.value.map((number) => ({
    name: `Till ${number}`,
    data: rows.value
      .filter((row) => row.till === number)
      .map(({ closedAt, variance }) => ({ x: new Date(closedAt).getTime(), y: variance }))
      .toSorted((a, b) => a.x - b.x),
  })),
);
/** Dots on lines, and the line of nothing missing. */
const more = computed(() => ({
  legend: { show: false },
  stroke: { width: 2, curve: 'straight', dashArray: tills.value.map((_till, at) => dashOf(at)) },
  markers: { size: 4 },
  annotations: { yaxis: [{ y: 0, borderColor: lineColors.value[1], strokeDashArray: 0 }] },
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
          :stroke-dasharray="dashOf(at)"
        />
      </svg>
      Till {{ number }}
    </span>
    <b v-if="all.length > rows.length"
      >The newest {{ formatCount(rows.length) }} of {{ formatCount(all.length) }}</b
    >
  </p>
  <MoneyChart
    type="line"
    title="Over and short, shift by shift"
    :series="series"
    :colors="COLORS"
    of-days
    :more="more"
  />
</template>

<style scoped>
.tills {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  padding: 12px 18px 0;
  font-size: 14px;
}
.tills span {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
