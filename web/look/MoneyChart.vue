<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import { useTheme } from 'vuetify';
import { useTillStore } from '../shop/tillStore.ts';
import { styleNonce } from './styleNonce.ts';

// What draws is large: loaded with the first chart that is looked at, whose place is there before it.
const VueApexCharts = defineAsyncComponent(() => import('vue3-apexcharts'));

/** A chart of amounts in the shop's look: its fonts, colours and figures. */
const {
  type,
  height = 220,
  title = '',
  colors = undefined,
  xaxis = {},
  more = {},
  series,
  legend = false,
  ofDays = false,
} = defineProps<{
  type: 'bar' | 'line' | 'rangeArea';
  series: {
    name: string;
    type?: 'line' | 'rangeArea';
    data: { x: string | number; y: number | null | readonly [low: number, high: number] }[];
  }[];
  xaxis?: object;
  /** Whether points in time stand along the axis, of which the day is said. */
  ofDays?: boolean;
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
/** Days along the axis, as the shop writes them: the chart's own words are those of one language. */
const onAxis = computed(() => {
  const locale = till.facts?.shop.locale ?? 'en-US';
  const options = { calendar: 'gregory', day: 'numeric', month: 'short', timeZone: 'UTC' } as const;
  const format = new Intl.DateTimeFormat(locale, options);
  return { labels: { formatter: (_: string, at?: number) => (at === undefined ? '' : format.format(at)) } };
});
const atPointer = (at: number): string => till.calendarDay(new Date(at).toISOString().slice(0, 10));
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
    xaxis: ofDays ? { type: 'datetime', ...onAxis.value } : xaxis,
    yaxis: {
      labels: { formatter: (value: number | null) => (value === null ? '' : till.money(Math.round(value))) },
    },
    tooltip: {
      theme: theme.current.value.dark ? 'dark' : 'light',
      x: ofDays ? { formatter: atPointer } : {},
    },
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
  <!-- ApexCharts takes 15 dots more than it is told to. -->
  <div v-if="!empty" :style="{ minHeight: `${height + 15}px` }">
    <VueApexCharts :key="theme.name.value" :type :height :options="options" :series="series" />
  </div>
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
