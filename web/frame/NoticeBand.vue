<script setup lang="ts">
import { mdiAlert, mdiClose, mdiInformationOutline } from '@mdi/js';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { loadAnew } from '../net/edition.ts';
import { connected } from '../net/houseEvents.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { askFirst, updated } from './opening.ts';
import RelayAlerts from '../waiting/RelayAlerts.vue';
import { useRelayStore } from '../waiting/relayStore.ts';
import WordButton from '../look/WordButton.vue';

/** What is to be heard, beside the entry field: whatever comes or goes there, the page beneath does not move. */
const notices = useNoticeStore();
const relays = useRelayStore();
const route = useRoute();
const something = computed(
  () => !connected.value || updated.value || notices.notice !== null || relays.alerts.length > 0,
);

function takeOver(): void {
  const load = () => loadAnew(route.fullPath);
  if (!askFirst(load)) void load();
}
function act(): void {
  const action = notices.notice?.action;
  notices.clear();
  action?.do();
}
</script>

<template>
  <div class="notices" :class="{ something }">
    <div class="all">
      <RelayAlerts />
      <div role="status" aria-live="polite">
        <div v-if="!connected" class="notice failed">
          <v-icon :icon="mdiAlert" />
          <span>The server does not answer. What you ring up is kept here and goes out when it is back.</span>
        </div>
        <div v-else-if="updated" class="notice say">
          <v-icon :icon="mdiInformationOutline" />
          <span>The shop's program was updated. This window takes it over with the next page.</span>
          <WordButton @click="takeOver">Now</WordButton>
        </div>
        <div v-if="notices.notice" class="notice" :class="notices.notice.tone">
          <v-icon :icon="notices.notice.tone === 'failed' ? mdiAlert : mdiInformationOutline" />
          <span>{{ notices.notice.text }}</span>
          <WordButton v-if="notices.notice.action" @click="act">
            {{ notices.notice.action.word }}
          </WordButton>
          <button class="close" type="button" aria-label="Put this message away" @click="notices.clear()">
            <v-icon :icon="mdiClose" />
          </button>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.notices {
  position: relative;
  flex: none;
}
.notices.something {
  width: min(580px, 62%);
}
/* The first is as high as the band; more of them lie over the page for as long as they stand. */
.all {
  position: absolute;
  z-index: 9;
  inset: 0 0 auto;
  border-left: var(--rule);
}
.notice {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 60px;
  padding: 0 6px 0 14px;
  font-weight: 600;
  font-size: 15px;
  line-height: 1.2;
  border-bottom: var(--rule);
  background: var(--yellow);
  color: var(--on-yellow);
}
.notice.failed {
  background: var(--red-wash);
  color: var(--ink);
  box-shadow: inset 12px 0 0 var(--red);
  padding-left: 24px;
}
.notice span {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.close {
  width: 44px;
  height: 44px;
  text-align: center;
}
</style>
