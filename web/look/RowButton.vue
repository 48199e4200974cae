<script setup lang="ts">
/** A row of a list that is opened or taken; `on` where it is the one that is looked at, or was picked. */
defineProps<{ on?: boolean; picks?: boolean }>();
</script>

<template>
  <button
    type="button"
    class="list-row"
    :class="{ on }"
    :aria-pressed="picks ? on : undefined"
    :aria-current="(!picks && on) || undefined"
  >
    <slot />
  </button>
</template>
