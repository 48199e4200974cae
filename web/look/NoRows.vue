<script setup lang="ts">
defineProps<{
  /** Something is looked for: there may be rows that do not fit. */
  narrowed: boolean;
}>();
defineEmits<{ widen: [] }>();

/** What stands in the place of a list's rows where there are none: what there would be, or the way back to all. */
</script>

<template>
  <div class="empty">
    <template v-if="narrowed">
      <b>Nothing fits</b>
      <slot name="hint" />
      <v-btn @click="$emit('widen')">Show everything</v-btn>
    </template>
    <slot v-else />
  </div>
</template>
