<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, onUnmounted, ref, toRef } from 'vue';
import { useRouter } from 'vue-router';
import type { AccountRow } from '../../contract/accounts.ts';
import { ACCOUNTS_PAGE } from '../../core/people/account.ts';
import { AGES, type Age } from '../../core/people/accountAge.ts';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAccountStore } from './accountStore.ts';
import StatementsOfAll from './StatementsOfAll.vue';
import ChipChoice from '../look/ChipChoice.vue';

/** All house accounts: who owes how much, for how long, and what is done about it. */
const store = useAccountStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const making = ref(false);

const stop = store.follow();
onUnmounted(stop);
const { busy } = useAskedList(() => JSON.stringify(store.filter), toRef(store, 'page'), store.load);

const COLUMNS = [
  { key: 'name', words: 'Name' },
  { key: 'owed', words: 'Owed', right: true, width: '110px' },
  { key: 'notDue', words: AGES.notDue, right: true, width: '110px' },
  { key: 'days30', words: '1–30 days', right: true, width: '105px' },
  { key: 'days60', words: '31–60', right: true, width: '95px' },
  { key: 'days90', words: '61–90', right: true, width: '95px' },
  { key: 'older', words: 'Over 90', right: true, width: '95px' },
  { key: 'limit', words: 'Limit', right: true, width: '110px' },
];
const SHOWS = [
  { value: 'owing', words: 'Who owes', none: 'Nobody owes anything' },
  { value: 'overdue', words: 'Overdue', none: 'Nothing is overdue' },
  { value: 'over', words: 'In their favour', none: 'Nobody paid too much' },
  { value: 'all', words: 'All accounts', none: 'No house accounts yet' },
] as const;
const none = computed(() => SHOWS.find(({ value }) => value === store.filter.show)?.none);
const ages = computed(() => store.listed?.ages);
const amount = (value: number) => (value === 0 ? '' : till.money(value));
const age = ({ ages: of }: AccountRow, key: Age) => amount(of[key]);
const open = ({ customerId }: AccountRow) => router.push(`/people/${customerId}`);

async function remind(): Promise<void> {
  try {
    const { sent, unreachable } = await store.remind(null);
    const nobody = unreachable.length > 0 ? ` No mail address is known of ${unreachable.join(', ')}.` : '';
    notices.say(`${counted(sent, 'reminder goes', 'reminders go')} out by mail.${nobody}`);
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
</script>

<template>
  <div class="accounts">
    <ListPage
      v-model:page="store.page"
      :narrowed="store.filter.find !== ''"
      title="House accounts"
      :of="['account', 'accounts']"
      :columns="COLUMNS"
      :rows="store.listed?.rows ?? []"
      :count="store.listed?.count ?? null"
      :per-page="ACCOUNTS_PAGE"
      :busy="busy"
      :name-of="(row) => row.name"
      @open="open"
      @widen="store.filter.find = ''"
    >
      <template #acts>
        <v-btn to="/people">All people</v-btn>
        <v-btn to="/people/bank">Bank lines</v-btn>
        <v-btn @click="remind">Remind overdue</v-btn>
        <v-btn class="go" @click="making = true">Statements</v-btn>
      </template>
      <template #filters>
        <div class="first">
          <v-text-field
            v-model="store.filter.find"
            label="Name, phone or mail"
            data-search
            autocomplete="off"
            clearable
            @click:clear="store.filter.find = ''"
          />
          <ChipChoice v-model="store.filter.show" label="Which accounts" :options="SHOWS" />
        </div>
        <p v-if="ages && store.listed && store.listed.count > 0" class="sums" role="status">
          <b>{{ till.money(store.listed.owed) }}</b> owed in all, of it
          {{ till.money(store.listed.owed - ages.notDue) }} overdue
        </p>
      </template>
      <template #name="{ row }">
        <b>{{ row.name }}</b>
        <span class="soft under"
          >{{ row.number }}<template v-if="row.blocked">, blocked</template
          ><template v-if="row.reminded"
            >, reminder {{ row.reminded.step }} on {{ till.calendarDay(row.reminded.day) }}</template
          ></span
        >
      </template>
      <template #owed="{ row }"
        ><b>{{ till.money(row.owed) }}</b></template
      >
      <template #notDue="{ row }">{{ age(row, 'notDue') }}</template>
      <template #days30="{ row }">
        <span class="bad">{{ age(row, 'days30') }}</span>
      </template>
      <template #days60="{ row }">
        <span class="bad">{{ age(row, 'days60') }}</span>
      </template>
      <template #days90="{ row }">
        <span class="bad">{{ age(row, 'days90') }}</span>
      </template>
      <template #older="{ row }">
        <span class="bad">{{ age(row, 'older') }}</span>
      </template>
      <template #limit="{ row }">{{ till.money(row.limit) }}</template>
      <template #empty>
        <b>{{ none }}</b>
        <p v-if="store.filter.show === 'all'">
          Open one on the page of a customer: goods now, money later, up to a limit.
        </p>
      </template>
    </ListPage>
    <aside v-if="making" class="side">
      <StatementsOfAll @leave="making = false" />
    </aside>
  </div>
</template>

<style scoped>
.accounts {
  display: flex;
  height: 100%;
  min-height: 0;
}
.accounts > :first-child {
  flex: 1;
  min-width: 0;
}
.side {
  width: 360px;
  border-left: var(--rule);
  background: var(--surface);
  overflow-y: auto;
}
.first {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
}
</style>
