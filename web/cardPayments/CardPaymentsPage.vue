<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { watchDebounced } from '@vueuse/core';
import { computed, reactive, ref, shallowRef } from 'vue';
import DateField from '../look/DateField.vue';
import type { CardPage, CardRow, SettlementRow, TerminalRow } from '../../contract/cardPayments.ts';
import { TENDER_STATES } from '../../core/payment/tender.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { problemWords } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCardPaymentsStore } from './cardPaymentsStore.ts';

const PER_PAGE = 100;

const cards = useCardPaymentsStore();
const till = useTillStore();
const notices = useNoticeStore();
const [page, showPage] = shown<CardPage | null>(null);
const terminals = shallowRef<TerminalRow[] | null>(null);
const settled = shallowRef<SettlementRow[]>([]);
const filter = reactive({ from: '', to: '', find: '', state: '', kind: '' });
const number = ref(0);
const busy = ref(false);

const query = computed(() => new URLSearchParams({ ...filter, page: String(number.value) }).toString());
const pages = computed(() => Math.ceil((page.value?.count ?? 0) / PER_PAGE));
const tell = (work: Promise<unknown>) => work.catch((error: unknown) => notices.failed(problemWords(error)));

const load = useLook(() => showPage(cards.page(query.value)));
const loadRest = useLook(async () => {
  terminals.value = await cards.terminals();
  settled.value = await cards.settlements();
});

watchDebounced(query, () => void load(), { debounce: 150, immediate: true });
void loadRest();

/** The terminal that is to be settled, once somebody says so again: it cannot be undone. */
const asking = ref<number | null>(null);

async function settle(terminal: TerminalRow): Promise<void> {
  if (asking.value !== terminal.id) {
    asking.value = terminal.id;
    return;
  }
  asking.value = null;
  busy.value = true;
  await tell(
    cards.settle(terminal.id).then(async ({ count, gross, fees }) => {
      notices.say(
        count === 0
          ? `${terminal.name} has nothing to settle.`
          : `${terminal.name} settled: ${counted(count, 'payment')}, ${till.money(gross)} less ${till.money(fees)} fees.`,
      );
      await Promise.all([load(), loadRest()]);
    }),
  );
  busy.value = false;
}

const wordsOf = ({ entry, approval, words }: CardRow) =>
  [entry, approval && `approval ${approval}`, words].filter(Boolean).join(' · ');
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="cards-title">
      <JournalTabs />
      <header class="head">
        <h1 id="cards-title" class="title">Card payments</h1>
        <span v-if="page" class="soft"
          >{{ page.count }} · <b class="num">{{ till.money(page.total) }}</b> approved</span
        >
      </header>
      <div class="find">
        <DateField v-model="filter.from" label="From" />
        <DateField v-model="filter.to" label="To" />
        <v-text-field v-model="filter.find" label="Last four, approval, reference" />
        <v-select
          v-model="filter.state"
          label="State"
          :items="[
            { value: '', title: 'All' },
            ...TENDER_STATES.map((state) => ({ value: state, title: state })),
          ]"
        />
        <v-select
          v-model="filter.kind"
          label="Card"
          :items="[
            { value: '', title: 'All' },
            { value: 'credit', title: 'Credit' },
            { value: 'debit', title: 'Debit' },
          ]"
        />
      </div>
      <ol v-if="page && page.rows.length > 0" class="scroll rows">
        <li v-for="row in page.rows" :key="row.id">
          <span
            ><b>{{ row.brand || row.terminal }}</b>
            <b v-if="row.lastFour" class="num">·· {{ row.lastFour }}</b>
            <small>{{ till.time(row.at, 'full') }} · till {{ row.till }} · {{ row.terminal }}</small>
            <small v-if="wordsOf(row)">{{ wordsOf(row) }}</small></span
          >
          <span class="right"
            ><b class="num" :class="{ none: row.state !== 'approved' }">{{ till.money(row.amount) }}</b>
            <small v-if="row.tip + row.roundUp > 0" class="num"
              >+ {{ till.money(row.tip + row.roundUp) }}</small
            >
            <small
              >{{ row.settled ? `settled ${row.settled}` : row.state
              }}<router-link v-if="row.saleId" class="sale num" :to="`/journal/${row.saleId}`">{{
                row.sale
              }}</router-link></small
            ></span
          >
        </li>
      </ol>
      <div v-else-if="page" class="empty">
        <b>No card payments here</b>
        <p>Every payment that a terminal was asked for is listed, whatever came of it.</p>
      </div>
      <p v-else class="empty" role="status">Looking …</p>
      <footer class="pages">
        <template v-if="pages > 1">
          <v-btn :disabled="number === 0" @click="number--">Newer</v-btn>
          <span>{{ number + 1 }} of {{ pages }}</span>
          <v-btn :disabled="number + 1 >= pages" @click="number++">Older</v-btn>
        </template>
        <v-btn :href="`/api/card-payments/payments.csv?${query}`">CSV</v-btn>
      </footer>
    </section>
    <section class="zone" aria-labelledby="settle-title">
      <header class="head"><h2 id="settle-title" class="title">Settlements</h2></header>
      <div class="scroll side">
        <div v-for="terminal in terminals" :key="terminal.id" class="terminal">
          <b>{{ terminal.name }}</b>
          <span class="num">{{ till.money(terminal.unsettled) }}</span>
          <v-btn data-money :disabled="busy || terminal.unsettled === 0" @click="settle(terminal)">{{
            asking === terminal.id ? 'Yes, settle now' : 'Settle'
          }}</v-btn>
        </div>
        <p v-if="terminals?.length === 0" class="soft">No terminal is paired. Pair one in Setup.</p>
        <ol class="settled">
          <li v-for="one in settled" :key="one.id">
            <span
              ><b class="num">{{ one.batch }}</b
              ><small
                >{{ till.time(one.at, 'full') }} · {{ one.terminal }} ·
                {{ counted(one.count, 'payment') }}</small
              ><small v-if="one.unknown > 0" class="bad">{{ one.unknown }} of them no till knows</small></span
            >
            <span class="num right"
              >{{ till.money(one.gross) }}<small>fees {{ till.money(one.fees) }}</small></span
            >
          </li>
        </ol>
      </div>
    </section>
  </div>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 10px;
  padding: 12px 18px;
}
.find > :nth-child(-n + 2),
.find > :nth-child(n + 4) {
  grid-column: span 3;
}
.find > :nth-child(3) {
  grid-column: span 6;
}
.rows,
.settled {
  flex: 1;
}
.rows li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  align-items: center;
  padding: 8px 18px;
  border-bottom: var(--hair);
  background: var(--surface);
}
.sale {
  color: var(--ink);
  margin-left: 8px;
}
small {
  display: block;
  color: var(--soft);
}
.none {
  text-decoration: line-through;
  color: var(--soft);
}
.side {
  padding: 18px;
  display: grid;
  gap: 12px;
  align-content: start;
}
.terminal {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 14px;
  align-items: center;
  border: var(--group);
  background: var(--surface);
  padding: 10px 14px;
}
.settled li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 10px 0;
  border-bottom: var(--hair);
}
</style>
