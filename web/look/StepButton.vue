<script setup lang="ts">
import KeyHint from '../keys/KeyHint.vue';
import type { KeyName } from '../keys/keyTable.ts';

/** A step at the foot of a column, with its key: the next one, or one beside it. */
defineProps<{ of?: KeyName; beside?: boolean }>();
</script>

<template>
  <button type="button" :class="beside ? 'foot-step' : 'next-step'">
    <span><slot /></span><KeyHint v-if="of" :of="of" />
  </button>
</template>
