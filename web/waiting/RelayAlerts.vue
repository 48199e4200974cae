<script setup lang="ts">
import { mdiMessageAlertOutline } from '@mdi/js';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { RELAY_SAYINGS } from '../../core/promises/relay.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useRelayStore } from './relayStore.ts';

/** What a partner has said, on every till, until somebody opens it or puts it away for all. */
const relays = useRelayStore();
const notices = useNoticeStore();
const router = useRouter();
const first = computed(() => relays.alerts[0]);

async function close(opened: boolean): Promise<void> {
  const alert = first.value;
  if (!alert) return;
  if (opened) await router.push(`/waiting/${alert.promiseId}`);
  await relays.close(alert, opened).catch((error: unknown) => notices.failed(problemWords(error)));
}
</script>

<template>
  <div v-if="first" class="alert" role="alert">
    <v-icon :icon="mdiMessageAlertOutline" />
    <span
      ><b>{{ first.partner }}, {{ first.number }}: {{ RELAY_SAYINGS[first.kind] }}</b
      ><template v-if="first.words">. {{ first.words }}</template>
      <span v-if="relays.alerts.length > 1" class="num"> and {{ relays.alerts.length - 1 }} more</span></span
    >
    <v-btn class="go" @click="close(true)">Open</v-btn>
    <v-btn @click="close(false)">Put away for all</v-btn>
  </div>
</template>

<style scoped>
.alert {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  min-height: 60px;
  padding: 4px 8px 4px 24px;
  font-size: 15px;
  line-height: 1.2;
  border-bottom: var(--rule);
  background: var(--blue-wash);
  box-shadow: inset 12px 0 0 var(--blue);
}
.alert > span {
  flex: 1 1 230px;
}
</style>
