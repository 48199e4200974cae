<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { ref } from 'vue';
import type { SetupChange } from '../../contract/setup.ts';
import { SETUP_SECTIONS } from '../../core/setup/sections.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

const PAGE = 50;
const SECTIONS = [
  { value: '', title: 'All of Setup' },
  ...Object.entries(SETUP_SECTIONS).map(([value, title]) => ({ value, title })),
];

const setup = useSetupStore();
const till = useTillStore();
const section = ref('');
const find = ref('');
const [listed, showListed] = shown<{ changes: SetupChange[]; more: boolean } | null>(null);

async function pageAfter(before: readonly SetupChange[]): Promise<{ changes: SetupChange[]; more: boolean }> {
  const found = await setup.changes(section.value, find.value, before.at(-1)?.id);
  return { changes: [...before, ...found], more: found.length === PAGE };
}
/** The newest of what is asked for, or what follows under those that are there. */
const load = useLook((before: readonly SetupChange[] = []) => showListed(pageAfter(before)));
watchDebounced([section, find], () => load(), { debounce: 200, immediate: true });
</script>

<template>
  <section class="block" aria-labelledby="changes-title">
    <h2 id="changes-title" class="title">Who changed what</h2>
    <div class="fields">
      <v-select v-model="section" :items="SECTIONS" label="Part" />
      <v-text-field v-model="find" label="Name, setting or value" clearable @click:clear="find = ''" />
    </div>
    <table class="listed" v-if="listed && listed.changes.length > 0">
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Who</th>
          <th scope="col">What</th>
          <th scope="col">Was</th>
          <th scope="col">Is now</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="change in listed.changes" :key="change.id">
          <td>{{ till.time(change.at, 'full') }}</td>
          <td>{{ change.who }}</td>
          <td>
            <b>{{ change.what }}</b>
            <router-link class="word" :to="`/setup/${change.section}`">{{
              SETUP_SECTIONS[change.section]
            }}</router-link>
          </td>
          <td>{{ change.was || '—' }}</td>
          <td>{{ change.became || '—' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="listed" class="soft">
      {{ find || section ? 'Nothing fits.' : 'Nothing was changed since the shop was set up.' }}
    </p>
    <div v-if="listed?.more" class="acts"><v-btn @click="load(listed.changes)">Earlier ones</v-btn></div>
  </section>
</template>

<style scoped>
table {
  table-layout: fixed;
}
th:nth-child(1) {
  width: 24%;
}
th:nth-child(2) {
  width: 13%;
}
th:nth-child(3) {
  width: 23%;
}
td .word {
  display: block;
  padding: 0;
  font-weight: 400;
}
</style>
