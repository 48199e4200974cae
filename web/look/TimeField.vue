<script setup lang="ts">
import { ref, watch } from 'vue';
import { formatTimeOfDay, parseTimeOfDay } from '../../core/timeOfDay.ts';

/** A time of day as `14:30`, typed as people write it; what is none stays as it is, so that a form can say so. */
const time = defineModel<string>({ required: true });
defineProps<{ label: string; wrong?: string | undefined; disabled?: boolean }>();

const parse = (typed: string) => parseTimeOfDay(typed) ?? typed.trim();
const text = ref(formatTimeOfDay(time.value));
watch(time, (value) => {
  if (parse(text.value) !== value) text.value = formatTimeOfDay(value);
});
watch(text, (typed) => {
  time.value = parse(typed);
});
</script>

<template>
  <v-text-field
    v-model="text"
    :label
    :disabled
    :hide-details="!wrong"
    :error-messages="wrong"
    @blur="text = formatTimeOfDay(time)"
  />
</template>
