<script setup lang="ts">
/** One less, how many there are, one more; what shows or takes how many stands between the two. */
defineProps<{
  less: string;
  more: string;
  noLess?: boolean;
  noMore?: boolean;
  /** Keys pass over the two where what stands between them takes keys. */
  typed?: boolean;
}>();
const emit = defineEmits<{ step: [by: 1 | -1] }>();
</script>

<template>
  <div class="stepper">
    <button
      type="button"
      :tabindex="typed ? -1 : undefined"
      :aria-label="less"
      :disabled="noLess"
      @click="emit('step', -1)"
    >
      −
    </button>
    <div><slot /></div>
    <button
      type="button"
      :tabindex="typed ? -1 : undefined"
      :aria-label="more"
      :disabled="noMore"
      @click="emit('step', 1)"
    >
      +
    </button>
  </div>
</template>

<style scoped>
.stepper {
  display: flex;
  width: max-content;
  height: 44px;
  border: 1.5px solid var(--ink);
  background: var(--surface);
}
.stepper > button {
  text-align: center;
  width: 44px;
  font-size: 20px;
  font-weight: 600;
}
.stepper > button:disabled {
  color: var(--soft);
}
.stepper > div {
  display: grid;
  align-items: center;
  min-width: 64px;
  text-align: center;
  font-size: 17px;
  border-inline: 1.5px solid var(--ink);
}
/* What is typed fills its place, and so does what can be pressed to type. */
.stepper > div :slotted(input),
.stepper > div :slotted(form input) {
  width: 92px;
  height: 41px;
  text-align: center;
  font-size: 17px;
  font-weight: 600;
  background: var(--surface);
  color: var(--ink);
  border: 0;
}
</style>
