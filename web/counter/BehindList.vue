<script setup lang="ts">
import { useTurnStore } from '../sale/turnStore.ts';

const turns = useTurnStore();
const MOST = 6;
</script>

<template>
  <section v-if="turns.behind.length > 0" class="behind" aria-labelledby="behind-title">
    <h2 id="behind-title" class="label">
      Rung up after this: <span class="num">{{ turns.behind.length }}</span>
    </h2>
    <ol>
      <li v-for="turn in turns.behind.slice(0, MOST)" :key="turn.id">{{ turn.name }}</li>
      <li v-if="turns.behind.length > MOST" class="soft">and {{ turns.behind.length - MOST }} more</li>
    </ol>
  </section>
</template>

<style scoped>
.behind {
  border-top: var(--group);
  padding: 12px 18px;
  background: var(--surface);
}
li {
  padding: 4px 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
