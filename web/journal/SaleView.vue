<script setup lang="ts">
import { computed, ref } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import { LEDGER_EVENT_WORDS } from '../../core/books/accounts.ts';
import { CONDITIONS } from '../../core/journal/returns.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import PointsOfSale from '../people/PointsOfSale.vue';
import PaperView from './PaperView.vue';
import SendReceipt from './SendReceipt.vue';
import VoidForm from './VoidForm.vue';
import { useJournalStore } from './journalStore.ts';
import { useReturnStore } from './returnStore.ts';
import ChipChoice from '../look/ChipChoice.vue';
import { useWayOn } from '../look/wayOn.ts';

const { sale } = defineProps<{ sale: JournalSale }>();

const VIEWS = { goods: 'Goods', receipt: 'Receipt', books: 'Books' } as const;
const VIEW_CHOICES = Object.entries(VIEWS).map(([value, words]) => ({
  value: value as keyof typeof VIEWS,
  words,
}));

const journal = useJournalStore();
const returns = useReturnStore();
const SENT_WORDS: Record<string, string> = { sent: 'sent', failed: 'not sent', waiting: 'goes' };

const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const goOn = useWayOn();
const view = ref<keyof typeof VIEWS>('goods');
const voiding = ref(false);
const busy = ref(false);
const note = ref('');

const kindWords = { sale: 'Sale', return: 'Return', exchange: 'Exchange' } as const;
const paperWords = {
  receipt: 'Receipt printed',
  copy: 'Copy printed',
  'gift-receipt': 'Gift receipt printed',
  'void-slip': 'Void slip printed',
} as const;
/** Everything that came after the sale, in the order in which it came. */
const after = computed(() => {
  const { afterwards } = sale;
  return [
    ...afterwards.returns.map((one) => ({
      at: one.at,
      words: `${till.money(one.amount)} came back, ${one.by}${one.voided ? ' (voided)' : ''}`,
      link: one,
    })),
    ...afterwards.corrections.map((one) => ({
      at: one.at,
      words: `${till.money(one.amount)} was ${one.to}, not ${one.from}: ${one.reason}, ${one.by}`,
      link: null,
    })),
    ...(afterwards.void
      ? [
          {
            at: afterwards.void.at,
            words: `Voided by ${afterwards.void.by}: ${afterwards.void.reason}`,
            link: null,
          },
        ]
      : []),
    ...afterwards.notes.map((one) => ({ at: one.at, words: `${one.note} (${one.by})`, link: null })),
    ...sale.sent.map((one) => ({
      at: one.at,
      words: `Receipt ${SENT_WORDS[one.state] ?? 'goes'} to ${one.recipient}${one.trouble ? `: ${one.trouble}` : ''}`,
      link: null,
    })),
    ...afterwards.papers.map((one) => ({
      at: one.at,
      words: `${paperWords[one.kind]} on till ${one.till}`,
      link: null,
    })),
  ].toSorted((a, b) => a.at.localeCompare(b.at));
});

async function reprint(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  await journal
    .reprint(sale.id)
    .then(() => notices.say(`A copy of ${sale.number} goes to the printer.`))
    .catch((error: unknown) => notices.failed(problemWords(error)));
  busy.value = false;
}

async function addNote(): Promise<void> {
  const written = note.value.trim();
  if (!written || busy.value) return;
  busy.value = true;
  try {
    await journal.addNote(sale.id, written);
    note.value = '';
  } catch (error) {
    notices.failed(problemWords(error));
  }
  busy.value = false;
}

async function takeBack(): Promise<void> {
  if (await returns.open(sale.id)) await goOn('/counter');
}

async function voided(): Promise<void> {
  voiding.value = false;
  await journal.open(sale.id);
}
</script>

<template>
  <header class="head">
    <h2 class="title">
      {{ kindWords[sale.kind] }} <span class="num">{{ sale.number }}</span>
      <span v-if="sale.voided" class="bad">{{
        sale.voided === 'done' ? ' · voided' : ' · being voided'
      }}</span>
    </h2>
    <span class="num title" :class="{ gone: sale.voided }">{{ till.money(sale.total) }}</span>
  </header>
  <div class="bar">
    <p>
      {{ till.time(sale.finishedAt, 'full') }} · {{ sale.cashier }}, till {{ sale.till }}
      <template v-if="sale.customer"> · {{ sale.customer }}</template>
    </p>
    <div class="acts">
      <v-btn class="go" :disabled="!sale.returnable || !session.may('return.take')" @click="takeBack"
        >Return goods</v-btn
      >
      <v-btn :disabled="sale.noVoid !== ''" :title="sale.noVoid" @click="voiding = !voiding">Void …</v-btn>
      <v-btn :disabled="busy" @click="reprint">Print a copy</v-btn>
    </div>
    <p v-if="sale.noVoid && sale.voided !== 'done'" class="soft small">Cannot be voided. {{ sale.noVoid }}</p>
  </div>
  <PointsOfSale
    :sale-id="sale.id"
    :points="sale.points"
    :may-join="sale.mayJoin"
    @joined="journal.open(sale.id)"
  />
  <VoidForm v-if="voiding || sale.voided === 'begun'" :sale="sale" @done="voided" @leave="voiding = false" />
  <ChipChoice v-model="view" class="views" label="What is shown of the sale" :options="VIEW_CHOICES" />
  <div class="sale scroll" tabindex="0" role="region" :aria-label="VIEWS[view]">
    <template v-if="view === 'goods'">
      <table class="lines">
        <thead>
          <tr>
            <th scope="col">Item</th>
            <th scope="col" class="right">Quantity</th>
            <th scope="col" class="right">Price</th>
            <th scope="col" class="right">Amount</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in sale.pageLines" :key="line.position">
            <td>
              <b>{{ line.name }}</b>
              <span class="soft num">{{ line.number }}{{ line.serial ? ` · No. ${line.serial}` : '' }}</span>
              <span v-for="(record, at) in line.records" :key="at" class="why">
                {{ record.why }} <span class="num">{{ till.money(record.amount) }}</span>
              </span>
              <span v-if="line.reason" class="why"
                >{{ line.reason
                }}{{ line.condition ? `, ${CONDITIONS[line.condition].toLowerCase()}` : '' }}</span
              >
              <span v-if="line.cameBack > 0" class="came">{{ formatQuantity(line.cameBack) }} came back</span>
            </td>
            <td class="num right">
              {{ formatQuantity(line.quantity) }}{{ line.unit === 'each' ? '' : ` ${line.unit}` }}
            </td>
            <td class="num right">{{ till.money(line.unitPrice) }}</td>
            <td class="num right">{{ till.money(line.net) }}</td>
          </tr>
        </tbody>
      </table>
      <section>
        <h3 class="label">Paid with</h3>
        <ul>
          <li v-for="(tender, at) in sale.tenders" :key="at">
            <span>{{ tender.name }}{{ tender.tip > 0 ? `, and ${till.money(tender.tip)} tip` : '' }}</span>
            <span class="num">{{ till.money(tender.amount) }}</span>
          </li>
          <li v-if="sale.tenders.length === 0"><span class="soft">Nothing was to be paid.</span></li>
        </ul>
      </section>
      <section v-if="sale.afterwards.origins.length > 0">
        <h3 class="label">Goods came back from</h3>
        <ul>
          <li v-for="one in sale.afterwards.origins" :key="one.id">
            <router-link class="word num" :to="`/journal/${one.id}`">{{ one.number }}</router-link>
          </li>
        </ul>
      </section>
      <section v-if="sale.note">
        <h3 class="label">Note</h3>
        <p>{{ sale.note }}</p>
      </section>
      <section v-if="after.length > 0">
        <h3 class="label">What came after</h3>
        <ul>
          <li v-for="(one, at) in after" :key="at">
            <span
              ><span class="num soft">{{ till.time(one.at, 'full') }}</span> {{ one.words }}
              <router-link v-if="one.link" class="word num" :to="`/journal/${one.link.id}`">{{
                one.link.number
              }}</router-link></span
            >
          </li>
        </ul>
      </section>
      <form class="noting" novalidate @submit.prevent="addNote">
        <v-text-field v-model="note" label="Add a note" maxlength="500" hide-details density="compact" />
        <v-btn type="submit" :disabled="busy || !note.trim()">Add</v-btn>
      </form>
    </template>
    <template v-else-if="view === 'receipt'">
      <p>
        {{ sale.printedAt ? `Printed ${till.time(sale.printedAt)}` : 'Not printed' }}
        <span v-for="(one, at) in sale.sent" :key="at"
          >· {{ SENT_WORDS[one.state] ?? 'goes' }} to {{ one.recipient
          }}{{ one.trouble ? `: ${one.trouble}` : '' }}
        </span>
      </p>
      <div class="acts">
        <v-btn :href="`/api/journal/sales/${sale.id}/receipt.pdf`" target="_blank">PDF</v-btn>
        <v-btn :href="`/api/journal/sales/${sale.id}/receipt.txt`" target="_blank">Text</v-btn>
      </div>
      <SendReceipt :sale="sale" :print="false" @sent="journal.open(sale.id)" />
      <PaperView :paper="sale.paper" />
    </template>
    <table v-else class="lines">
      <thead>
        <tr>
          <th scope="col">Booked</th>
          <th scope="col">Account</th>
          <th scope="col" class="right">Debit</th>
          <th scope="col" class="right">Credit</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(entry, at) in sale.entries" :key="at">
          <td>{{ LEDGER_EVENT_WORDS[entry.event] }}</td>
          <td>{{ entry.words }}</td>
          <td class="num right">{{ entry.amount > 0 ? till.money(entry.amount) : '' }}</td>
          <td class="num right">{{ entry.amount < 0 ? till.money(-entry.amount) : '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.noting {
  display: flex;
  gap: 12px;
  align-items: center;
}
.bar {
  padding: 12px 18px;
  display: grid;
  gap: 10px;
  border-bottom: var(--group);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.small {
  font-size: 14px;
}
.gone {
  text-decoration: line-through;
}
.views {
  padding: 10px 18px;
  border-bottom: var(--group);
}
.sale {
  padding: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
  flex: 1;
}
.lines th {
  border-bottom: var(--group);
}
.lines td > span {
  display: block;
  font-size: 14px;
}
.why {
  color: var(--ink);
}
.came {
  font-weight: 650;
  color: var(--red);
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: var(--hair);
}
</style>
