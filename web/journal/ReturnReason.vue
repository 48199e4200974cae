<script setup lang="ts">
import { CONDITIONS, RETURN_REASONS } from '../../core/journal/returns.ts';
import ChipChoice from '../look/ChipChoice.vue';
import { useReturnStore } from './returnStore.ts';

/** Why goods come back, and what becomes of them: the usual answers, each with one touch. */
const returns = useReturnStore();
const reasons = RETURN_REASONS.map((value) => ({ value, words: value }));
const conditions = (Object.keys(CONDITIONS) as (keyof typeof CONDITIONS)[]).map((value) => ({
  value,
  words: CONDITIONS[value],
}));
</script>

<template>
  <ChipChoice v-model="returns.reason" label="Usual reasons" :options="reasons" />
  <ChipChoice v-model="returns.condition" label="What becomes of the goods" :options="conditions" />
</template>
