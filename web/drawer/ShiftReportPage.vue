<script setup lang="ts">
import { computedAsync, useEventListener } from '@vueuse/core';
import { useRoute, useRouter } from 'vue-router';
import type { Paper } from '../../core/journal/paper.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import PaperView from '../journal/PaperView.vue';
import { problemWords, read } from '../net/api.ts';

const route = useRoute();
const router = useRouter();
const notices = useNoticeStore();
const address = `/drawer/shifts/${String(route.params.id)}/report`;
const paper = computedAsync<Paper | null>(
  () =>
    read<Paper>(address).catch((error: unknown) => {
      notices.failed(problemWords(error));
      return null;
    }),
  null,
);

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'F9') {
    event.preventDefault();
    void router.push('/drawer');
  }
});
</script>

<template>
  <div class="report">
    <header class="head">
      <h1 class="title">{{ paper?.title ?? 'Shift report' }}</h1>
      <div class="acts">
        <v-btn :href="`/api${address}.pdf`" target="_blank">PDF</v-btn>
        <v-btn :href="`/api${address}.txt`" target="_blank">Text</v-btn>
        <v-btn class="go" to="/drawer">To the drawer <kbd>F9</kbd></v-btn>
      </div>
    </header>
    <div class="scroll body"><PaperView v-if="paper" :paper="paper" /></div>
  </div>
</template>

<style scoped>
.report {
  display: flex;
  flex-direction: column;
}
.head {
  background: var(--surface);
}
.body {
  padding: 22px;
  flex: 1;
}
</style>
