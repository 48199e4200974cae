<script setup lang="ts">
import { mdiCheckboxBlankOutline, mdiCheckboxMarked } from '@mdi/js';
import { computed } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { setupChecklist } from '../../core/setup/checklist.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();
const steps = computed(() => setupChecklist(facts.progress));
const done = computed(() => steps.value.filter((step) => step.done).length);
const next = computed(() => steps.value.find((step) => !step.done));
</script>

<template>
  <section v-if="next" class="block" aria-labelledby="checklist-title">
    <h2 id="checklist-title" class="title">
      The way to the first sale: {{ done }} of {{ steps.length }} done
    </h2>
    <ol>
      <li v-for="step in steps" :key="step.words" :class="{ next: step === next }">
        <v-icon
          :icon="step.done ? mdiCheckboxMarked : mdiCheckboxBlankOutline"
          :aria-label="step.done ? 'Done' : 'To do'"
        />
        <b>{{ step.words }}</b>
        <span class="soft">{{ step.advice }}</span>
        <router-link v-if="!step.done" class="word" :to="step.to">Go there</router-link>
      </li>
    </ol>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto 240px 1fr auto;
  gap: 12px;
  align-items: center;
  min-height: 46px;
  padding: 0 10px;
  border-top: var(--hair);
}
li.next {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.word {
  display: grid;
  place-items: center;
  color: inherit;
}
</style>
