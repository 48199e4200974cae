<script setup lang="ts">
import { computed, ref } from 'vue';
import type { BankLineView } from '../../contract/accounts.ts';
import type { FoundCustomer } from '../../contract/people.ts';
import { formWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAccountStore } from './accountStore.ts';
import FindCustomer from './FindCustomer.vue';
import { textOf } from '../imports/readFile.ts';
import FileField from '../look/FileField.vue';
import ChipButton from '../look/ChipButton.vue';

/** Money that came to the bank, line by line: for whose account, booked where somebody says so. */
const store = useAccountStore();
const till = useTillStore();
const notices = useNoticeStore();
const busy = ref(false);
const wrong = ref('');
/** The line for which somebody is looked for. */
const asking = ref<number | null>(null);

void useLook(store.loadLines)();
const open = computed(() => store.lines?.filter(({ state }) => state === 'open') ?? []);
const booked = computed(() => store.lines?.filter(({ state }) => state === 'booked') ?? []);

async function attempt(work: () => Promise<void>): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    await work();
  } catch (error) {
    wrong.value = formWords(error);
    await store.loadLines().catch(() => {});
  } finally {
    busy.value = false;
  }
}
const take = ([file]: File[]) =>
  attempt(async () => {
    if (!file) return;
    const text = textOf(new Uint8Array(await file.arrayBuffer()));
    const { added, known, passed } = await store.takeList(text);
    const parts = [
      `${added} new`,
      ...(known > 0 ? [`${known} there already`] : []),
      ...(passed > 0 ? [`${passed} that are no money in`] : []),
    ];
    notices.say(`Read: ${parts.join(', ')}.`);
  });
const book = ({ id, amount }: BankLineView, accountId: number, name: string) =>
  attempt(async () => {
    await store.bookLine(id, accountId);
    asking.value = null;
    notices.say(`${till.money(amount)} is on the account of ${name}.`);
  });
const bookFor = (line: BankLineView, { id, name }: FoundCustomer) =>
  attempt(async () => {
    const account = await store.accountOf(id);
    if (!account) {
      wrong.value = `${name} has no house account.`;
      return;
    }
    await store.bookLine(line.id, account.id);
    asking.value = null;
    notices.say(`${till.money(line.amount)} is on the account of ${name}.`);
  });
const drop = ({ id }: BankLineView) => attempt(() => store.dropLine(id));
</script>

<template>
  <div class="bank">
    <header class="head">
      <router-link class="word" to="/people/accounts">House accounts</router-link>
      <h1 class="title">Bank lines</h1>
      <FileField class="file" label="A list of the bank, CSV" accept=".csv,text/csv" in-line @chosen="take" />
    </header>
    <p v-if="wrong" class="bad said" role="alert">{{ wrong }}</p>
    <div class="scroll">
      <ul v-if="open.length > 0" aria-label="Lines that wait">
        <li v-for="line in open" :key="line.id">
          <span class="num big">{{ till.money(line.amount) }}</span>
          <span class="what"
            ><b>{{ line.payer || 'Somebody' }}</b>
            <span class="soft under">{{ till.calendarDay(line.day) }} · {{ line.words }}</span></span
          >
          <span class="acts">
            <v-btn
              v-if="line.guess"
              :class="{ go: line.guess.sure }"
              :title="line.guess.why"
              @click="book(line, line.guess.accountId, line.guess.name)"
              >{{ line.guess.name }}</v-btn
            >
            <ChipButton @click="asking = asking === line.id ? null : line.id">
              {{ line.guess ? 'Somebody else' : 'For whom?' }}
            </ChipButton>
            <ChipButton @click="drop(line)">Not for an account</ChipButton>
          </span>
          <span v-if="line.guess" class="soft why">{{ line.guess.why }}</span>
          <div v-if="asking === line.id" class="find">
            <FindCustomer id="payer" label="Whose account?" @choose="(one) => bookFor(line, one)" />
          </div>
        </li>
      </ul>
      <div v-else-if="store.lines" class="empty">
        <b>No line waits</b>
        <p>
          Take in a list that your bank gives you: its first line names the columns, “Date” and “Amount” among
          them, “Payer” and “Reference” where they are. Each line is there once, however often it comes.
        </p>
      </div>
      <template v-if="booked.length > 0">
        <h2 class="label done">Booked</h2>
        <ul aria-label="Lines that were booked">
          <li v-for="line in booked" :key="line.id" class="past">
            <span class="num">{{ till.money(line.amount) }}</span>
            <span
              >{{ line.name }}
              <span class="soft">{{ till.calendarDay(line.day) }} · {{ line.words }}</span></span
            >
          </li>
        </ul>
      </template>
    </div>
  </div>
</template>

<style scoped>
.bank {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  background: var(--surface);
}
.file {
  margin-left: auto;
}
.said {
  padding: 8px 18px;
}
.done {
  padding: 18px 18px 4px;
}
li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr) auto;
  gap: 2px 18px;
  align-items: center;
  padding: 10px 18px;
  border-bottom: var(--hair);
}
.big {
  font-size: 20px;
  font-weight: 600;
  text-align: right;
}
.past .num {
  text-align: right;
}
.acts {
  display: flex;
  gap: 8px;
  align-items: center;
}
.why {
  grid-column: 3;
  font-size: 14px;
}
.find {
  grid-column: 2 / -1;
  max-width: 480px;
}
</style>
