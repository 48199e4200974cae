<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatRate, parseRate } from '../../core/rate.ts';

/** A part in parts per million, typed in per cent; what is none is not a number. */
const rate = defineModel<number>({ required: true });
defineProps<{ label: string; wrong?: string | undefined }>();

const show = (value: number) => (Number.isFinite(value) ? formatRate(value).replace(' %', '') : '');
const text = ref(show(rate.value));
watch(rate, (value) => {
  if (Number.isFinite(value) && parseRate(text.value) !== value) text.value = show(value);
});
watch(text, (typed) => {
  rate.value = parseRate(typed) ?? Number.NaN;
});
</script>

<template>
  <v-text-field v-model="text" :label="label" inputmode="decimal" suffix="%" :error-messages="wrong" />
</template>
