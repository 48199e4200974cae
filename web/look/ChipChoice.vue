<script setup lang="ts" generic="T extends string | number | boolean">
import ChipButton from './ChipButton.vue';

/** One of a few, all in sight; the chosen one is filled. */
defineProps<{ label: string; options: readonly { value: T; words: string; figures?: string }[] }>();
const chosen = defineModel<T | null>({ required: true });
</script>

<template>
  <div class="chips" role="group" :aria-label="label">
    <ChipButton
      v-for="{ value, words, figures } in options"
      :key="String(value)"
      :on="value === chosen"
      @click="chosen = value"
    >
      {{ words }} <span v-if="figures" class="num">{{ figures }}</span>
    </ChipButton>
  </div>
</template>
