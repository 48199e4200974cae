<script setup lang="ts">
import { CONDITIONS, RETURN_REASONS } from '../../core/journal/returns.ts';
import { useReturnStore } from './returnStore.ts';

/** Why goods come back, and what becomes of them: the usual answers, each with one touch. */
const returns = useReturnStore();
</script>

<template>
  <div class="chips" role="group" aria-label="Usual reasons">
    <button
      v-for="one in RETURN_REASONS"
      :key="one"
      type="button"
      class="chip"
      :aria-pressed="one === returns.reason"
      @click="returns.reason = one"
    >
      {{ one }}
    </button>
  </div>
  <div class="chips" role="group" aria-label="What becomes of the goods">
    <button
      v-for="(word, one) in CONDITIONS"
      :key="one"
      type="button"
      class="chip"
      :aria-pressed="one === returns.condition"
      @click="returns.condition = one"
    >
      {{ word }}
    </button>
  </div>
</template>

<style scoped>
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.chip[aria-pressed='true'] {
  background: var(--blue);
  color: var(--on-blue);
  border-color: var(--blue);
}
</style>
