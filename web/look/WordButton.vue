<script setup lang="ts">
/** A step of little weight: a word in a line of others. */
</script>

<template>
  <button type="button" class="word"><slot /></button>
</template>
