<script setup lang="ts">
/** Something that is so or is not. In a table its words are heard only: they stand at the row and the column. */
const on = defineModel<boolean>({ required: true });
const { unseen = false } = defineProps<{ label: string; unseen?: boolean }>();
</script>

<template>
  <label class="check-field" :class="{ unseen }">
    <input v-model="on" type="checkbox" :aria-label="unseen ? label : undefined" />
    <slot>{{ unseen ? '' : label }}</slot>
  </label>
</template>

<style scoped>
.check-field {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  font-weight: 650;
}
.unseen {
  justify-content: center;
}
input {
  flex: none;
  width: 22px;
  height: 22px;
  accent-color: var(--blue);
}
</style>
