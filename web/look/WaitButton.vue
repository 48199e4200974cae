<script setup lang="ts">
/** A step that may take a while: until it is done that is seen and heard, and it cannot be pressed again. */
defineProps<{ loading: boolean }>();
</script>

<template>
  <v-btn :loading>
    <slot />
    <template #loader>
      <v-progress-circular indeterminate width="2" aria-label="Please wait" />
    </template>
  </v-btn>
</template>
