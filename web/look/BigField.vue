<script setup lang="ts">
import { useId, useTemplateRef } from 'vue';

defineOptions({ inheritAttrs: false });
/** One thing that is typed at the counter, large, with what is wrong next to it. */
const { id = useId(), kind = 'text' } = defineProps<{
  label: string;
  id?: string;
  /** Figures stand large, to the right. */
  kind?: 'text' | 'figure' | 'code';
  wrong?: string | undefined;
}>();
const text = defineModel<string>({ required: true });
const field = useTemplateRef<HTMLInputElement>('field');
defineExpose({
  focus: () => field.value?.focus(),
  select: () => field.value?.select(),
  hasFocus: () => document.activeElement === field.value,
});
</script>

<template>
  <label :for="id">{{ label }}</label>
  <input
    :id
    ref="field"
    v-model="text"
    class="big-field"
    :class="{ num: kind !== 'text' }"
    :inputmode="kind === 'figure' ? 'decimal' : 'text'"
    autocomplete="off"
    :aria-invalid="Boolean(wrong)"
    :aria-describedby="wrong ? `${id}-wrong` : undefined"
    v-bind="$attrs"
  />
  <p v-if="wrong" :id="`${id}-wrong`" class="bad" role="alert">{{ wrong }}</p>
</template>
