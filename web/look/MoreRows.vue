<script setup lang="ts">
import { formatCount } from '../../core/locale.ts';
import type { useSomeOf } from './someOf.ts';

/** Beneath a long list: what is left of it, and a press for more. */
defineProps<{ of: ReturnType<typeof useSomeOf> }>();
</script>

<template>
  <div v-if="of.left.value > 0" class="acts">
    <v-btn @click="of.more()">Show more: {{ formatCount(of.left.value) }} left</v-btn>
  </div>
</template>
