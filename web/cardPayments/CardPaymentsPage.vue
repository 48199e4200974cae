<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { CardPage, CardRow } from '../../contract/cardPayments.ts';
import { TENDER_STATE_WORDS, TENDER_STATES } from '../../core/payment/tender.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { useAskedList } from '../look/askedList.ts';
import DateField from '../look/DateField.vue';
import ListPage from '../look/ListPage.vue';
import { shown } from '../net/shown.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCardPaymentsStore } from './cardPaymentsStore.ts';
import SettlementsPane from './SettlementsPane.vue';

/** What the card terminals were asked for, and what the bank has taken over. */
const PER_PAGE = 100;

const cards = useCardPaymentsStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const [page, showPage] = shown<CardPage | null>(null);
const ALL = { from: '', to: '', find: '', state: '', kind: '' };
const filter = reactive({ ...ALL });
const number = ref(0);

const query = computed(() => new URLSearchParams(filter).toString());
const { busy, load } = useAskedList(
  () => query.value,
  number,
  async () => void (await showPage(cards.page(`${query.value}&page=${number.value}`))),
);

const COLUMNS = [
  { key: 'card', words: 'Card' },
  { key: 'at', words: 'When and where', width: '200px' },
  { key: 'state', words: 'What came of it', width: '170px' },
  { key: 'amount', words: 'Amount', right: true, width: '120px' },
];
const STATES = [
  { value: '', title: 'All' },
  ...TENDER_STATES.map((state) => ({ value: state, title: TENDER_STATE_WORDS[state] })),
];
const KINDS = [
  { value: '', title: 'All' },
  { value: 'credit', title: 'Credit' },
  { value: 'debit', title: 'Debit' },
];

const nameOf = ({ brand, terminal, lastFour }: CardRow) =>
  `${brand || terminal}${lastFour ? ` ·· ${lastFour}` : ''}`;
const wordsOf = ({ entry, approval, words }: CardRow) =>
  [entry, approval && `approval ${approval}`, words].filter(Boolean).join(' · ');

function open({ saleId }: CardRow): void {
  if (saleId) void router.push(`/journal/${saleId}`);
  else notices.say('No sale came of this payment.');
}
</script>

<template>
  <div class="tabbed">
    <JournalTabs />
    <div class="beside-form beside">
      <ListPage
        v-model:page="number"
        :narrowed="Object.values(filter).some(Boolean)"
        title="Card payments"
        :of="['payment', 'payments']"
        :columns="COLUMNS"
        :rows="page?.rows ?? []"
        :count="page?.count ?? null"
        :per-page="PER_PAGE"
        :busy
        :name-of="nameOf"
        @open="open"
        @widen="Object.assign(filter, ALL)"
      >
        <template #acts>
          <span v-if="page" class="soft"
            ><b class="num">{{ till.money(page.total) }}</b> approved</span
          >
          <v-btn :href="`/api/card-payments/payments.csv?${query}`">CSV</v-btn>
        </template>
        <template #filters>
          <div class="find">
            <v-text-field
              v-model="filter.find"
              label="Last four, approval, reference"
              data-search
              autocomplete="off"
              clearable
              @click:clear="filter.find = ''"
            />
            <DateField v-model="filter.from" label="From" />
            <DateField v-model="filter.to" label="To" />
            <v-select v-model="filter.state" label="State" :items="STATES" />
            <v-select v-model="filter.kind" label="Card" :items="KINDS" />
          </div>
        </template>
        <template #card="{ row }">
          <b class="num">{{ nameOf(row) }}</b>
          <span v-if="wordsOf(row)" class="soft under">{{ wordsOf(row) }}</span>
        </template>
        <template #at="{ row }">
          {{ till.time(row.at, 'full') }}
          <span class="soft under">till {{ row.till }} · {{ row.terminal }}</span>
        </template>
        <template #state="{ row }">
          {{ row.settled ? `Settled ${row.settled}` : TENDER_STATE_WORDS[row.state] }}
          <span v-if="row.sale" class="soft num under">{{ row.sale }}</span>
        </template>
        <template #amount="{ row }">
          <b class="num" :class="{ none: row.state !== 'approved' }">{{ till.money(row.amount) }}</b>
          <span v-if="row.tip + row.roundUp > 0" class="soft num under"
            >+ {{ till.money(row.tip + row.roundUp) }}</span
          >
        </template>
        <template #empty>
          <b>No card payments yet</b>
          <p>Every payment that a terminal was asked for is listed, whatever came of it.</p>
        </template>
      </ListPage>
      <SettlementsPane class="scroll" @settled="load" />
    </div>
  </div>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.find > :first-child {
  grid-column: 1 / -1;
}
.none {
  text-decoration: line-through;
  color: var(--soft);
}
</style>
