<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, nextTick, onMounted, ref } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BagStep from './BagStep.vue';
import CompareStep from './CompareStep.vue';
import CountSheet from './CountSheet.vue';
import HandOverPane from './HandOverPane.vue';
import LeftOvers from './LeftOvers.vue';
import PastShifts from './PastShifts.vue';
import SignStep from './SignStep.vue';
import { useClosingStore } from './closingStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

const STEPS = ['Count', 'Compare', 'Bag', 'Sign'];

const drawer = useDrawerStore();
const closing = useClosingStore();
const till = useTillStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const goOn = useWayOn();

closing.begin();
const shift = computed(() => drawer.state?.shift);
const step = ref(0);
const busy = ref(false);
const handing = ref(false);
const wrong = ref<Record<string, string>>({});

/** Cash that moved otherwise than by being taken and given as change. */
const moved = computed(() => {
  const { refunds = 0, cashIn = 0, cashOut = 0, drops = 0 } = drawer.state?.movements ?? {};
  const all: [string, number][] = [
    ['Refunds in cash', -refunds],
    ['Cash in', cashIn],
    ['Cash out', -cashOut],
    ['Safe drops', -drops],
  ];
  return all.filter(([, amount]) => amount !== 0);
});
const nextWord = computed(
  () =>
    [
      'Compare',
      closing.difference === 0 ? 'It fits: plan the bag' : `Accept ${closing.words} and bag`,
      'Sign',
      'Sign and close',
    ][step.value],
);

onMounted(async () => {
  await nextTick();
  const [total, piece] = ['#count-total', '.sheet input'].map((css) =>
    document.querySelector<HTMLElement>(css),
  );
  (total ?? piece)?.focus();
});

async function go(to: number): Promise<void> {
  await drawer.look(to > 0);
  step.value = to;
  await nextTick();
  document.querySelector<HTMLElement>('[data-first] :is(input, textarea)')?.focus();
}

async function next(): Promise<void> {
  if (drawer.totalWrong) {
    wrong.value = { total: `Type what is in the drawer, for example ${till.example(523.5)}.` };
    return;
  }
  if (step.value === 2 && !closing.plan) {
    wrong.value = { float: `Type the amount that stays, for example ${till.example(200)}.` };
    return;
  }
  const missing = closing.others.find((one) => one.counted && closing.countedOf(one) === null);
  if (step.value === 1 && missing) {
    wrong.value = { others: `Count ${missing.name}, too, and type the amount.` };
    return;
  }
  wrong.value = {};
  if (step.value < 3) return go(step.value + 1);
  await sign();
}

async function sign(): Promise<void> {
  if (busy.value || closing.float === null || !shift.value) return;
  if (!closing.form.name.trim()) {
    wrong.value = { 'signature.name': 'Sign with your name.' };
    return;
  }
  busy.value = true;
  const { id } = shift.value;
  try {
    const closed = await closing.close();
    notices.say(
      `Shift ${closed.number} is closed, ${varianceWords(closed.variance, till.digits)}. The report is printed.`,
    );
    await goOn(`/drawer/shifts/${id}`);
  } catch (error) {
    if (error instanceof ApiProblem) {
      wrong.value = Object.fromEntries(
        error.details.fields?.map(({ field, message }) => [field, message]) ?? [],
      );
      if (error.details.type === 'expected-changed') await go(1);
      if (error.details.type === 'left-over') await go(0).then(() => drawer.look());
    }
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}

useKeys(
  'closing',
  { next, back: () => (step.value > 0 ? go(step.value - 1) : false) },
  { when: () => !countersigns.asking && !handing.value },
);
</script>

<template>
  <div class="two">
    <CountSheet title="Count sheet" closing :locked="step > 1" @done="next" />
    <section class="zone">
      <ol class="steps">
        <li
          v-for="(word, at) in STEPS"
          :key="word"
          :class="{ on: at === step }"
          :aria-current="at === step ? 'step' : undefined"
        >
          <button type="button" :disabled="at > step" @click="go(at)">
            <span class="num">{{ at + 1 }}</span>{{ word }}
          </button>
        </li>
      </ol>
      <CountersignPane v-if="countersigns.asking" />
      <div v-show="!countersigns.asking" class="body scroll">
        <LeftOvers :brief="step > 0" />
        <p v-if="wrong.total" class="bad" role="alert">{{ wrong.total }}</p>
        <template v-if="step === 0">
          <HandOverPane v-if="handing" @leave="handing = false" />
          <template v-else>
            <h2 class="title">
              Shift {{ shift?.number }}, open since {{ till.time(shift?.openedAt ?? '') }}
            </h2>
            <p class="soft">
              {{ shift?.openedBy }} opened it. Count what is in the drawer by notes and coins; the sheet is
              kept while you go on selling.
            </p>
            <p v-if="drawer.state?.noteBefore" class="verdict">
              <b>From the shift before:</b> {{ drawer.state.noteBefore }}
            </p>
            <p v-if="drawer.state?.blind" class="verdict">
              <b>Counted without looking.</b> What is expected is shown when you compare.
            </p>
            <dl v-if="drawer.state?.movements" class="facts">
              <dt>Float</dt>
              <dd class="num">{{ till.money(drawer.state.movements.float) }}</dd>
              <dt>Cash taken in {{ counted(drawer.state.salesCount, 'sale') }}</dt>
              <dd class="num">{{ till.money(drawer.state.movements.cashTaken) }}</dd>
              <dt>Change given</dt>
              <dd class="num">{{ till.money(-drawer.state.movements.changeGiven) }}</dd>
              <template v-for="[words, amount] in moved" :key="words">
                <dt>{{ words }}</dt>
                <dd class="num">{{ till.money(amount) }}</dd>
              </template>
            </dl>
            <PastShifts />
          </template>
        </template>
        <CompareStep v-else-if="step === 1" :wrong="wrong.others" @count-again="go(0)" />
        <BagStep v-else-if="step === 2" :wrong="wrong" />
        <SignStep v-else :wrong="wrong" />
      </div>
      <footer class="foot">
        <div v-if="step === 0" class="acts">
          <v-btn @click="drawer.clearCount()">Start the count again</v-btn>
          <v-btn v-if="drawer.deskTillId === null" :aria-expanded="handing" @click="handing = !handing"
            >Hand over …</v-btn
          >
        </div>
        <v-btn v-else @click="go(step - 1)"
          >{{ step === 1 ? 'Count again' : 'Back' }} <KeyHint of="closing.back"
        /></v-btn>
        <WaitButton class="go" height="56" :loading="busy" @click="next"
          >{{ nextWord }} <KeyHint of="closing.next"
        /></WaitButton>
      </footer>
    </section>
  </div>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  border-bottom: var(--rule);
  background: var(--surface);
}
.steps li + li {
  border-left: var(--group);
}
.steps button {
  width: 100%;
  min-height: 58px;
  padding: 0 18px;
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 650;
  color: inherit;
}
.steps .on {
  background: var(--ink);
  color: var(--paper);
}
.body {
  padding: 22px;
  display: grid;
  gap: 16px;
  align-content: start;
  flex: 1;
}
.body :deep(.verdict) {
  border: var(--rule);
  padding: 14px 16px;
  background: var(--surface);
  font-size: 17px;
}
.body :deep(.verdict.off) {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
}
.foot {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 14px 22px;
  border-top: var(--rule);
  background: var(--surface);
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
