<script setup lang="ts" generic="T extends string | number">
/** One of a few, all in sight; the chosen one is filled. */
defineProps<{ label: string; options: readonly { value: T; words: string; figures?: string }[] }>();
const chosen = defineModel<T | null>({ required: true });
</script>

<template>
  <div class="chips" role="group" :aria-label="label">
    <button
      v-for="{ value, words, figures } in options"
      :key="value"
      type="button"
      class="chip"
      :class="{ on: value === chosen }"
      :aria-pressed="value === chosen"
      @click="chosen = value"
    >
      {{ words }} <span v-if="figures" class="num">{{ figures }}</span>
    </button>
  </div>
</template>
