<script setup lang="ts">
import { useTemplateRef } from 'vue';

/** Files that are chosen, or dropped here. */
const { accept, multiple = false } = defineProps<{
  label: string;
  /** Kinds of files that are offered to choose from, as the browser names them. */
  accept: string;
  multiple?: boolean;
  disabled?: boolean;
  /** Stands in a line with others: without a frame. */
  inLine?: boolean;
}>();
const emit = defineEmits<{ chosen: [files: File[]] }>();
const field = useTemplateRef<HTMLInputElement>('field');

function take(files: FileList | null | undefined): void {
  const all = [...(files ?? [])];
  if (all.length > 0) emit('chosen', multiple ? all : all.slice(0, 1));
  // The same file may be chosen once more.
  if (field.value) field.value.value = '';
}
</script>

<template>
  <label
    class="file-field"
    :class="{ 'in-line': inLine }"
    @dragover.prevent
    @drop.prevent="!disabled && take($event.dataTransfer?.files)"
  >
    <b>{{ label }}</b>
    <slot />
    <input ref="field" type="file" :accept :multiple :disabled @change="take(field?.files)" />
  </label>
</template>

<style scoped>
input {
  min-width: 0;
  max-width: 100%;
}
.file-field {
  display: grid;
  gap: 8px;
  padding: 18px;
  min-width: 0;
  cursor: pointer;
  border: 2px dashed var(--ink);
}
.file-field:focus-within {
  border-color: var(--blue);
}
.in-line {
  padding: 0;
  border: 0;
  gap: 2px;
  font-size: 14px;
}
</style>
