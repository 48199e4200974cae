<script setup lang="ts">
import { watchDebounced, watchImmediate } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { formatQuantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { problemWords } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { useTillStore } from '../setup/tillStore.ts';
import JournalTabs from './JournalTabs.vue';
import PaperView from './PaperView.vue';
import SendReceipt from './SendReceipt.vue';
import { useJournalStore } from './journalStore.ts';

const PER_PAGE = 100;

const journal = useJournalStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const busy = ref(false);

const id = computed(() =>
  typeof route.params.id === 'string' && route.params.id ? route.params.id : undefined,
);
const pages = computed(() => Math.ceil((journal.page?.count ?? 0) / PER_PAGE));

async function tell(work: Promise<unknown>): Promise<void> {
  await work.catch((error: unknown) => notices.failed(problemWords(error)));
}

watchImmediate(id, (wanted) => void tell(journal.open(wanted)));
watchDebounced(
  () => [journal.find, journal.date, journal.number],
  () => void tell(journal.load()),
  { debounce: 120, immediate: true },
);
const stop = hear((event) => {
  if (event.kind === 'sale-finished' || event.kind === 'connected') void tell(journal.load());
  if (event.kind === 'printed' && event.saleId === id.value) void tell(journal.open(id.value));
});
onUnmounted(stop);

async function reprint(): Promise<void> {
  if (!journal.sale || busy.value) return;
  busy.value = true;
  await tell(
    journal
      .reprint(journal.sale.id)
      .then(() => notices.say(`A copy of ${journal.sale?.number} goes to the printer.`)),
  );
  busy.value = false;
}
</script>

<template>
  <div class="two journal">
    <section class="zone" aria-labelledby="journal-title">
      <JournalTabs />
      <header class="head">
        <h1 id="journal-title" class="title">Journal</h1>
        <span v-if="journal.page" class="soft"
          >{{ journal.page.count }} {{ journal.page.count === 1 ? 'sale' : 'sales' }} ·
          <b class="num">{{ till.money(journal.page.total) }}</b></span
        >
      </header>
      <div class="find">
        <v-text-field
          v-model="journal.find"
          label="Receipt number"
          placeholder="1-0001"
          clearable
          @update:model-value="journal.number = 0"
        />
        <v-text-field
          v-model="journal.date"
          type="date"
          label="Day"
          @update:model-value="journal.number = 0"
        />
      </div>
      <ol v-if="journal.page && journal.page.rows.length > 0" class="scroll rows">
        <li v-for="row in journal.page.rows" :key="row.id">
          <button
            type="button"
            class="row"
            :class="{ on: row.id === id }"
            :aria-current="row.id === id || undefined"
            @click="router.push(`/journal/${row.id}`)"
          >
            <span class="num when">{{ till.time(row.finishedAt) }}</span>
            <span class="what"
              ><b class="num">{{ row.number }}</b
              ><span class="soft"
                >{{ row.firstLine }}{{ row.lines > 1 ? ` and ${row.lines - 1} more` : '' }}</span
              ></span
            >
            <span class="num amount">{{ till.money(row.total) }}</span>
          </button>
        </li>
      </ol>
      <div v-else class="empty">
        <b>{{ journal.find ? 'No receipt has this number' : 'No sales on this day' }}</b>
        <p>
          {{
            journal.find
              ? 'Numbers look like 1-0001: the till, then the count.'
              : 'Finished sales appear here at once.'
          }}
        </p>
      </div>
      <footer v-if="pages > 1" class="pages">
        <v-btn :disabled="journal.number === 0" @click="journal.number--">Newer</v-btn>
        <span>{{ journal.number + 1 }} of {{ pages }}</span>
        <v-btn :disabled="journal.number + 1 >= pages" @click="journal.number++">Older</v-btn>
      </footer>
    </section>
    <section class="zone" aria-label="Sale">
      <template v-if="journal.sale">
        <header class="head">
          <h2 class="title">
            Sale <span class="num">{{ journal.sale.number }}</span>
          </h2>
          <span class="num title">{{ till.money(journal.sale.total) }}</span>
        </header>
        <div class="sale scroll">
          <dl>
            <dt>Finished</dt>
            <dd>{{ till.time(journal.sale.finishedAt, 'full') }}</dd>
            <dt>Cashier</dt>
            <dd>{{ journal.sale.cashier }}, till {{ journal.sale.till }}</dd>
            <dt>Goods</dt>
            <dd>
              {{ formatQuantity(journal.sale.units) }} in {{ journal.sale.lines }}
              {{ journal.sale.lines === 1 ? 'line' : 'lines' }}
            </dd>
            <dt>Paid with</dt>
            <dd>
              <span v-for="(tender, at) in journal.sale.tenders" :key="at" class="tender"
                >{{ tender.name }} <span class="num">{{ till.money(tender.amount) }}</span></span
              >
            </dd>
            <dt>Receipt</dt>
            <dd>
              {{
                journal.sale.printedAt
                  ? `printed ${till.time(journal.sale.printedAt)}`
                  : journal.sale.sent.length > 0
                    ? ''
                    : 'not printed'
              }}
              <span v-for="(one, at) in journal.sale.sent" :key="at"
                >{{ one.state === 'sent' ? 'sent' : 'goes' }} to {{ one.recipient
                }}{{ one.trouble ? `: ${one.trouble}` : '' }}
              </span>
            </dd>
          </dl>
          <div class="acts">
            <v-btn :disabled="busy" @click="reprint">Print a copy</v-btn>
            <v-btn :href="`/api/journal/sales/${journal.sale.id}/receipt.pdf`" target="_blank">PDF</v-btn>
            <v-btn :href="`/api/journal/sales/${journal.sale.id}/receipt.txt`" target="_blank">Text</v-btn>
          </div>
          <SendReceipt :sale="journal.sale" :print="false" @sent="tell(journal.open(id))" />
          <PaperView :paper="journal.sale.paper" />
        </div>
      </template>
      <div v-else class="empty">
        <b>Choose a sale</b>
        <p>
          Its receipt is shown here and can be printed again. A receipt can also be scanned into the entry
          field.
        </p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.journal {
  grid-template-columns: minmax(380px, 520px) 1fr;
}
.find {
  display: grid;
  grid-template-columns: 1fr 170px;
  gap: 12px;
  padding: 12px 18px;
  border-bottom: var(--group);
}
.rows {
  list-style: none;
  flex: 1;
}
.row {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 12px;
  align-items: baseline;
  width: 100%;
  padding: 10px 18px;
  border-bottom: var(--hair);
}
.row.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.what {
  min-width: 0;
}
.what span {
  display: block;
  font-size: 14px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.amount {
  font-size: 18px;
  font-weight: 600;
}
.when {
  color: var(--soft);
  font-size: 14px;
}
.pages {
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 8px 18px;
  border-top: var(--group);
}
.sale {
  padding: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
}
dl {
  display: grid;
  grid-template-columns: 100px 1fr;
  row-gap: 6px;
}
dt {
  color: var(--soft);
}
</style>
