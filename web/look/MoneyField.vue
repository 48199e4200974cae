<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** An amount in minor units, typed as people write it; what is no amount is not a number. */
const amount = defineModel<number>({ required: true });
defineProps<{ label: string; wrong?: string | undefined }>();

const till = useTillStore();
const show = (value: number) => (Number.isFinite(value) ? formatMoney(value, till.digits) : '');
const text = ref(show(amount.value));
watch(amount, (value) => {
  if (Number.isFinite(value) && parseMoney(text.value, till.digits) !== value) text.value = show(value);
});
watch(text, (typed) => {
  amount.value = parseMoney(typed, till.digits) ?? Number.NaN;
});
</script>

<template>
  <v-text-field v-model="text" :label="label" inputmode="decimal" :error-messages="wrong" />
</template>
