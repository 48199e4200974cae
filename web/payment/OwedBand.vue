<script setup lang="ts">
/** What is still to be paid or given back, in the largest type. */
defineProps<{ words: string; amount: string }>();
</script>

<template>
  <div class="owed">
    <span>{{ words }}</span>
    <span class="num big" data-test="left">{{ amount }}</span>
    <slot />
  </div>
</template>

<style scoped>
.owed {
  background: var(--band);
  color: var(--on-band);
  padding: 14px 18px;
  display: grid;
  grid-template-columns: auto 1fr;
  align-items: end;
  gap: 2px 10px;
}
.big {
  font-size: 52px;
  line-height: 1;
  font-weight: 600;
  letter-spacing: -0.02em;
  text-align: right;
}
@media (max-width: 1100px) {
  .big {
    font-size: 42px;
  }
}
</style>
