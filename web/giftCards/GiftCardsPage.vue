<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, ref, toRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { StoredValueView } from '../../contract/giftCards.ts';
import { STORED_VALUE_NAMES, STORED_VALUE_STATES } from '../../core/giftCards/storedValue.ts';
import { capital } from '../../core/words.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import WordButton from '../look/WordButton.vue';
import { problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import CertificateForm from './CertificateForm.vue';
import CertificateImport from './CertificateImport.vue';
import GiftCardDetail from './GiftCardDetail.vue';
import { useGiftCardsStore } from './giftCardsStore.ts';
import { stateWords } from './stateWords.ts';

/** All that customers hold of the shop's money: gift cards, certificates, store credit. */
const PER_PAGE = 100;

const values = useGiftCardsStore();
const session = useSessionStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const adding = ref<'certificate' | 'list' | null>(null);

const id = computed(() => (route.params.id ? Number(route.params.id) : undefined));
const manages = computed(() => session.may('gift-card.manage'));
const { busy } = useAskedList(() => JSON.stringify(values.filter), toRef(values, 'number'), values.load);
// What is not there sends back to the list.
const lookAt = useLook(values.look, (error) => {
  notices.failed(problemWords(error));
  return router.replace('/gift-cards');
});
watchImmediate(id, (wanted) => void lookAt(wanted));

const COLUMNS = [
  { key: 'number', words: 'Number', width: '140px' },
  { key: 'what', words: 'What it is' },
  { key: 'state', words: 'State', width: '170px' },
  { key: 'balance', words: 'Balance', right: true, width: '110px' },
];
const KINDS = [
  { value: '', title: 'All' },
  ...Object.entries(STORED_VALUE_NAMES).map(([value, title]) => ({ value, title })),
];
const STATES = [
  { value: '', title: 'All' },
  ...STORED_VALUE_STATES.map((value) => ({ value, title: capital(value) })),
];

function open({ id: one }: Pick<StoredValueView, 'id'>): Promise<unknown> {
  adding.value = null;
  return router.push(`/gift-cards/${one}`);
}
/** What was left is on another card; who looks at something else by then goes on with that. */
const moved = (from: number, to: { id: number }) => (id.value === from ? open(to) : undefined);
const close = () => router.push('/gift-cards');

async function writeOff(): Promise<void> {
  try {
    const { count, amount } = await values.writeOffExpired();
    notices.say(count === 0 ? 'Nothing has expired.' : `${count} written off, ${till.money(amount)} in all.`);
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
</script>

<template>
  <div class="tabbed">
    <JournalTabs />
    <div class="beside-form" :class="{ beside: adding || values.open }">
      <ListPage
        v-model:page="values.number"
        :narrowed="Object.values(values.filter).some(Boolean)"
        title="Gift cards"
        :of="['card', 'cards']"
        :columns="COLUMNS"
        :rows="values.page?.rows ?? []"
        :count="values.page?.count ?? null"
        :per-page="PER_PAGE"
        :busy
        :name-of="({ number }) => number"
        @open="open"
        @widen="Object.assign(values.filter, { find: '', kind: '', state: '' })"
      >
        <template v-if="manages" #acts>
          <v-btn :href="`/api/gift-cards/cards.csv?${values.query()}`">CSV</v-btn>
          <v-btn @click="adding = 'list'">Import</v-btn>
          <v-btn @click="adding = 'certificate'">Add a certificate</v-btn>
        </template>
        <template #filters>
          <div class="find">
            <v-text-field
              v-model="values.filter.find"
              label="Number, customer or mail"
              data-search
              autocomplete="off"
              clearable
              @click:clear="values.filter.find = ''"
            />
            <v-select v-model="values.filter.kind" label="Kind" :items="KINDS" />
            <v-select v-model="values.filter.state" label="State" :items="STATES" />
          </div>
          <p v-if="values.page" class="owed">
            <span
              ><b class="num" data-test="outstanding">{{ till.money(values.page.outstanding) }}</b>
              outstanding</span
            >
            <WordButton v-if="manages" @click="writeOff">Write off what has expired</WordButton>
          </p>
        </template>
        <template #number="{ row }">
          <b class="num">{{ row.number }}</b>
        </template>
        <template #what="{ row }">
          {{ STORED_VALUE_NAMES[row.kind] }}
          <span v-if="row.customer" class="soft under">{{ row.customer }}</span>
        </template>
        <template #state="{ row }">
          <span :class="{ bad: row.state === 'frozen' }">{{ stateWords(row, till) }}</span>
        </template>
        <template #balance="{ row }">{{ till.money(row.balance) }}</template>
        <template #empty>
          <b>No gift cards yet</b>
          <p>Sell one at the Counter: the tile “Gift card”, or scan a new card.</p>
        </template>
      </ListPage>
      <!-- The card before stays in sight until this one is there, but nothing is done with it. -->
      <aside
        v-if="adding || values.open"
        class="side scroll"
        aria-label="Details"
        :inert="!adding && values.open?.value.id !== id"
      >
        <CertificateForm v-if="adding === 'certificate'" @leave="adding = null" />
        <CertificateImport v-else-if="adding === 'list'" @leave="adding = null" />
        <GiftCardDetail
          v-else-if="values.open"
          :key="values.open.value.id"
          :card="values.open"
          @moved="moved"
          @leave="close"
        />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.find {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.find > * {
  flex: 1 1 130px;
}
.find > :first-child {
  flex: 4 1 180px;
}
.owed {
  display: flex;
  flex-wrap: wrap;
  gap: 0 24px;
  align-items: center;
}
</style>
