<script setup lang="ts">
import { computed } from 'vue';
import { COMPARISONS, PERIODS, type Comparison, type PeriodName } from '../../core/figures/period.ts';
import DateField from '../look/DateField.vue';
import { useFiguresStore } from './figuresStore.ts';
import ChipChoice from '../look/ChipChoice.vue';

/** Which days of which part of the shop, beside which others. */
const asked = defineModel<{
  days: PeriodName | '';
  from: string;
  to: string;
  compare: Comparison;
  place: number;
  till: number;
}>({ required: true });
const { beside = true, parts = true } = defineProps<{ beside?: boolean; parts?: boolean }>();

const figures = useFiguresStore();
const DAYS = (Object.keys(PERIODS) as PeriodName[]).map((value) => ({ value, words: PERIODS[value].words }));
const COMPARE = Object.entries(COMPARISONS).map(([value, title]) => ({ value, title }));
const places = computed(() => [
  { value: 0, title: 'All places' },
  ...(figures.choices?.places ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const tills = computed(() => [
  { value: 0, title: 'All tills' },
  ...(figures.choices?.tills ?? [])
    .filter(({ placeId }) => !asked.value.place || placeId === asked.value.place)
    .map(({ id, number }) => ({ value: id, title: `Till ${number}` })),
]);
const wrong = computed(() =>
  asked.value.to && asked.value.to < asked.value.from ? 'Before the first day' : '',
);
</script>

<template>
  <ChipChoice v-model="asked.days" label="Days" :options="DAYS" />
  <DateField v-model="asked.from" label="From" />
  <DateField v-model="asked.to" label="To" :wrong="wrong" />
  <v-select v-if="beside" v-model="asked.compare" label="Beside" :items="COMPARE" />
  <v-select v-if="parts" v-model="asked.place" label="Place" :items="places" />
  <v-select v-if="parts" v-model="asked.till" label="Till" :items="tills" />
</template>

<style scoped>
.chips {
  grid-column: 1 / -1;
}
</style>
