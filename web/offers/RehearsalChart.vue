<script setup lang="ts">
import { computed } from 'vue';
import type { RehearsalFindings } from '../../contract/offers.ts';
import MoneyChart from '../look/MoneyChart.vue';

/** What the offer would have cost on each day. */
const { days } = defineProps<{ days: RehearsalFindings['days'] }>();

const series = computed(() => [{ name: 'Cost', data: days.map(({ day, cost }) => ({ x: day, y: cost })) }]);
const DAYS = { type: 'category', tickAmount: 12, labels: { rotate: 0, hideOverlappingLabels: true } };
</script>

<template>
  <MoneyChart
    type="bar"
    title="What it would have cost, by day"
    :series="series"
    :xaxis="DAYS"
    :more="{ plotOptions: { bar: { columnWidth: '70%' } } }"
  />
</template>
