<script setup lang="ts">
/** How many of something, typed beside its name; what it is called is heard. */
const text = defineModel<string>({ required: true });
defineProps<{ label: string }>();
</script>

<template>
  <input v-model="text" class="num how-many" inputmode="decimal" autocomplete="off" :aria-label="label" />
</template>
