<script setup lang="ts">
/** One of several things that have a form each: its name, and how it stands; what is ill stands out. */
defineProps<{
  label: string;
  options: readonly { value: number; title: string; words: string; ill?: boolean }[];
}>();
const chosen = defineModel<number | null>({ required: true });
</script>

<template>
  <div class="choose" role="group" :aria-label="label">
    <button
      v-for="{ value, title, words, ill } in options"
      :key="value"
      type="button"
      :aria-pressed="value === chosen"
      :class="{ on: value === chosen, ill }"
      @click="chosen = value"
    >
      <b>{{ title }}</b>
      <span>{{ words }}</span>
    </button>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
button {
  border: var(--group);
  padding: 10px 14px;
  text-align: left;
  background: var(--surface);
  color: var(--ink);
  flex: 1 1 220px;
}
b,
span {
  display: block;
}
.on {
  background: var(--blue);
  color: var(--on-blue);
}
.ill:not(.on) span {
  color: var(--red);
}
</style>
