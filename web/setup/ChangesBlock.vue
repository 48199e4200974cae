<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { ref, shallowRef } from 'vue';
import type { SetupChange } from '../../contract/setup.ts';
import { SETUP_SECTIONS } from '../../core/setup/sections.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

const PAGE = 50;
const SECTIONS = [
  { value: '', title: 'All of Setup' },
  ...Object.entries(SETUP_SECTIONS).map(([value, title]) => ({ value, title })),
];

const setup = useSetupStore();
const till = useTillStore();
const notices = useNoticeStore();
const section = ref('');
const find = ref('');
const changes = shallowRef<SetupChange[] | null>(null);
const more = ref(false);

async function load(after: readonly SetupChange[] = []): Promise<void> {
  try {
    const found = await setup.changes(section.value, find.value, after.at(-1)?.id);
    changes.value = [...after, ...found];
    more.value = found.length === PAGE;
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
watchDebounced([section, find], () => load(), { debounce: 200, immediate: true });
</script>

<template>
  <section class="block" aria-labelledby="changes-title">
    <h2 id="changes-title" class="title">Who changed what</h2>
    <div class="fields">
      <v-select v-model="section" :items="SECTIONS" label="Part" />
      <v-text-field v-model="find" label="Name, setting or value" clearable @click:clear="find = ''" />
    </div>
    <table class="listed" v-if="changes && changes.length > 0">
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
        <tr v-for="change in changes" :key="change.id">
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
    <p v-else-if="changes" class="soft">
      {{ find || section ? 'Nothing fits.' : 'Nothing was changed since the shop was set up.' }}
    </p>
    <div v-if="more" class="acts"><v-btn @click="load(changes ?? [])">Earlier ones</v-btn></div>
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
