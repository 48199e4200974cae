<script setup lang="ts">
import { keyHint, type KeyName } from './keyTable.ts';

/** The key that does what a button does. */
defineProps<{ of: KeyName }>();
</script>

<template>
  <kbd>{{ keyHint(of) }}</kbd>
</template>
