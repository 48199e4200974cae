<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { BalanceRow } from '../../contract/books.ts';
import type { AccountClass } from '../../core/books/accounts.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { formatRate } from '../../core/rate.ts';
import { useLook } from '../notices/look.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { useTillStore } from '../shop/tillStore.ts';
import BooksBar from './BooksBar.vue';
import BooksEntries from './BooksEntries.vue';
import { BOOK_VIEWS, useBooksStore, type BookView } from './booksStore.ts';
import WordButton from '../look/WordButton.vue';

const CLASSES: Record<AccountClass, string> = {
  assets: 'What the shop has',
  liabilities: 'What it owes',
  equity: 'From before these books',
  income: 'What it earns',
  expenses: 'What it spends',
};

const books = useBooksStore();
const till = useTillStore();
const today = till.today();
const view = ref<BookView>('balance');
const viewWords = computed(() => BOOK_VIEWS.find(({ value }) => value === view.value)?.words);
const from = ref('');
const to = ref('');
const day = ref(today);
const account = ref<Pick<BalanceRow, 'account' | 'subject' | 'words'> | null>(null);

const days = computed(() =>
  new URLSearchParams({
    ...(from.value && { from: from.value }),
    ...(to.value && { to: to.value }),
  }).toString(),
);
const classes = computed(() =>
  (Object.keys(CLASSES) as AccountClass[])
    .map((one) => ({
      name: CLASSES[one],
      rows: (books.balance?.rows ?? []).filter((row) => row.class === one),
    }))
    .filter(({ rows }) => rows.length > 0),
);

const look = useLook(async () => {
  if (view.value === 'balance') await books.loadBalance(days.value);
  else if (view.value === 'day' && day.value) await books.loadDay(day.value);
});
watchDebounced([view, days, day], () => void look(), { debounce: 120, immediate: true });

/** The entries of one account. */
function open(row: BalanceRow): void {
  account.value = row;
  view.value = 'events';
}
</script>

<template>
  <div class="tabbed">
    <JournalTabs />
    <BooksEntries v-if="view === 'events'" v-model:account="account" :days>
      <BooksBar v-model:view="view" v-model:from="from" v-model:to="to" v-model:day="day" :days />
    </BooksEntries>
    <template v-else>
      <header class="head"><h1 class="title">Books</h1></header>
      <BooksBar
        v-model:view="view"
        v-model:from="from"
        v-model:to="to"
        v-model:day="day"
        class="above"
        :days
      />
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
    </template>
  </div>
</template>

<style scoped>
.above {
  padding: 12px 18px;
  border-bottom: var(--group);
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
