<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { LEDGER_PAGE, type BalanceRow, type LedgerEventView } from '../../contract/books.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { useAskedList } from '../look/askedList.ts';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import ListPage from '../look/ListPage.vue';
import WordButton from '../look/WordButton.vue';
import { useTillStore } from '../shop/tillStore.ts';
import BookedDay from './BookedDay.vue';
import { useBooksStore } from './booksStore.ts';
import TrialBalance from './TrialBalance.vue';

/** The books: where every account stands, what was booked, or what a day came to. */
const VIEWS = [
  { value: 'balance', words: 'Trial balance' },
  { value: 'events', words: 'Entries' },
  { value: 'day', words: 'Day' },
] as const;
type View = (typeof VIEWS)[number]['value'];
const COLUMNS = [
  { key: 'id', words: 'Entry', width: '100px' },
  { key: 'words', words: 'What was booked' },
  { key: 'entries', words: 'Accounts, debit and credit', width: '58%' },
];

const books = useBooksStore();
const till = useTillStore();
const router = useRouter();
const view = ref<View>('balance');
const viewWords = computed(() => VIEWS.find(({ value }) => value === view.value)?.words);
const from = ref('');
const to = ref('');
const day = ref(till.today());
const account = ref<Pick<BalanceRow, 'account' | 'subject' | 'words'> | null>(null);
const page = ref(0);

const days = computed(() =>
  new URLSearchParams({
    ...(from.value && { from: from.value }),
    ...(to.value && { to: to.value }),
  }).toString(),
);
const entries = computed(() => {
  const parts = new URLSearchParams(days.value);
  if (account.value) {
    parts.set('account', account.value.account);
    parts.set('subject', account.value.subject);
  }
  return parts.toString();
});
const ASKED: Record<View, { of: () => string; load: () => Promise<void> }> = {
  balance: { of: () => days.value, load: () => books.loadBalance(days.value) },
  events: {
    of: () => entries.value,
    load: () => books.loadEvents(`${entries.value}&page=${page.value}`),
  },
  day: {
    of: () => day.value,
    load: async () => {
      if (day.value) await books.loadDay(day.value);
    },
  },
};
const { busy } = useAskedList(
  () => `${view.value} ${ASKED[view.value].of()}`,
  page,
  () => ASKED[view.value].load(),
);

/** The entries of one account. */
function look(row: BalanceRow): void {
  account.value = row;
  view.value = 'events';
}
function open({ saleId }: LedgerEventView): void {
  if (saleId) void router.push(`/journal/${saleId}`);
}
</script>

<template>
  <div class="tabbed">
    <JournalTabs />
    <ListPage
      v-model:page="page"
      title="Books"
      :of="['entry', 'entries']"
      :columns="COLUMNS"
      :rows="view === 'events' ? (books.page?.events ?? []) : []"
      :count="view === 'events' ? (books.page?.count ?? null) : null"
      :per-page="LEDGER_PAGE"
      :busy
      :name-of="({ words }) => words"
      @open="open"
    >
      <template #acts>
        <v-btn :href="`/api/books/books.csv?${days}`">CSV</v-btn>
        <v-btn :href="`/api/books/books.journal?${days}`">Accounting journal</v-btn>
      </template>
      <template #filters>
        <div class="bar">
          <ChipChoice v-model="view" label="What is shown of the books" :options="VIEWS" />
          <DateField v-if="view === 'day'" v-model="day" label="Day" />
          <template v-else>
            <DateField v-model="from" label="From" />
            <DateField v-model="to" label="Until" />
          </template>
        </div>
        <p v-if="view === 'events' && account">
          Only <b>{{ account.words }}</b>
          <WordButton @click="account = null">Show all</WordButton>
        </p>
      </template>
      <template v-if="view !== 'events'" #instead>
        <div class="scroll body" tabindex="0" role="region" :aria-label="viewWords">
          <TrialBalance v-if="view === 'balance' && books.balance" :balance="books.balance" @open="look" />
          <BookedDay v-else-if="view === 'day' && books.day" :day="books.day" />
        </div>
      </template>
      <template #id="{ row }"
        ><span class="num">{{ row.id }}</span></template
      >
      <template #words="{ row }">
        {{ row.words }}
        <span class="soft under">{{ till.time(row.at, 'full') }}{{ row.by && ` · ${row.by}` }}</span>
        <span v-if="row.saleId" class="word in-text under">Sale</span>
      </template>
      <template #entries="{ row }">
        <span v-for="(entry, at) in row.entries" :key="at" class="entry">
          <span :class="{ credit: entry.amount < 0 }">{{ entry.words }}</span>
          <span class="num right">{{ entry.amount > 0 ? till.money(entry.amount) : '' }}</span>
          <span class="num right">{{ entry.amount < 0 ? till.money(-entry.amount) : '' }}</span>
        </span>
      </template>
      <template #empty><b>Nothing was booked then</b></template>
    </ListPage>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.bar > .v-input {
  flex: 0 1 180px;
}
.body {
  flex: 1;
  padding: 0 18px 18px;
}
.entry {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 110px;
}
.credit {
  padding-left: 24px;
}
</style>
