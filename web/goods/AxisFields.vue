<script setup lang="ts">
/** What variants differ in: one thing or two, and the values of each. */
const { fixed = false } = defineProps<{
  /** The family is there: what its variants differ in stands, values are added. */
  fixed?: boolean;
  wrong: Readonly<Record<string, string>>;
}>();
const axes = defineModel<{ name: string; values: string[] }[]>({ required: true });

const put = (at: number, part: Partial<{ name: string; values: string[] }>) =>
  (axes.value = axes.value.map((axis, nth) => (nth === at ? { ...axis, ...part } : axis)));
/** Several values are typed at once, with commas between. */
const split = (values: readonly string[]): string[] =>
  [
    ...new Set(values.flatMap((value) => value.split(/[,;]/)).map((value) => value.trim().slice(0, 30))),
  ].filter(Boolean);
</script>

<template>
  <div v-for="(axis, at) in axes" :key="at" class="axis">
    <v-text-field
      v-if="!fixed"
      :model-value="axis.name"
      :label="at === 0 ? 'What do they differ in?' : 'And in what else?'"
      maxlength="30"
      :error-messages="wrong[`axes[${at}]`]"
      @update:model-value="put(at, { name: $event })"
    />
    <v-combobox
      :model-value="axis.values"
      :label="axis.name ? `${axis.name}: values, with commas between` : 'Its values, with commas between'"
      multiple
      chips
      closable-chips
      :error-messages="wrong[`values[${at}]`]"
      @update:model-value="put(at, { values: split($event) })"
    />
  </div>
</template>

<style scoped>
.axis {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 2fr);
  gap: 10px;
}
.axis > :only-child {
  grid-column: 1 / -1;
}
</style>
