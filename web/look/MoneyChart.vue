<script setup lang="ts">
import { computed } from 'vue';
import VueApexCharts from 'vue3-apexcharts';
import { useTheme } from 'vuetify';
import { useTillStore } from '../shop/tillStore.ts';
import { styleNonce } from './styleNonce.ts';

/** A chart of amounts in the shop's look: its fonts, colours and figures. */
const {
  type,
  height = 220,
  title = '',
  colors = undefined,
  xaxis,
  more = {},
  series,
  legend = false,
} = defineProps<{
  type: 'bar' | 'line' | 'rangeArea';
  series: {
    name: string;
    type?: 'line' | 'rangeArea';
    data: { x: string | number; y: number | null | readonly [low: number, high: number] }[];
  }[];
  xaxis: object;
  height?: number;
  title?: string;
  /** Whether the names of the series stand above it with their colours. */
  legend?: boolean;
  /** The colours of the series, by the names of the theme; the first one is blue unless they say otherwise. */
  colors?: readonly ('primary' | 'ink' | 'error' | 'hairline')[];
  /** What else ApexCharts is told. */
  more?: object;
}>();

/** Bars of nothing would be drawn against an axis that means nothing. */
const empty = computed(() => type === 'bar' && series.every(({ data }) => data.every(({ y }) => !y)));
const till = useTillStore();
const theme = useTheme();
const options = computed(() => {
  const own = theme.current.value.colors;
  return {
    chart: {
      // Its own look, without which what belongs to the pointer stands there all the time.
      nonce: styleNonce(),
      toolbar: { show: false },
      zoom: { enabled: false },
      animations: { enabled: false },
      foreColor: String(own.ink),
      fontFamily: 'Atkinson Hyperlegible Next Variable, sans-serif',
    },
    colors: (colors ?? ['primary']).map((name) => String(own[name])),
    dataLabels: { enabled: false },
    grid: { borderColor: String(own.hairline) },
    ...(title ? { title: { text: title, style: { fontSize: '14px' } } } : {}),
    xaxis,
    yaxis: {
      labels: { formatter: (value: number | null) => (value === null ? '' : till.money(Math.round(value))) },
    },
    tooltip: { theme: theme.current.value.dark ? 'dark' : 'light', x: { format: 'dd MMM yyyy' } },
    legend: { show: false },
    // What is pointed at keeps its colour: lighter, it would be lost on the paper.
    states: { hover: { filter: { type: 'none' } } },
    ...more,
  };
});
</script>

<template>
  <p v-if="empty" class="soft">Nothing to draw: all of it is {{ till.money(0) }}.</p>
  <p v-if="legend && !empty" class="legend">
    <span v-for="({ name }, at) in series" :key="name"
      ><i :style="{ background: options.colors[at] }" aria-hidden="true"></i>{{ name }}</span
    >
  </p>
  <VueApexCharts v-if="!empty" :key="theme.name.value" :type :height :options="options" :series="series" />
</template>

<style scoped>
.legend {
  display: flex;
  gap: 4px 18px;
}
.legend i {
  display: inline-block;
  width: 18px;
  height: 10px;
  margin-right: 6px;
}
</style>
