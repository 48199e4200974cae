<script setup lang="ts">
import { ref, watch } from 'vue';

/** A whole number; where it may be missing, an empty field is none. */
const count = defineModel<number | null>({ required: true });
const { optional = false } = defineProps<{ label: string; wrong?: string | undefined; optional?: boolean }>();

const show = (value: number | null) => (value !== null && Number.isFinite(value) ? String(value) : '');
const text = ref(show(count.value));
const parse = (typed: string) => {
  if (typed.trim() === '') return optional ? null : Number.NaN;
  return /^\d{1,9}$/.test(typed.trim()) ? Number(typed) : Number.NaN;
};
watch(count, (value) => {
  if (!Object.is(parse(text.value), value)) text.value = show(value);
});
watch(text, (typed) => {
  count.value = parse(typed);
});
</script>

<template>
  <v-text-field
    v-model="text"
    :label="label"
    inputmode="numeric"
    :placeholder="optional ? 'no limit' : ''"
    :persistent-placeholder="optional"
    :error-messages="wrong"
  />
</template>
