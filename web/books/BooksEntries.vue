<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { LEDGER_PAGE, type BalanceRow, type LedgerEventView } from '../../contract/books.ts';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import WordButton from '../look/WordButton.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { useBooksStore } from './booksStore.ts';

/** What was booked, the newest first: all of it, or what one account says. */
const { days } = defineProps<{ days: string }>();
const account = defineModel<Pick<BalanceRow, 'account' | 'subject' | 'words'> | null>('account', {
  required: true,
});

const books = useBooksStore();
const till = useTillStore();
const router = useRouter();
const page = ref(0);
const asked = (): string => {
  const parts = new URLSearchParams(days);
  if (account.value) {
    parts.set('account', account.value.account);
    parts.set('subject', account.value.subject);
  }
  return parts.toString();
};
const { busy } = useAskedList(asked, page, () => books.loadEvents(`${asked()}&page=${page.value}`));

const COLUMNS = [
  { key: 'id', words: 'Entry', width: '100px' },
  { key: 'words', words: 'What was booked' },
  { key: 'entries', words: 'Accounts, debit and credit', width: '58%' },
];
function open({ saleId }: LedgerEventView): void {
  if (saleId) void router.push(`/journal/${saleId}`);
}
</script>

<template>
  <ListPage
    v-model:page="page"
    title="Books"
    :of="['entry', 'entries']"
    :columns="COLUMNS"
    :rows="books.page?.events ?? []"
    :count="books.page?.count ?? null"
    :per-page="LEDGER_PAGE"
    :busy
    :name-of="({ words }) => words"
    @open="open"
  >
    <template #filters>
      <slot />
      <p v-if="account">
        Only <b>{{ account.words }}</b>
        <WordButton @click="account = null">Show all</WordButton>
      </p>
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
</template>

<style scoped>
.entry {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px 110px;
}
.credit {
  padding-left: 24px;
}
</style>
