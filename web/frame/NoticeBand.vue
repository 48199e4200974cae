<script setup lang="ts">
import { mdiAlert, mdiClose, mdiInformationOutline } from '@mdi/js';
import { connected } from '../net/houseEvents.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import WordButton from '../look/WordButton.vue';

const notices = useNoticeStore();

function act(): void {
  const action = notices.notice?.action;
  notices.clear();
  action?.do();
}
</script>

<template>
  <div class="notices">
    <div role="status" aria-live="polite">
      <div v-if="!connected" class="notice failed">
        <v-icon :icon="mdiAlert" />
        <span>The server does not answer. What you ring up is kept here and goes out when it is back.</span>
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
</template>

<style scoped>
.notice {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 46px;
  padding: 0 6px 0 18px;
  border-bottom: var(--group);
  font-weight: 600;
  background: var(--yellow);
  color: var(--on-yellow);
}
.notice.failed {
  background: var(--red-wash);
  color: var(--ink);
  border-left: 12px solid var(--red);
  padding-left: 12px;
}
.notice span {
  flex: 1;
  padding: 6px 0;
}
.close {
  text-align: center;
  width: 44px;
  height: 44px;
  text-align: center;
}
</style>
