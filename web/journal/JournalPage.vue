<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, onUnmounted } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { lookAgain } from '../net/lookAgain.ts';
import JournalList from './JournalList.vue';
import SaleView from './SaleView.vue';
import { useJournalStore } from './journalStore.ts';

const journal = useJournalStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();

journal.choose(route.query);

const id = computed(() =>
  typeof route.params.id === 'string' && route.params.id ? route.params.id : undefined,
);

async function tell(work: Promise<unknown>): Promise<void> {
  await work.catch((error: unknown) => notices.failed(problemWords(error)));
}

// What is not there sends back to the list.
const open = useLook(journal.open, (error) => {
  notices.failed(problemWords(error));
  return router.replace('/journal');
});
watchImmediate(id, (wanted) => void open(wanted));
onUnmounted(lookAgain(['sale-finished', 'sale-voided'], () => tell(journal.loadAgain())));
onUnmounted(
  lookAgain(
    (event) => (event.kind === 'printed' || event.kind === 'sale-voided') && event.saleId === id.value,
    () => tell(journal.open(id.value)),
  ),
);
</script>

<template>
  <div class="two journal">
    <JournalList :open="id" />
    <!-- The one before stays in sight until this one is there, but nothing is done with it. -->
    <section class="zone" aria-label="Sale" :inert="journal.sale !== null && journal.sale.id !== id">
      <SaleView v-if="journal.sale" :key="journal.sale.id" :sale="journal.sale" />
      <div v-else class="empty">
        <b>Choose a sale</b>
        <p>
          Its lines, payments and receipt are shown here. A receipt can also be scanned into the entry field.
        </p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.journal {
  grid-template-columns: minmax(380px, 480px) 1fr;
}
</style>
