<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { PromiseRow } from '../../contract/promises.ts';
import {
  layawayPlan,
  leastDeposit,
  dayAfter,
  INTERVALS,
  termsProblems,
  type Interval,
  type LayawayTerms,
} from '../../core/promises/plan.ts';
import { parseMoney, plainMoney } from '../../core/money.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import CountField from '../look/CountField.vue';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePromiseStore } from './promiseStore.ts';
import WordButton from '../look/WordButton.vue';
import { useAnswer } from '../notices/answer.ts';

const basket = useBasketStore();
const work = useBasketWorkStore();
const promises = usePromiseStore();
const notices = useNoticeStore();
const till = useTillStore();

const rules = till.facts?.layaway ?? {
  leastDeposit: 0,
  parts: 1,
  interval: 'month' as const,
  fee: 0,
  lower: false,
  words: '',
  stages: [],
};
const today = till.today();
const total = computed(() => basket.total);
const least = computed(() => leastDeposit(total.value, rules.leastDeposit));

const deposit = ref(plainMoney(least.value, till.digits));
const parts = ref<number | null>(rules.parts);
const interval = ref<Interval>(rules.interval);
const firstDay = ref(dayAfter(today, rules.interval));
const fee = ref(plainMoney(Math.min(rules.fee, total.value), till.digits));
const note = ref('');
const coming = ref<'here' | 'coming'>('here');
const typed = reactive({ deposit, parts, interval, firstDay, fee, note, coming });
const wrong = ref<Record<string, string>>({});
const busy = ref(false);
const more = ref(false);

const INTERVAL_CHOICES = (Object.keys(INTERVALS) as Interval[]).map((value) => ({
  value,
  words: INTERVALS[value],
}));

const terms = computed<LayawayTerms | null>(() => {
  const paid = parseMoney(deposit.value, till.digits);
  const kept = parseMoney(fee.value || '0', till.digits);
  if (paid === null || kept === null || !parts.value || !firstDay.value) return null;
  return { deposit: paid, parts: parts.value, interval: interval.value, firstDay: firstDay.value, fee: kept };
});
const plan = computed(() => (terms.value ? layawayPlan(total.value, terms.value, today) : []));

function problems(): Record<string, string> {
  const amount = `Type an amount, for example ${till.example(12.5)}.`;
  if (parseMoney(deposit.value, till.digits) === null) return { deposit: amount };
  if (parseMoney(fee.value || '0', till.digits) === null) return { fee: amount };
  if (!firstDay.value) return { firstDay: 'When is the first part due?' };
  if (!terms.value) return { parts: 'How many parts?' };
  return termsProblems(terms.value, { total: total.value, rules, today });
}

/** Layaways of the customer that goods can be added to; nothing is a new one. */
const known = useAnswer<PromiseRow[]>(async () => {
  const { customer } = basket.basket;
  const open = customer ? await promises.openFor(customer.id) : [];
  return open.filter(({ kind }) => kind === 'layaway');
}, []);
const addTo = ref('');
const CHOICES = computed(() => [
  { value: '', words: 'A new layaway' },
  ...known.value.slice(0, 3).map(({ id, number }) => ({ value: id, words: `Add to ${number}` })),
]);

const panel = ref<InstanceType<typeof FormPanel>>();

/** Does it, and says what is wrong next to its field. */
async function attempt(act: () => Promise<string>): Promise<void> {
  busy.value = true;
  try {
    const words = await act();
    work.leave();
    notices.say(words);
  } catch (error) {
    const fields = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
    wrong.value = {
      ...Object.fromEntries(fields.map(({ field, message }) => [field.replace('terms.', ''), message])),
      whole: problemWords(error),
    };
  } finally {
    busy.value = false;
  }
}

async function make(): Promise<void> {
  if (addTo.value) {
    wrong.value = {};
    return attempt(async () => `The goods are set aside with ${await promises.addTo(addTo.value)}.`);
  }
  wrong.value = problems();
  if (Object.keys(wrong.value).length > 0 || !terms.value) {
    more.value ||= Object.keys(wrong.value).some((field) => field !== 'deposit');
    return panel.value?.focusWrong();
  }
  const wanted = { ...terms.value, note: note.value, coming: coming.value === 'coming' };
  await attempt(async () => {
    const number = await promises.make(wanted);
    return `${number} is set aside. ${wanted.deposit > 0 ? 'Take the deposit now.' : ''}`;
  });
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="Set aside as a layaway"
    done="Set aside"
    :busy
    :disabled="!basket.basket.customer"
    :wrong="wrong.whole ?? wrong.basket"
    :remembers="`layaway of basket ${basket.basket.id}`"
    :fields="typed"
    @accept="make"
    @leave="work.leave()"
  >
    <p v-if="basket.basket.customer">
      For <b>{{ basket.basket.customer.name }}</b>
    </p>
    <div v-else class="say">
      <b>Whose are the goods?</b>
      <v-btn @click="work.begin('customer')">Choose the customer</v-btn>
    </div>
    <ChipChoice v-if="known.length > 0" v-model="addTo" label="Which layaway" :options="CHOICES" />
    <template v-if="!addTo">
      <BigField
        id="layaway-deposit"
        v-model="deposit"
        :label="`Deposit now, at least ${till.money(least)}`"
        kind="figure"
        :wrong="wrong.deposit"
      />
      <dl class="facts plan">
        <template v-for="(part, nth) in plan.slice(0, 5)" :key="part.day + nth">
          <dt>{{ part.day === today ? 'Now' : till.calendarDay(part.day) }}</dt>
          <dd class="num">{{ till.money(part.amount) }}</dd>
        </template>
        <template v-if="plan.length > 5">
          <dt>and {{ plan.length - 5 }} more, until {{ till.calendarDay(plan.at(-1)?.day ?? today) }}</dt>
          <dd></dd>
        </template>
      </dl>
      <WordButton :aria-expanded="more" @click="more = !more">
        {{ more ? 'Fewer terms' : 'Other terms' }}
      </WordButton>
      <template v-if="more">
        <CountField v-model="parts" label="Parts" :wrong="wrong.parts" />
        <ChipChoice v-model="interval" label="A part is due" :options="INTERVAL_CHOICES" />
        <DateField v-model="firstDay" label="First part" :wrong="wrong.firstDay" />
        <BigField
          id="layaway-fee"
          v-model="fee"
          label="Fee for cancelling"
          kind="figure"
          :wrong="wrong.fee"
        />
        <BigField id="layaway-note" v-model="note" label="Note (optional)" maxlength="200" />
      </template>
      <ChipChoice
        v-model="coming"
        label="Where the goods are"
        :options="[
          { value: 'here', words: 'Goods are here' },
          { value: 'coming', words: 'Goods still to come' },
        ]"
      />
    </template>
  </FormPanel>
</template>

<style scoped>
.plan {
  grid-template-columns: 1fr auto;
}
.plan > * {
  padding: 5px 0;
}
.say {
  display: grid;
  gap: 8px;
  padding: 12px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
}
</style>
