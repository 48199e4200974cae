<script setup lang="ts">
import { computed } from 'vue';
import { useTillStore } from '../shop/tillStore.ts';
import { monthNames } from './birthdayWords.ts';

/** What more there is to know of somebody. */
defineProps<{ wrong: Readonly<Record<string, string>> }>();
const more = defineModel<{ company: string; birthDay: string; birthMonth: number | null; note: string }>({
  required: true,
});

const till = useTillStore();
const months = computed(() => [
  { value: null, title: '' },
  ...monthNames(till.facts).map((title, at) => ({ value: at + 1, title })),
]);
</script>

<template>
  <v-text-field
    v-model="more.company"
    label="Company or school"
    maxlength="120"
    :error-messages="wrong.company"
  />
  <div class="side-by-side">
    <v-text-field
      v-model="more.birthDay"
      label="Birthday: day"
      inputmode="numeric"
      maxlength="2"
      :error-messages="wrong.birthDay"
    />
    <v-select v-model="more.birthMonth" label="Month" :items="months" :error-messages="wrong.birthMonth" />
  </div>
  <v-textarea
    v-model="more.note"
    label="Note"
    rows="2"
    auto-grow
    maxlength="500"
    :error-messages="wrong.note"
  />
</template>
