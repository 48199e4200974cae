<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import type { BalanceRow } from '../../contract/books.ts';
import type { AccountClass } from '../../core/books/accounts.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { formatRate } from '../../core/rate.ts';
import { useLook } from '../notices/look.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { useBooksStore } from './booksStore.ts';
import WordButton from '../look/WordButton.vue';

const VIEWS = [
  { value: 'balance', words: 'Trial balance' },
  { value: 'events', words: 'Entries' },
  { value: 'day', words: 'Day' },
] as const;
type View = (typeof VIEWS)[number]['value'];
const CLASSES: Record<AccountClass, string> = {
  assets: 'What the shop has',
  liabilities: 'What it owes',
  equity: 'From before these books',
  income: 'What it earns',
  expenses: 'What it spends',
};
const PER_PAGE = 50;

const books = useBooksStore();
const till = useTillStore();
const today = till.today();
const view = ref<View>('balance');
const viewWords = computed(() => VIEWS.find(({ value }) => value === view.value)?.words);
const from = ref('');
const to = ref('');
const day = ref(today);
const account = ref<Pick<BalanceRow, 'account' | 'subject' | 'words'> | null>(null);
const page = ref(0);

const days = computed(() =>
  new URLSearchParams({
    ...(from.value && { from: from.value }),
    ...(to.value && { to: to.value }),
  }).toString(),
);
const query = computed(() => {
  const parts = new URLSearchParams(days.value);
  if (account.value) {
    parts.set('account', account.value.account);
    parts.set('subject', account.value.subject);
  }
  parts.set('page', String(page.value));
  return parts.toString();
});
const classes = computed(() =>
  (Object.keys(CLASSES) as AccountClass[])
    .map((one) => ({
      name: CLASSES[one],
      rows: (books.balance?.rows ?? []).filter((row) => row.class === one),
    }))
    .filter(({ rows }) => rows.length > 0),
);
const pages = computed(() => Math.ceil((books.page?.count ?? 0) / PER_PAGE));

const look = useLook(async () => {
  if (view.value === 'balance') await books.loadBalance(days.value);
  else if (view.value === 'events') await books.loadEvents(query.value);
  else if (day.value) await books.loadDay(day.value);
});
watchDebounced([view, query, day], () => void look(), { debounce: 120, immediate: true });

/** The entries of one account. */
function open(row: BalanceRow): void {
  account.value = row;
  page.value = 0;
  view.value = 'events';
}

function everything(): void {
  account.value = null;
  page.value = 0;
}
</script>

<template>
  <div class="tabbed">
    <JournalTabs />
    <header class="head">
      <h1 class="title">Books</h1>
      <div class="acts">
        <v-btn :href="`/api/books/books.csv?${days}`">CSV</v-btn>
        <v-btn :href="`/api/books/books.journal?${days}`">Accounting journal</v-btn>
      </div>
    </header>
    <div class="bar">
      <ChipChoice v-model="view" label="What is shown of the books" :options="VIEWS" />
      <DateField v-if="view === 'day'" v-model="day" label="Day" />
      <template v-else>
        <DateField v-model="from" label="From" @update:model-value="page = 0" />
        <DateField v-model="to" label="Until" @update:model-value="page = 0" />
      </template>
    </div>
    <div class="scroll body" tabindex="0" role="region" :aria-label="viewWords">
      <table v-if="view === 'balance' && books.balance">
        <thead>
          <tr>
            <th scope="col">Account</th>
            <th scope="col" class="right">Debit</th>
            <th scope="col" class="right">Credit</th>
            <th scope="col" class="right">Balance</th>
          </tr>
        </thead>
        <tbody v-for="{ name, rows } in classes" :key="name">
          <tr>
            <th colspan="4" scope="colgroup" class="label">{{ name }}</th>
          </tr>
          <tr v-for="row in rows" :key="row.account + row.subject">
            <td>
              <WordButton @click="open(row)">{{ row.words }}</WordButton>
            </td>
            <td class="num right">{{ row.debit === 0 ? '' : till.money(row.debit) }}</td>
            <td class="num right">{{ row.credit === 0 ? '' : till.money(row.credit) }}</td>
            <td class="num right strong">{{ till.money(row.balance) }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Together</th>
            <td class="num right" data-test="debit">{{ till.money(books.balance.debit) }}</td>
            <td class="num right" data-test="credit">{{ till.money(books.balance.credit) }}</td>
            <td></td>
          </tr>
        </tfoot>
      </table>
      <template v-else-if="view === 'events' && books.page">
        <p v-if="account" class="only">
          Only <b>{{ account.words }}</b>
          <WordButton @click="everything">Show all</WordButton>
        </p>
        <p v-if="books.page.events.length === 0" class="empty"><b>Nothing was booked then</b></p>
        <article v-for="event in books.page.events" :key="event.id">
          <h2>
            <span class="num soft">{{ event.id }}</span> {{ event.words }}
            <span class="soft">{{ till.time(event.at, 'full') }} · {{ event.by }}</span>
            <router-link v-if="event.saleId" class="word" :to="`/journal/${event.saleId}`">Sale</router-link>
          </h2>
          <div v-for="(entry, at) in event.entries" :key="at" class="entry">
            <span :class="{ credit: entry.amount < 0 }">{{ entry.account }} {{ entry.subject }}</span>
            <span class="num right">{{ entry.amount > 0 ? till.money(entry.amount) : '' }}</span>
            <span class="num right">{{ entry.amount < 0 ? till.money(-entry.amount) : '' }}</span>
          </div>
        </article>
        <footer v-if="pages > 1" class="pages">
          <v-btn :disabled="page === 0" @click="page--">Newer</v-btn>
          <span>{{ page + 1 }} of {{ pages }}</span>
          <v-btn :disabled="page + 1 >= pages" @click="page++">Older</v-btn>
        </footer>
      </template>
      <div v-else-if="view === 'day' && books.day" class="day">
        <dl>
          <dt>Sales</dt>
          <dd class="num">{{ books.day.sales }}</dd>
          <dt>With goods that came back</dt>
          <dd class="num">{{ books.day.returns }}</dd>
          <dt>Voided</dt>
          <dd class="num">{{ books.day.voids }}</dd>
          <dt>Units sold</dt>
          <dd class="num">{{ formatQuantity(books.day.units) }}</dd>
          <dt>At regular prices</dt>
          <dd class="num">{{ till.money(books.day.gross) }}</dd>
          <dt>Reductions</dt>
          <dd class="num">{{ till.money(books.day.reductions) }}</dd>
          <dt>Goods that came back</dt>
          <dd class="num">{{ till.money(-books.day.refunded) }}</dd>
          <template v-if="books.day.deposits !== 0">
            <dt>Deposits, less what was used of them</dt>
            <dd class="num">{{ till.money(books.day.deposits) }}</dd>
          </template>
          <template v-if="books.day.onAccounts !== 0">
            <dt>Paid onto house accounts</dt>
            <dd class="num">{{ till.money(books.day.onAccounts) }}</dd>
          </template>
          <dt>Tax</dt>
          <dd class="num">{{ till.money(books.day.tax) }}</dd>
          <dt><b>Taken</b></dt>
          <dd class="num strong" data-test="day-total">{{ till.money(books.day.total) }}</dd>
        </dl>
        <dl>
          <template v-for="one in books.day.tenders" :key="one.name">
            <dt>{{ one.count }} × {{ one.name }}</dt>
            <dd class="num">{{ till.money(one.amount) }}</dd>
          </template>
          <template v-for="one in books.day.taxes" :key="one.name + one.rate">
            <dt>{{ one.name }} {{ formatRate(one.rate) }} on {{ till.money(one.base) }}</dt>
            <dd class="num">{{ till.money(one.tax) }}</dd>
          </template>
          <template v-for="one in books.day.tills" :key="one.till">
            <dt>Till {{ one.till }}, {{ counted(one.sales, 'sale') }}</dt>
            <dd class="num">{{ till.money(one.total) }}</dd>
          </template>
        </dl>
      </div>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: grid;
  grid-template-columns: auto 180px 180px;
  gap: 12px;
  align-items: center;
  padding: 10px 18px;
  border-bottom: var(--group);
  justify-content: start;
}
.body {
  flex: 1;
  padding: 0 18px 18px;
}
tbody .label {
  padding-top: 16px;
  border-bottom: var(--group);
}
tbody td {
  padding-block: 0;
}
tfoot th,
tfoot td {
  border-top: var(--rule);
  font-weight: 700;
}
.strong {
  font-weight: 700;
}
td .word {
  text-align: left;
}
article {
  padding: 10px 0;
  border-bottom: var(--hair);
}
article h2 {
  font-size: 16px;
  font-weight: 650;
}
article h2 .soft {
  font-weight: 400;
  font-size: 14px;
}
.entry {
  display: grid;
  grid-template-columns: 1fr 140px 140px;
  max-width: 760px;
}
.credit {
  padding-left: 32px;
}
.only {
  padding: 10px 0;
}
.day {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
  padding-top: 18px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  align-content: start;
}
dt,
dd {
  padding: 6px 0;
  border-bottom: var(--hair);
}
</style>
