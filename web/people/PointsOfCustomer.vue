<script setup lang="ts">
import { computed, ref } from 'vue';
import type { CustomerPage } from '../../contract/people.ts';
import type { PointsReason } from '../../core/people/pointsReasons.ts';
import BigField from '../look/BigField.vue';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formProblems, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useCustomerPageStore } from './customerPageStore.ts';
import { usePointsStore } from './pointsStore.ts';
import ChipChoice from '../look/ChipChoice.vue';
import WordButton from '../look/WordButton.vue';

/** The points of a customer: how they moved, what ends soon, and what can be put right by hand. */
const { page } = defineProps<{ page: CustomerPage }>();

const store = usePointsStore();
const pages = useCustomerPageStore();
const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const mode = ref<'look' | 'sale' | 'correct'>('look');
const sale = ref('');
const amount = ref<number | null>(Number.NaN);
const SIDES = [
  { value: false, words: 'Give' },
  { value: true, words: 'Take away' },
];
const takes = ref(false);
const why = ref('');
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

const REASONS: Readonly<Record<PointsReason, string>> = {
  opening: 'from before',
  earned: 'earned',
  'earned again': 'earned again',
  'taken back': 'taken back, goods came back',
  reward: 'used for a reward',
  'given back': 'given back',
  'taken again': 'used again',
  'money off': 'used for money off',
  'money off given back': 'given back, goods came back',
  'money off taken again': 'used again',
  ended: 'ended',
  corrected: 'by hand',
  merged: 'records merged',
  forgotten: 'forgotten',
};
/** The last moves; the earlier ones once they are asked for. */
const LAST = 5;
const earlier = ref(false);
const shown = computed(() => (earlier.value ? page.moves : page.moves.slice(0, LAST)));

function begin(next: 'sale' | 'correct'): void {
  [mode.value, wrong.value, whole.value, sale.value, why.value] = [next, {}, '', '', ''];
  [amount.value, takes.value] = [Number.NaN, false];
}

async function attempt(work: () => Promise<string>): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  [wrong.value, whole.value] = [{}, ''];
  try {
    notices.say(await work());
    mode.value = 'look';
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    return;
  } finally {
    // Before the page is read anew: whoever goes on at once is heard.
    busy.value = false;
  }
  await pages.again(page.panel.id).catch((error: unknown) => notices.failed(problemWords(error)));
}
const join = () =>
  attempt(async () => {
    const got = await store.join(page.panel.id, sale.value);
    return `${page.record.name} has got ${store.words(got?.earned ?? 0)} for this sale.`;
  });
useScans(
  (scanned) => {
    sale.value = scanned;
    void join();
  },
  () => mode.value === 'sale',
);
const correct = () =>
  attempt(async () => {
    const many = amount.value ?? Number.NaN;
    await store.correct(page.panel.id, Number.isFinite(many) ? (takes.value ? -many : many) : 0, why.value);
    return `${page.record.name} has ${takes.value ? 'lost' : 'got'} ${store.words(many)}.`;
  });
</script>

<template>
  <section aria-labelledby="points-title">
    <h2 id="points-title" class="label">{{ store.Word }}</h2>
    <p v-if="page.panel.ending" class="noted">
      {{ store.words(page.panel.ending.points) }} end on {{ till.calendarDay(page.panel.ending.day) }}.
    </p>
    <ul class="ruled" v-if="shown.length > 0">
      <li v-for="move in shown" :key="move.id">
        <span
          >{{ REASONS[move.reason] }}<template v-if="move.words">: {{ move.words }}</template
          ><template v-if="move.by">, {{ move.by }}</template>
          <router-link v-if="move.saleId" class="word num" :to="`/journal/${move.saleId}`">{{
            move.sale
          }}</router-link>
          <span class="soft under">{{ till.time(move.at, 'full') }}</span></span
        >
        <span class="num right">{{ move.amount > 0 ? `+${move.amount}` : `−${-move.amount}` }}</span>
      </li>
    </ul>
    <p v-else class="soft">None so far.</p>
    <WordButton v-if="!earlier && page.moves.length > LAST" @click="earlier = true">Earlier ones</WordButton>
    <div v-if="mode === 'look'" class="acts">
      <WordButton v-if="store.programme?.on" @click="begin('sale')">
        {{ store.Word }} of a sale they forgot to name
      </WordButton>
      <WordButton v-if="session.may('points.correct')" @click="begin('correct')">
        Put right by hand
      </WordButton>
    </div>
    <FormPanel
      v-else-if="mode === 'sale'"
      :title="`${store.Word} of an earlier sale`"
      done="Give them"
      :busy
      :wrong="whole"
      @accept="join"
      @leave="mode = 'look'"
    >
      <BigField
        v-model="sale"
        label="Scan the receipt, or type its number"
        kind="code"
        maxlength="40"
        :wrong="wrong.sale"
      />
    </FormPanel>
    <FormPanel
      v-else
      :title="`Put ${store.word} right`"
      done="Keep it"
      :busy
      :wrong="whole"
      @accept="correct"
      @leave="mode = 'look'"
    >
      <ChipChoice v-model="takes" label="Give or take" :options="SIDES" />
      <CountField v-model="amount" label="How many" :wrong="wrong.amount" />
      <v-text-field v-model="why" label="Why" maxlength="200" :error-messages="wrong.words" />
    </FormPanel>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px;
  padding: 4px 0;
  border-bottom: var(--hair);
  align-items: center;
}
li .word {
  min-height: 0;
}
</style>
