<script setup lang="ts">
import { useId } from 'vue';
import TypedBefore from '../look/TypedBefore.vue';
import type { Remembered } from '../look/remembered.ts';

/** A part of Setup that is one form: fields, and a button that keeps all of them. */
defineProps<{ title: string; remembered: Remembered }>();
defineEmits<{ save: [] }>();
const id = useId();
</script>

<template>
  <section class="block" :aria-labelledby="id">
    <h2 :id class="title">{{ title }}</h2>
    <form novalidate @submit.prevent="$emit('save')">
      <TypedBefore :of="remembered" />
      <div class="fields"><slot /></div>
      <v-btn class="go" type="submit">Save</v-btn>
    </form>
  </section>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
  justify-items: start;
}
.fields {
  width: 100%;
}
</style>
