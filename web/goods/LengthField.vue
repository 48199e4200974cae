<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatQuantity, parseQuantity } from '../../core/quantity.ts';

/** A length in tenths of a millimetre, typed in millimetres; what is none is not a number. */
const length = defineModel<number>({ required: true });
defineProps<{ label: string; wrong?: string | undefined }>();

const show = (tenths: number) => (Number.isFinite(tenths) ? formatQuantity(tenths * 100) : '');
const parse = (typed: string) => {
  const thousandths = parseQuantity(typed, 1);
  return thousandths === null ? Number.NaN : thousandths / 100;
};
const text = ref(show(length.value));
watch(length, (tenths) => {
  if (Number.isFinite(tenths) && parse(text.value) !== tenths) text.value = show(tenths);
});
watch(text, (typed) => {
  length.value = parse(typed);
});
</script>

<template>
  <v-text-field v-model="text" :label inputmode="decimal" suffix="mm" :error-messages="wrong" />
</template>
