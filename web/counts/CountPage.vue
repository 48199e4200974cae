<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef, useTemplateRef } from 'vue';
import { useRoute } from 'vue-router';
import type { EntryView } from '../../contract/counts.ts';
import { countNumber } from '../../core/counts/compare.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { formatCount } from '../../core/locale.ts';
import { ONE, parseQuantity } from '../../core/quantity.ts';
import BigField from '../look/BigField.vue';
import MoreRows from '../look/MoreRows.vue';
import { usePageOf } from '../look/pageOf.ts';
import { useSomeOf } from '../look/someOf.ts';
import { ApiProblem, formWords, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScansInTurn } from '../sale/scannedGoods.ts';
import { soundRefusal } from '../sale/sound.ts';
import { useTillStore } from '../shop/tillStore.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useCountStore } from './countStore.ts';
import WordButton from '../look/WordButton.vue';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

/** One count: scanning, as large as a telephone shows it; then what it found, and booking that. */
const store = useCountStore();
const till = useTillStore();
const session = useSessionStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const route = useRoute();
const goOn = useWayOn();
const typed = ref('');
const wrong = ref('');
const now = ref<EntryView | null>(null);
const looking = ref(false);
const busy = ref(false);
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
/** Of goods with serial numbers, the item whose units are scanned. */
const unitsOf = ref<{ itemId: number; name: string } | null>(null);
interface Refused {
  code: string;
  why: string;
}
/** What was scanned and is not counted, until somebody has seen to it. */
const refused = shallowRef<Refused[]>([]);

const id = computed(() => Number(route.params.id));
async function load(): Promise<void> {
  await store.load(id.value);
  if (looking.value || (store.page?.state === 'booked' && session.may('stock.move')))
    await store.look(id.value);
}
usePageOf('/goods/counts', async () => {
  [now.value, looking.value, unitsOf.value, refused.value] = [null, false, null, []];
  await load();
  looking.value = store.page?.state === 'booked' && session.may('stock.move');
});
onUnmounted(store.follow(load));

const page = computed(() => store.page);
const open = computed(() => page.value?.state === 'open');
const differing = useSomeOf(() => store.found?.differences ?? []);
const missed = useSomeOf(() => store.found?.notCounted ?? []);

/** Notes what was counted. @returns what is wrong; nothing where it is counted, or its units are asked for */
async function add(wanted: Parameters<typeof store.add>[1]): Promise<string> {
  try {
    const entry = await store.add(id.value, wanted);
    now.value = entry;
    unitsOf.value = entry.serials ? { itemId: entry.itemId, name: entry.name } : null;
    return '';
  } catch (error) {
    const asked = error instanceof ApiProblem ? error.data('units-asked') : undefined;
    if (asked) {
      unitsOf.value = asked;
      return '';
    }
    // While serial numbers are wanted, what is no item is one of them.
    const nothing = error instanceof ApiProblem && error.field('code') !== undefined;
    if (nothing && unitsOf.value && wanted.code)
      return add({ itemId: unitsOf.value.itemId, serial: wanted.code, quantity: ONE });
    return formWords(error);
  } finally {
    field.value?.focus();
  }
}
/** `12*4006…` or `12* number`: so many of it. @returns what is wrong */
async function take(text: string): Promise<string> {
  const [, many, code = ''] = /^(?:([\d.,]+)\s*[*×]\s*)?(.+)$/.exec(text.trim()) ?? [];
  if (!code) return '';
  const quantity = many === undefined ? ONE : parseQuantity(many);
  return quantity === null ? 'How many?' : add({ code, quantity });
}
function refuse(code: string, why: string): void {
  soundRefusal();
  refused.value = [...refused.value, { code, why }];
}
/** With `12*` typed already, what is scanned is twelve of it. What is not counted is heard, and stays in sight. */
const inTurn = useScansInTurn(
  async (code) => {
    const many = /^[\d.,]+\s*[*×]$/.test(typed.value.trim()) ? typed.value.trim() : '';
    if (many) typed.value = '';
    const why = await take(`${many}${code}`);
    if (why) refuse(`${many}${code}`, why);
  },
  () => open.value && !looking.value,
);
/** The field is free for the next at once; what is not counted comes back to it, or beside it. */
function accept(): Promise<void> {
  const text = typed.value;
  [typed.value, wrong.value] = ['', ''];
  return inTurn(async () => {
    const why = await take(text);
    if (why && typed.value !== '') refuse(text, why);
    else if (why) [typed.value, wrong.value] = [text, why];
  });
}
/** What was tried again already, or put away, is not tried once more. */
const again = (one: Refused) =>
  inTurn(async () => {
    if (!refused.value.includes(one)) return;
    const why = await take(one.code);
    refused.value = refused.value.flatMap((other) =>
      other !== one ? [other] : why ? [{ ...one, why }] : [],
    );
  });

/** Each press is one more. */
const oneMore = () =>
  inTurn(async () => {
    if (now.value) wrong.value = await add({ itemId: now.value.itemId, quantity: ONE });
  });
async function attempt(work: () => Promise<unknown>): Promise<boolean> {
  busy.value = true;
  try {
    await work();
    await load();
    return true;
  } catch (error) {
    notices.failed(problemWords(error));
    return false;
  } finally {
    busy.value = false;
  }
}
async function takeBack(entry: EntryView): Promise<void> {
  if (now.value?.itemId === entry.itemId) now.value = null;
  await attempt(() => store.takeBack(id.value, entry.id));
}
async function look(): Promise<void> {
  looking.value = true;
  await attempt(() => store.look(id.value));
}
async function book(): Promise<void> {
  const about = `${countNumber(page.value?.number ?? 0)} ${page.value?.words ?? ''}`;
  await attempt(async () => {
    const done = await countersigns.approved(about, (approval) => store.book(id.value, approval));
    if (!done) return;
    const words = done.answer === 1 ? 'One difference is booked.' : `${done.answer} differences are booked.`;
    notices.say(done.answer === 0 ? 'The books were right.' : words);
  });
}
async function giveUp(): Promise<void> {
  if (await attempt(() => store.cancel(id.value))) await goOn('/goods/counts');
}
</script>

<template>
  <div v-if="page" class="count">
    <header class="head">
      <router-link class="word" to="/goods/counts">All counts</router-link>
      <h1 class="title">
        <span class="num">{{ countNumber(page.number) }}</span> {{ page.place }}
        <span class="soft">{{ page.words }}</span>
      </h1>
      <b class="num"
        >{{ formatCount(page.counted)
        }}<template v-if="page.toCount !== null"> of {{ formatCount(page.toCount) }}</template> counted</b
      >
      <div v-if="session.may('stock.move') && page.state !== 'cancelled'" class="acts">
        <v-btn v-if="looking && open" @click="looking = false">Count on</v-btn>
        <v-btn v-else-if="open" :class="{ go: page.counted > 0 }" @click="look">Differences</v-btn>
      </div>
    </header>
    <CountersignPane v-if="countersigns.asking" />
    <div v-else-if="!looking && open" class="scroll counting">
      <form @submit.prevent="accept">
        <BigField
          id="count-code"
          ref="field"
          v-model="typed"
          kind="code"
          :label="unitsOf ? `Serial number of ${unitsOf.name}, or the next item` : 'Scan, or type a number'"
          placeholder="12* for twelve of it"
          :wrong
        />
      </form>
      <section v-if="refused.length > 0" aria-label="Not counted" aria-live="assertive">
        <h2 class="label bad">Not counted: {{ refused.length }}</h2>
        <ul class="ruled">
          <li v-for="(one, at) in refused" :key="at">
            <span
              ><b class="num">{{ one.code }}</b> <span class="bad beneath">{{ one.why }}</span></span
            >
            <span class="right"
              ><WordButton @click="again(one)">Try again</WordButton
              ><WordButton @click="refused = refused.toSpliced(at, 1)">Put away</WordButton></span
            >
          </li>
        </ul>
      </section>
      <section v-if="now" class="now" aria-live="polite">
        <h2 class="title">{{ now.name }}</h2>
        <p class="many num">
          {{ quantityWords(now.counted, now.unit) }}
          <span v-if="now.expected !== null" class="soft"
            >of {{ quantityWords(now.expected, now.unit) }}</span
          >
        </p>
        <div v-if="!now.serials" class="acts">
          <v-btn size="large" @click="takeBack(now)">Take the last back</v-btn>
          <v-btn size="large" class="go" @click="oneMore">One more</v-btn>
        </div>
      </section>
      <ul class="ruled" v-if="page.entries.length > 0" aria-label="Counted last">
        <li v-for="entry in page.entries" :key="entry.id">
          <span
            ><b>{{ entry.name }}</b>
            <span class="soft beneath"
              >{{ entry.serial ?? entry.number }} · {{ till.time(entry.at) }}, {{ entry.who }}</span
            ></span
          >
          <span class="right"
            ><span class="num">+{{ quantityWords(entry.quantity, entry.unit) }}</span
            ><WordButton @click="takeBack(entry)">Take back</WordButton></span
          >
        </li>
      </ul>
      <p v-else class="soft">
        {{
          page.blind ? 'You count blind: what the books say is not shown.' : 'What the books say is shown.'
        }}
        Sales go on meanwhile; nothing of them gets in the way.
      </p>
    </div>
    <div v-else-if="store.found" class="scroll counting wide">
      <p v-if="open">
        <b v-if="store.found.differences.length === 0">Everything that was counted is as the books say.</b>
        <template v-else
          ><b>{{ formatCount(store.found.differences.length) }}</b> differ,
          <b>{{ formatCount(store.found.right) }}</b> are right<template v-if="store.found.cost !== null"
            >; in all <b class="num">{{ till.money(store.found.cost) }}</b></template
          >.</template
        >
      </p>
      <table v-if="store.found.differences.length > 0" class="goods-lines">
        <thead>
          <tr>
            <th>Goods</th>
            <th class="right">Counted</th>
            <th class="right">Books</th>
            <th class="right">Difference</th>
            <th v-if="store.found.cost !== null" class="right">Worth</th>
            <th v-if="open"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in differing.some.value" :key="row.itemId">
            <td>
              <router-link class="word" :to="`/goods/${row.itemId}`">{{ row.name }}</router-link>
              <span class="soft beneath"
                >{{ row.number }}<template v-if="row.who"> · {{ row.who }}</template></span
              >
              <span v-if="row.missing.length > 0" class="bad beneath num"
                >missing: {{ row.missing.join(', ') }}</span
              >
              <span v-if="row.extra.length > 0" class="beneath num"
                >not in the books: {{ row.extra.join(', ') }}</span
              >
              <span v-if="row.moved" class="why">moved meanwhile</span>
            </td>
            <td class="right num">{{ quantityWords(row.counted, row.unit) }}</td>
            <td class="right num">{{ quantityWords(row.expected, row.unit) }}</td>
            <td class="right num">
              <b :class="{ bad: row.difference < 0 }"
                >{{ row.difference > 0 ? '+' : '' }}{{ quantityWords(row.difference, row.unit) }}</b
              >
            </td>
            <td v-if="row.cost !== null" class="right num">{{ till.money(row.cost) }}</td>
            <td v-if="open">
              <WordButton @click="attempt(() => store.again(id, [row.itemId]))"> Count again </WordButton>
            </td>
          </tr>
        </tbody>
      </table>
      <MoreRows :of="differing" />
      <section v-if="store.found.notCounted.length > 0" class="page-lists flat">
        <h2 class="label">
          Not counted: {{ formatCount(store.found.notCounted.length) }}. They stay as they are
        </h2>
        <ul class="ruled">
          <li v-for="row in missed.some.value" :key="row.itemId">
            <span
              ><router-link class="word" :to="`/goods/${row.itemId}`">{{ row.name }}</router-link>
              <span class="soft beneath">{{ row.number }}</span></span
            >
            <span class="right"
              ><span class="num">{{ quantityWords(row.expected, row.unit) }}</span
              ><WordButton @click="attempt(() => store.none(id, [row.itemId]))">
                None there
              </WordButton></span
            >
          </li>
        </ul>
        <MoreRows :of="missed" />
      </section>
      <div v-if="open" class="acts">
        <WaitButton :loading="busy" @click="giveUp">Give the count up</WaitButton>
        <WaitButton class="go" :loading="busy" @click="book">{{
          store.found.differences.length === 0
            ? 'End the count'
            : `Book ${formatCount(store.found.differences.length)}`
        }}</WaitButton>
      </div>
    </div>
    <p v-else class="empty">
      <b>{{ page.state === 'cancelled' ? 'This count was given up' : 'Looking it up …' }}</b>
    </p>
  </div>
  <p v-else class="empty" role="status">Looking it up …</p>
</template>

<style scoped>
.count {
  display: grid;
  min-height: 0;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
}
.counting {
  display: grid;
  gap: 16px;
  padding: 18px;
  align-content: start;
  width: min(100%, 680px);
  margin-inline: auto;
  grid-template-columns: minmax(0, 1fr);
}
.counting form {
  display: grid;
  gap: 8px;
}
.counting.wide {
  width: min(100%, 980px);
}
.now {
  display: grid;
  gap: 10px;
  padding: 14px 16px;
  border: var(--rule);
  background: var(--surface);
}
.many {
  font-size: 44px;
  font-weight: 700;
  line-height: 1;
}
.many .soft {
  font-size: 20px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 14px;
  padding: 6px 0;
  border-bottom: var(--hair);
  align-items: center;
}
li .right {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
</style>
