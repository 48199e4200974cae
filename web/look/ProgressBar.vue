<script setup lang="ts">
/** How far something is that takes a while, with words about it; without `of` nobody knows. */
const { done, of = 0 } = defineProps<{ done: number; of?: number; label: string }>();
</script>

<template>
  <div class="progress">
    <b><slot /></b>
    <v-progress-linear
      :model-value="of > 0 ? (done / of) * 100 : 0"
      :indeterminate="of === 0"
      color="primary"
      bg-color="hairline"
      height="12"
      :aria-label="label"
    />
  </div>
</template>

<style scoped>
.progress {
  display: grid;
  gap: 6px;
}
</style>
