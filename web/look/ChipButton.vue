<script setup lang="ts">
/** A step beside others, or something that is on or off. */
withDefaults(defineProps<{ on?: boolean | undefined }>(), { on: undefined });
</script>

<template>
  <button type="button" class="chip" :class="{ on }" :aria-pressed="on"><slot /></button>
</template>
