<script setup lang="ts">
import { watchDebounced, watchImmediate } from '@vueuse/core';
import { computed, reactive, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { StoredValueView } from '../../contract/giftCards.ts';
import { parseMoney } from '../../core/money.ts';
import { isExpired, STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import JournalTabs from '../journal/JournalTabs.vue';
import DateField from '../look/DateField.vue';
import FileField from '../look/FileField.vue';
import { problemWords } from '../net/problem.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useGiftCardsStore } from './giftCardsStore.ts';

const PER_PAGE = 100;

const values = useGiftCardsStore();
const session = useSessionStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const { wrong, attempt } = useAttempt();
const adding = ref<'certificate' | 'list' | null>(null);
const certificate = reactive({ number: '', amount: '', expiresOn: '', singleUse: false });
const csv = ref('');
const newNumber = ref('');

const id = computed(() => (route.params.id ? Number(route.params.id) : undefined));
const pages = computed(() => Math.ceil((values.page?.count ?? 0) / PER_PAGE));
const manages = computed(() => session.may('gift-card.manage'));

const tell = (work: Promise<unknown>) => work.catch((error: unknown) => notices.failed(problemWords(error)));
const lookAt = useLook(values.look);
const load = useLook(values.load);
watchImmediate(id, (wanted) => void lookAt(wanted));
// What was typed for one card is not for another.
watch(
  () => values.open?.value.id,
  () => (newNumber.value = ''),
);
watchDebounced(
  () => [values.filter.find, values.filter.kind, values.filter.state, values.number],
  () => void load(),
  { debounce: 120, immediate: true },
);

function stateWords(value: StoredValueView): string {
  const { state, dormant, expiresOn } = value;
  if (state !== 'active') return state;
  if (isExpired(value, till.today())) return 'expired';
  if (dormant) return 'dormant';
  return expiresOn ? `until ${till.calendarDay(expiresOn)}` : 'active';
}

async function addCertificate(): Promise<void> {
  const amount = parseMoney(certificate.amount, till.digits);
  if (amount === null) {
    wrong.value = { amount: `Type an amount, for example ${till.example(25)}.` };
    return;
  }
  const added = await attempt(
    values.addCertificate({ ...certificate, amount }),
    'The certificate can be used.',
  );
  if (added) Object.assign(certificate, { number: '', amount: '', expiresOn: '', singleUse: false });
}

async function readFile([file]: File[]): Promise<void> {
  if (file) csv.value = await file.text();
}

async function importCsv(): Promise<void> {
  if (await attempt(values.importCsv(csv.value), 'The certificates can be used.')) {
    csv.value = '';
    adding.value = null;
  }
}

async function move(): Promise<void> {
  const from = values.open?.value.id;
  if (from === undefined) return;
  let fresh: { id: number; number: string } | undefined;
  const moving = values.move(from, newNumber.value).then((made) => (fresh = made));
  if (!(await attempt(moving, 'What was left is on the new card.')) || !fresh || id.value !== from) return;
  await router.push(`/gift-cards/${fresh.id}`);
}

async function writeOff(): Promise<void> {
  await tell(
    values
      .writeOffExpired()
      .then(({ count, amount }) =>
        notices.say(
          count === 0 ? 'Nothing has expired.' : `${count} written off, ${till.money(amount)} in all.`,
        ),
      ),
  );
}
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="gift-cards-title">
      <JournalTabs />
      <header class="head">
        <h1 id="gift-cards-title" class="title">Gift cards</h1>
        <span v-if="values.page" class="soft"
          >{{ values.page.count }} ·
          <b class="num" data-test="outstanding">{{ till.money(values.page.outstanding) }}</b>
          outstanding</span
        >
      </header>
      <div class="find">
        <v-text-field
          v-model="values.filter.find"
          label="Number, customer or mail"
          clearable
          @click:clear="values.filter.find = ''"
        />
        <v-select
          v-model="values.filter.kind"
          label="Kind"
          :items="[
            { value: '', title: 'All' },
            ...Object.entries(STORED_VALUE_NAMES).map(([value, title]) => ({ value, title })),
          ]"
        />
        <v-select
          v-model="values.filter.state"
          label="State"
          :items="[
            { value: '', title: 'All' },
            { value: 'active', title: 'Active' },
            { value: 'frozen', title: 'Frozen' },
            { value: 'closed', title: 'Closed' },
          ]"
        />
      </div>
      <ol v-if="values.page && values.page.rows.length > 0" class="scroll rows">
        <li v-for="row in values.page.rows" :key="row.id">
          <router-link :to="`/gift-cards/${row.id}`" class="row" :class="{ on: row.id === id }">
            <span class="num number">{{ row.number }}</span>
            <span class="what"
              >{{ STORED_VALUE_NAMES[row.kind] }}{{ row.customer ? ` · ${row.customer}` : ''
              }}<small :class="{ bad: row.state === 'frozen' }">{{ stateWords(row) }}</small></span
            >
            <span class="num amount">{{ till.money(row.balance) }}</span>
          </router-link>
        </li>
      </ol>
      <div v-else-if="values.page" class="empty">
        <b>No gift cards here</b>
        <p>Sell one at the Counter: the tile “Gift card”, or scan a new card.</p>
      </div>
      <p v-else class="empty" role="status">Looking …</p>
      <footer class="pages">
        <template v-if="pages > 1">
          <v-btn :disabled="values.number === 0" @click="values.number--">Newer</v-btn>
          <span>{{ values.number + 1 }} of {{ pages }}</span>
          <v-btn :disabled="values.number + 1 >= pages" @click="values.number++">Older</v-btn>
        </template>
        <template v-if="manages">
          <v-btn @click="adding = adding === 'certificate' ? null : 'certificate'">Add a certificate</v-btn>
          <v-btn @click="adding = adding === 'list' ? null : 'list'">Import</v-btn>
          <v-btn :href="`/api/gift-cards/cards.csv?${values.query()}`">CSV</v-btn>
          <v-btn @click="writeOff">Write off expired</v-btn>
        </template>
      </footer>
    </section>
    <section class="zone side" aria-label="Details">
      <form v-if="adding === 'certificate'" class="panel" novalidate @submit.prevent="addCertificate">
        <h2 class="title">Certificate of an earlier year</h2>
        <v-text-field
          v-model="certificate.number"
          label="Number on the paper"
          :error-messages="wrong.number"
        />
        <v-text-field
          v-model="certificate.amount"
          label="Worth"
          inputmode="decimal"
          :error-messages="wrong.amount"
        />
        <DateField v-model="certificate.expiresOn" label="Last day, if any" :wrong="wrong.expiresOn" />
        <v-checkbox
          v-model="certificate.singleUse"
          label="Can be used once: what is left lapses"
          hide-details
        />
        <div class="acts"><v-btn class="go" type="submit">Add it</v-btn></div>
      </form>
      <form v-else-if="adding === 'list'" class="panel" novalidate @submit.prevent="importCsv">
        <h2 class="title">Import certificates</h2>
        <p>One on each line: number, amount, and if there is one the last day and “once”.</p>
        <FileField
          label="Choose a file, or drop it here"
          accept=".csv,text/csv,text/plain"
          @chosen="readFile"
        />
        <v-textarea
          v-model="csv"
          label="Lines"
          rows="8"
          :error-messages="wrong.csv"
          placeholder="OLM-0301,25.00,2027-12-31,once"
        />
        <div class="acts"><v-btn class="go" type="submit">Import all</v-btn></div>
      </form>
      <template v-else-if="values.open">
        <header class="head">
          <h2 class="title num">{{ values.open.value.number }}</h2>
          <span class="num title" data-test="balance">{{ till.money(values.open.value.balance) }}</span>
        </header>
        <div class="scroll detail">
          <p>
            {{ STORED_VALUE_NAMES[values.open.value.kind]
            }}{{ values.open.value.customer ? ` of ${values.open.value.customer}` : '' }} ·
            {{ stateWords(values.open.value) }}{{ values.open.value.singleUse ? ' · can be used once' : '' }}
          </p>
          <div v-if="manages && values.open.value.balance > 0" class="acts">
            <v-btn
              v-if="values.open.value.state === 'active'"
              class="stop"
              @click="tell(values.change(values.open.value.id, 'freeze'))"
              >Lost: freeze it</v-btn
            >
            <v-btn
              v-else-if="values.open.value.state === 'frozen'"
              @click="tell(values.change(values.open.value.id, 'unfreeze'))"
              >Found: use it again</v-btn
            >
          </div>
          <form
            v-if="manages && values.open.value.balance > 0"
            class="move"
            novalidate
            @submit.prevent="move"
          >
            <v-text-field
              v-model="newNumber"
              label="Move to a new card: scan it, or leave empty for a new number"
              :error-messages="wrong.number"
            />
            <v-btn type="submit">Move</v-btn>
          </form>
          <h3 class="label">History</h3>
          <ol class="moves">
            <li v-for="(one, at) in values.open.moves" :key="at">
              <span class="num">{{ till.time(one.at, 'full') }}</span>
              <span
                >{{ one.kind }}<template v-if="one.by">, {{ one.by }}</template>
                <router-link v-if="one.saleId" class="word" :to="`/journal/${one.saleId}`">{{
                  one.sale
                }}</router-link></span
              >
              <span class="num right">{{ till.money(one.amount) }}</span>
            </li>
          </ol>
        </div>
      </template>
      <div v-else class="empty">
        <b>Choose a card</b>
        <p>Its history, and what to do when it is lost.</p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  padding: 12px 18px;
}
.find > :first-child {
  grid-column: 1 / -1;
}
.rows {
  flex: 1;
}
.row {
  display: grid;
  grid-template-columns: 150px 1fr auto;
  gap: 12px;
  align-items: center;
  min-height: 56px;
  padding: 6px 18px;
  border-bottom: var(--hair);
  color: var(--ink);
  text-decoration: none;
  background: var(--surface);
}
.row.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.what small {
  display: block;
  color: var(--soft);
}
.number,
.amount {
  font-weight: 600;
}
.detail,
.side .panel {
  padding: 18px;
  display: grid;
  gap: 14px;
  align-content: start;
}
.move {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: start;
}
.moves li {
  display: grid;
  grid-template-columns: 170px 1fr auto;
  gap: 12px;
  padding: 8px 0;
  border-bottom: var(--hair);
}
</style>
