<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { useTillStore } from '../shop/tillStore.ts';

/**
 * An amount in minor units, typed as people write it; what is no amount is not a number. Where it may be missing, an
 * empty field is none.
 */
const amount = defineModel<number | null>({ required: true });
const {
  optional = false,
  none = '',
  bare = false,
} = defineProps<{
  label: string;
  wrong?: string | undefined;
  optional?: boolean;
  /** What stands there where there is none. */
  none?: string;
  /** In a row of a table its heading says what it is: the label is for those who cannot see that. */
  bare?: boolean;
}>();

const till = useTillStore();
const show = (value: number | null) =>
  value !== null && Number.isFinite(value) ? formatMoney(value, till.digits) : '';
const parse = (typed: string) =>
  optional && typed.trim() === '' ? null : (parseMoney(typed, till.digits) ?? Number.NaN);
const text = ref(show(amount.value));
watch(amount, (value) => {
  if ((value === null || Number.isFinite(value)) && parse(text.value) !== value) text.value = show(value);
});
watch(text, (typed) => {
  amount.value = parse(typed);
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
    :placeholder="none"
    :persistent-placeholder="none !== ''"
    :error-messages="wrong"
  />
</template>
