<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatQuantity, parseQuantity } from '../../core/quantity.ts';

/** A quantity in thousandths, typed as people write it; what is none is not a number, an empty field is nothing. */
const quantity = defineModel<number | null>({ required: true });
const { decimals = 0 } = defineProps<{
  label: string;
  decimals?: number;
  wrong?: string | undefined;
  /** In a row of a table its heading says what it is: the label is for those who cannot see that. */
  bare?: boolean;
}>();

const show = (value: number | null) =>
  value !== null && Number.isFinite(value) ? formatQuantity(value) : '';
const parse = (typed: string) =>
  typed.trim() === '' ? null : (parseQuantity(typed, decimals) ?? Number.NaN);
const text = ref(show(quantity.value));
watch(quantity, (value) => {
  if (!Object.is(parse(text.value), value)) text.value = show(value);
});
watch(text, (typed) => {
  quantity.value = parse(typed);
});
</script>
<template>
  <v-text-field
    v-model="text"
    :label="bare ? undefined : label"
    :aria-label="bare ? label : undefined"
    :density="bare ? 'compact' : undefined"
    :hide-details="bare && !wrong"
    inputmode="decimal"
    :error-messages="wrong"
  />
</template>
