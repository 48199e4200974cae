<script setup lang="ts">
import ChipButton from './ChipButton.vue';

/** Words that are often typed: one touch puts them into the field above. */
defineProps<{ words: readonly string[]; label?: string }>();
const text = defineModel<string>({ required: true });
</script>

<template>
  <div class="chips" role="group" :aria-label="label ?? 'Usual reasons'">
    <ChipButton v-for="one in words" :key="one" @click="text = one">{{ one }}</ChipButton>
  </div>
</template>
