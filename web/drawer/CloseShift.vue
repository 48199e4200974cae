<script setup lang="ts">
import { useEventListener, useLocalStorage } from '@vueuse/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { planBag } from '../../core/drawer/bagPlan.ts';
import { variance } from '../../core/drawer/expectedCash.ts';
import { piecesWords, toCount, varianceWords, type ShiftTender } from '../../core/drawer/shiftReport.ts';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/api.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useWaitingStore } from '../waiting/waitingStore.ts';
import CountSheet from './CountSheet.vue';
import PastShifts from './PastShifts.vue';
import SignatureField from './SignatureField.vue';
import { useDrawerStore } from './drawerStore.ts';

const STEPS = ['Count', 'Compare', 'Bag', 'Sign'];

const drawer = useDrawerStore();
const waiting = useWaitingStore();
const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const router = useRouter();

const shift = computed(() => drawer.state?.shift);
const leftOver = computed(() => waiting.held.filter(({ heldOn }) => heldOn === till.facts?.till.number));
const step = ref(0);
const busy = ref(false);
const wrong = ref<Record<string, string>>({});
/** What is typed on the way is kept until the shift is closed. */
const form = useLocalStorage(`mondrel.close.${shift.value?.id ?? 0}`, {
  float: formatMoney(till.facts?.shop.openingFloat ?? 0, till.digits).replaceAll(',', ''),
  bagNumber: '',
  note: '',
  name: session.person?.name ?? '',
  path: '',
  /** Counts of other means of payment as typed, by their number. */
  others: {} as Record<number, string>,
});
// What was kept before there were others has none.
form.value.others ??= {};

const others = computed(() => drawer.state?.others ?? []);
/** Foreign cash is counted in its own money. */
const digitsOf = ({ currency: foreign }: ShiftTender) => (foreign ? currencyOf(foreign).digits : till.digits);
const inOwn = (tender: ShiftTender, amount: number) => formatMoney(amount, digitsOf(tender));
const countedOf = (tender: ShiftTender) =>
  parseMoney(form.value.others[tender.typeId] ?? '', digitsOf(tender));
const differenceOf = (tender: ShiftTender) => {
  const counted = countedOf(tender);
  return counted === null ? null : counted - toCount(tender);
};

const expected = computed(() => drawer.state?.expected ?? 0);
const difference = computed(() => variance(drawer.counted, expected.value));
const float = computed(() => parseMoney(form.value.float, till.digits));
const plan = computed(() =>
  float.value === null || float.value < 0 ? null : planBag(drawer.pieces, float.value),
);
const words = computed(() => varianceWords(difference.value, till.digits));
const currency = computed(() => till.facts?.currency);
/** Cash that moved without a sale, where any did. */
const moved = computed(() => {
  const { cashIn = 0, cashOut = 0, drops = 0 } = drawer.state?.movements ?? {};
  const all: [string, number][] = [
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
      difference.value === 0 ? 'It fits: plan the bag' : `Accept ${words.value} and bag`,
      'Sign',
      'Sign and close',
    ][step.value],
);

onMounted(async () => {
  await nextTick();
  document.querySelector<HTMLInputElement>('.sheet input')?.focus();
});

async function go(to: number): Promise<void> {
  if (to === 1 || to === 2) await drawer.look();
  step.value = to;
  await nextTick();
  document.querySelector<HTMLElement>('[data-first] :is(input, textarea)')?.focus();
}

async function next(): Promise<void> {
  if (step.value === 2 && !plan.value) {
    wrong.value = { float: 'Type the amount that stays, for example 200.00.' };
    return;
  }
  const missing = step.value === 1 && others.value.find((one) => one.counted && countedOf(one) === null);
  if (missing) {
    wrong.value = { others: `Count ${missing.name}, too, and type the amount.` };
    return;
  }
  wrong.value = {};
  if (step.value < 3) return go(step.value + 1);
  await sign();
}

async function sign(): Promise<void> {
  if (busy.value || float.value === null || !shift.value) return;
  if (!form.value.name.trim()) {
    wrong.value = { 'signature.name': 'Sign with your name.' };
    return;
  }
  busy.value = true;
  const { id } = shift.value;
  const { bagNumber, note, name, path } = form.value;
  try {
    const closed = await drawer.close({
      expected: expected.value,
      float: float.value,
      bagNumber,
      note,
      others: others.value
        .filter(({ counted }) => counted)
        .map((one) => ({ typeId: one.typeId, counted: countedOf(one) ?? 0 })),
      signature: { name, path },
    });
    form.value = null;
    notices.say(
      `Shift ${closed.number} is closed, ${varianceWords(closed.variance, till.digits)}. The report is printed.`,
    );
    await router.push(`/drawer/shifts/${id}`);
  } catch (error) {
    if (error instanceof ApiProblem) {
      wrong.value = Object.fromEntries(
        error.details.fields?.map(({ field, message }) => [field, message]) ?? [],
      );
      if (error.details.type === 'expected-changed') await go(1);
    }
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'F9') {
    event.preventDefault();
    (document.activeElement as HTMLElement | null)?.dispatchEvent(new Event('change'));
    void next();
  } else if (event.key === 'Escape' && step.value > 0) {
    void go(step.value - 1);
  }
});
</script>

<template>
  <div class="two">
    <CountSheet title="Count sheet" :locked="step > 1" @done="next" />
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
      <div class="body scroll">
        <p v-if="leftOver.length > 0" class="verdict off">
          <b
            >{{ leftOver.length }}
            {{ leftOver.length === 1 ? 'basket held here still waits' : 'baskets held here still wait' }}:</b
          >
          {{ leftOver.map(({ name, number }) => name || number).join(', ') }}.
          <router-link class="word" to="/waiting">To Waiting</router-link>
        </p>
        <template v-if="step === 0">
          <h2 class="title">Shift {{ shift?.number }}, open since {{ till.time(shift?.openedAt ?? '') }}</h2>
          <p class="soft">
            {{ shift?.openedBy }} opened it. Count what is in the drawer by notes and coins; the sheet is kept
            while you go on selling.
          </p>
          <dl v-if="drawer.state?.movements" class="facts">
            <dt>Float</dt>
            <dd class="num">{{ till.money(drawer.state.movements.float) }}</dd>
            <dt>
              Cash taken in {{ drawer.state.salesCount }}
              {{ drawer.state.salesCount === 1 ? 'sale' : 'sales' }}
            </dt>
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

        <template v-else-if="step === 1">
          <table class="compare">
            <thead>
              <tr>
                <th scope="col">Taken as</th>
                <th scope="col">Expected</th>
                <th scope="col">Counted</th>
                <th scope="col">Difference</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">Cash</th>
                <td class="num" data-test="expected">{{ till.money(expected) }}</td>
                <td class="num">{{ till.money(drawer.counted) }}</td>
                <td class="num" :class="{ bad: difference < 0 }">{{ till.money(difference) }}</td>
              </tr>
              <tr v-for="one in others" :key="one.typeId">
                <th scope="row">
                  {{ one.name }} <span class="soft num">{{ one.count }} ×</span>
                </th>
                <td class="num">
                  {{ inOwn(one, toCount(one)) }}{{ one.currency ? ` ${one.currency}` : '' }}
                </td>
                <td>
                  <input
                    v-if="one.counted"
                    v-model="form.others[one.typeId]"
                    class="num other"
                    inputmode="decimal"
                    autocomplete="off"
                    :aria-label="`${one.name}, counted`"
                  />
                  <span v-else class="soft">not counted</span>
                </td>
                <td class="num" :class="{ bad: (differenceOf(one) ?? 0) < 0 }">
                  {{ differenceOf(one) === null ? '' : inOwn(one, differenceOf(one) ?? 0) }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="wrong.others" class="bad" role="alert">{{ wrong.others }}</p>
          <p class="verdict" :class="{ off: difference !== 0 }">
            <b>{{ difference === 0 ? 'The drawer fits.' : `The drawer is ${words}.` }}</b>
            {{
              difference === 0
                ? 'Go on to the bag.'
                : 'Count again, or accept the difference: it is booked and stands in the report.'
            }}
          </p>
        </template>

        <template v-else-if="step === 2">
          <div class="fields">
            <v-text-field
              v-model="form.float"
              data-first
              label="Leave in the drawer"
              inputmode="decimal"
              :error-messages="wrong.float"
            />
            <v-text-field
              v-model="form.bagNumber"
              label="Bag number"
              maxlength="20"
              :error-messages="wrong.bagNumber"
            />
          </div>
          <div v-if="plan && currency" class="bag">
            <div>
              <h2 class="label">Leave in the drawer</h2>
              <span class="num big" data-test="kept">{{ till.money(plan.kept) }}</span>
              <p>{{ piecesWords(plan.keep, currency) }}</p>
            </div>
            <div>
              <h2 class="label">Into bank bag {{ form.bagNumber }}</h2>
              <span class="num big" data-test="banked">{{ till.money(plan.banked) }}</span>
              <p>{{ piecesWords(plan.bag, currency) }}</p>
            </div>
          </div>
          <p v-if="plan?.outcome === 'above'" class="verdict off">
            <b>The pieces cannot make {{ till.money(float ?? 0) }}.</b> {{ till.money(plan.kept) }} is the
            nearest above.
          </p>
          <p v-if="plan?.outcome === 'short'" class="verdict off">
            <b>There is less than {{ till.money(float ?? 0) }}.</b> Everything stays in the drawer.
          </p>
        </template>

        <template v-else>
          <p class="title">
            {{ words === 'no difference' ? 'No difference' : words }} · {{ till.money(plan?.banked ?? 0) }} to
            the bank · {{ till.money(plan?.kept ?? 0) }} stays
          </p>
          <v-textarea
            v-model="form.note"
            data-first
            label="Note (optional)"
            rows="2"
            auto-grow
            maxlength="500"
            :error-messages="wrong.note"
          />
          <v-text-field
            v-model="form.name"
            label="Name"
            maxlength="60"
            :error-messages="wrong['signature.name']"
          />
          <SignatureField v-model="form.path" />
        </template>
      </div>
      <footer class="foot">
        <v-btn v-if="step === 0" @click="drawer.clearCount()">Start the count again</v-btn>
        <v-btn v-else @click="go(step - 1)">{{ step === 1 ? 'Count again' : 'Back' }} <kbd>Esc</kbd></v-btn>
        <v-btn class="go" height="56" :loading="busy" @click="next">{{ nextWord }} <kbd>F9</kbd></v-btn>
      </footer>
    </section>
  </div>
</template>

<style scoped>
.other {
  width: 120px;
  min-height: 40px;
  border: 1.5px solid var(--ink);
  padding: 0 8px;
  text-align: right;
  background: var(--surface);
  color: var(--ink);
}
.steps {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  border-bottom: var(--rule);
  background: var(--surface);
  list-style: none;
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
  background: #15171c;
  color: #fff;
}
.body {
  padding: 22px;
  display: grid;
  gap: 16px;
  align-content: start;
  flex: 1;
}
.compare {
  width: 100%;
  border-collapse: collapse;
}
.compare th {
  text-align: left;
  font-size: 13px;
  color: var(--soft);
  padding: 8px 0;
  border-bottom: var(--hair);
}
.compare tbody th {
  font-size: 16px;
  font-weight: 400;
  color: var(--ink);
}
.compare td,
.compare thead th:not(:first-child) {
  text-align: right;
}
.compare td {
  padding: 12px 0;
  border-bottom: var(--hair);
  font-size: 20px;
}
.compare td:last-child {
  font-weight: 700;
}
.verdict {
  border: var(--rule);
  padding: 14px 16px;
  background: var(--surface);
  font-size: 17px;
}
.verdict.off {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
.bag {
  border: var(--group);
  background: var(--surface);
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.bag > div {
  padding: 12px 16px;
}
.bag > div + div {
  border-left: var(--group);
}
.bag .big {
  font-size: 30px;
  font-weight: 600;
}
.foot {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 14px 22px;
  border-top: var(--rule);
  background: var(--surface);
}
</style>
