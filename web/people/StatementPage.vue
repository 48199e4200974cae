<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, reactive, ref } from 'vue';
import { useRoute } from 'vue-router';
import type { StatementView } from '../../contract/accounts.ts';
import { ACCOUNT_ITEM_WORDS } from '../../core/people/accountItemKinds.ts';
import { PERIODS } from '../../core/figures/period.ts';
import DateField from '../look/DateField.vue';
import { formWords, problemWords } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import AccountFigures from './AccountFigures.vue';
import { useAccountStore } from './accountStore.ts';
import ChipButton from '../look/ChipButton.vue';

/** What a house account came to in some days: looked at, printed, mailed or taken along as a list. */
const store = useAccountStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const today = till.today();
const days = reactive({ ...PERIODS['last-month'].of(today), buyer: null as number | null });
const [view, showView, putView] = shown<StatementView | null>(null);
const wrong = ref('');

const customerId = computed(() => Number(route.params.id));
const lookFor = useLook(store.look, (error) => (wrong.value = problemWords(error)));
watchImmediate(customerId, (id) => void lookFor(id));
const account = computed(() => store.looked?.account ?? null);
const buyers = computed(() => [
  { value: null, title: 'Everything' },
  ...(account.value?.buyers ?? []).map(({ customerId: value, name }) => ({
    value,
    title: `Bought by ${name}`,
  })),
]);
const RANGES = [
  { words: 'Last month', days: PERIODS['last-month'].of(today) },
  { words: 'This month', days: { from: `${today.slice(0, 8)}01`, to: today } },
  { words: 'This year', days: { from: `${today.slice(0, 5)}01-01`, to: today } },
] as const;
const isRange = ({ from, to }: { from: string; to: string }) => days.from === from && days.to === to;

const lookUp = useLook(
  (id: number) => showView(store.statement(id, { ...days })),
  (error) => {
    putView(null);
    wrong.value = formWords(error);
  },
);
watchImmediate([() => account.value?.id, () => ({ ...days })], ([id]) => {
  wrong.value = '';
  if (id && days.from && days.to) void lookUp(id);
});
const address = (kind: 'pdf' | 'csv') =>
  account.value ? store.statementAddress(account.value.id, { ...days }, kind) : '';

async function mail(): Promise<void> {
  if (!account.value) return;
  try {
    const { to } = await store.mailStatement(account.value.id, { ...days });
    notices.say(`The statement goes to ${to}.`);
  } catch (error) {
    notices.failed(formWords(error));
  }
}
</script>

<template>
  <div class="statement">
    <header class="head">
      <router-link class="word" :to="`/people/${customerId}`">Back to them</router-link>
      <h1 class="title">Statement{{ account ? ` of ${account.name}` : '' }}</h1>
      <div v-if="view" class="acts">
        <v-btn :href="address('csv')">CSV</v-btn>
        <v-btn @click="mail">Mail it</v-btn>
        <v-btn class="go" :href="address('pdf')">PDF to print</v-btn>
      </div>
    </header>
    <div class="which">
      <div class="chips" role="group" aria-label="Which days">
        <ChipButton
          v-for="range in RANGES"
          :key="range.words"
          :on="isRange(range.days)"
          @click="Object.assign(days, range.days)"
        >
          {{ range.words }}
        </ChipButton>
      </div>
      <DateField v-model="days.from" label="From" />
      <DateField v-model="days.to" label="Until" />
      <v-select v-if="buyers.length > 1" v-model="days.buyer" label="Whose purchases" :items="buyers" />
    </div>
    <p v-if="wrong" class="bad said" role="alert">{{ wrong }}</p>
    <div v-if="view" class="scroll sheet">
      <table>
        <thead>
          <tr>
            <th>Day</th>
            <th>What</th>
            <th>Buyer</th>
            <th>Reference</th>
            <th class="right">Amount</th>
            <th class="right">Owed</th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="days.buyer === null" class="soft">
            <td></td>
            <td>Owed before</td>
            <td></td>
            <td></td>
            <td></td>
            <td class="num right">{{ till.money(view.statement.before) }}</td>
          </tr>
          <tr v-for="row in view.statement.rows" :key="row.id">
            <td>{{ till.calendarDay(row.day) }}</td>
            <td>
              {{ [ACCOUNT_ITEM_WORDS[row.kind], row.words].filter(Boolean).join(', ') }}
              <span v-if="row.receipt" class="num">{{ row.receipt }}</span>
            </td>
            <td>{{ row.buyer }}</td>
            <td>{{ row.reference }}</td>
            <td class="num right">{{ till.money(row.amount) }}</td>
            <td class="num right">{{ till.money(row.running) }}</td>
          </tr>
          <tr v-if="view.statement.rows.length === 0">
            <td></td>
            <td colspan="5" class="soft">Nothing happened in these days.</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td></td>
            <td colspan="4">
              <b>{{ days.buyer === null ? 'Owed on the last day' : 'Bought, less what came back' }}</b>
            </td>
            <td class="num right">
              <b data-test="after">{{ till.money(view.statement.after) }}</b>
            </td>
          </tr>
        </tfoot>
      </table>
      <AccountFigures v-if="view.statement.ages && view.statement.after !== 0" :ages="view.statement.ages" />
      <p v-if="view.statement.buyers.length > 1" class="soft">
        Of it
        {{ view.statement.buyers.map(({ name, charged }) => `${name} ${till.money(charged)}`).join(', ') }}.
      </p>
    </div>
    <p v-else-if="store.looked && !account" class="empty">They have no house account.</p>
  </div>
</template>

<style scoped>
.statement {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  background: var(--surface);
}
.head .acts {
  margin-left: auto;
}
.which {
  display: grid;
  grid-template-columns: auto repeat(3, minmax(0, 1fr));
  gap: 10px;
  align-items: center;
  padding: 12px 18px;
  border-bottom: var(--group);
}
@media (max-width: 900px) {
  .which {
    grid-template-columns: 1fr 1fr;
  }
  .which > :first-child {
    grid-column: 1 / -1;
  }
}
.said {
  padding: 8px 18px;
}
.sheet {
  flex: 1;
  padding: 0 18px 24px;
  display: grid;
  gap: 14px;
  align-content: start;
}
th {
  position: sticky;
  top: 0;
  background: var(--surface);
}
tfoot td {
  border-top: var(--group);
  font-size: 17px;
}
</style>
