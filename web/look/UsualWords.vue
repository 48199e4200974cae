<script setup lang="ts">
/** Words that are often typed: one touch puts them into the field above. */
defineProps<{ words: readonly string[]; label?: string }>();
const text = defineModel<string>({ required: true });
</script>

<template>
  <div class="chips" role="group" :aria-label="label ?? 'Usual reasons'">
    <button v-for="one in words" :key="one" type="button" class="chip" @click="text = one">{{ one }}</button>
  </div>
</template>
