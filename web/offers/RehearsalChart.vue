<script setup lang="ts">
import { computed } from 'vue';
import type { RehearsalFindings } from '../../contract/offers.ts';
import MoneyChart from '../look/MoneyChart.vue';

/** What the offer would have cost on each day. */
const { days } = defineProps<{ days: RehearsalFindings['days'] }>();

const at = (day: string) => new Date(`${day}T12:00Z`).getTime();
const series = computed(() => [
  { name: 'Cost', data: days.map(({ day, cost }) => ({ x: at(day), y: cost })) },
]);
</script>

<template>
  <MoneyChart
    type="bar"
    title="What it would have cost, by day"
    :series="series"
    of-days
    :more="{ plotOptions: { bar: { columnWidth: '70%' } } }"
  />
</template>
