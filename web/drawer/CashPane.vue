<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { CASH_MOVES, cashMoveStep, type CashMoveKind } from '../../core/drawer/cashMove.ts';
import { parseMoney } from '../../core/money.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useDrawerStore } from './drawerStore.ts';

const REASONS: Record<CashMoveKind, readonly string[]> = {
  in: ['Change from the bank', 'Paid back'],
  out: ['Post and parcels', 'Cleaning', 'Tea and milk', 'Delivery paid at the door'],
  drop: ['Too much in the drawer'],
};

const drawer = useDrawerStore();
const work = useBasketWorkStore();
const till = useTillStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const kind = ref<CashMoveKind>(work.cashKind);
work.cashKind = 'out';
const amount = ref('');
const reason = ref('');
const person = ref('');
const wrong = ref<Record<string, string>>({});
const busy = ref(false);
const panel = useTemplateRef('panel');
/** One move, however often it is pressed; a changed one is another. */
let sent = { id: newId(), of: '' };

const focusFirst = () => panel.value?.querySelector<HTMLInputElement>('input')?.focus();
onMounted(focusFirst);

function choose(next: CashMoveKind): void {
  kind.value = next;
  reason.value = '';
  focusFirst();
}

async function move(): Promise<void> {
  if (busy.value) return;
  const cents = parseMoney(amount.value, till.digits);
  wrong.value = {
    ...(cents === null || cents <= 0
      ? { amount: `Type an amount above zero, for example ${till.example(20)}.` }
      : {}),
    ...(reason.value.trim() ? {} : { reason: 'Say why: it is recorded and printed.' }),
  };
  if (cents === null || Object.keys(wrong.value).length > 0) {
    await nextTick();
    return panel.value?.querySelector<HTMLInputElement>('[aria-invalid="true"]')?.focus();
  }
  busy.value = true;
  try {
    const wanted = {
      kind: kind.value,
      amount: cents,
      reason: reason.value.trim(),
      person: person.value.trim(),
    };
    const of = JSON.stringify(wanted);
    if (sent.of !== of) sent = { id: newId(), of };
    const { words, right } = CASH_MOVES[kind.value];
    const approval = await countersigns.need(
      right,
      sent.id,
      `${words}, ${till.money(cents)}, ${wanted.reason}`,
      [cashMoveStep(wanted)],
    );
    if (!approval) return;
    await drawer.moveCash(sent.id, { ...wanted, countersign: approval.id });
    notices.say(`${words}: ${till.money(cents)}. The slip is printing.`);
    work.leave();
  } catch (error) {
    const fields = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
    wrong.value = Object.fromEntries(fields.map(({ field, message }) => [field, message]));
    if (fields.length === 0) wrong.value = { reason: problemWords(error) };
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form
    ref="panel"
    class="panel"
    aria-labelledby="cash-title"
    novalidate
    @submit.prevent="move"
    @keydown.f9.prevent="move"
    @keydown.esc.stop="work.leave()"
  >
    <h2 id="cash-title" class="title">{{ CASH_MOVES[kind].words }}</h2>
    <div class="kinds" role="group" aria-label="Which way">
      <button
        v-for="({ words }, one) in CASH_MOVES"
        :key="one"
        type="button"
        class="chip"
        :class="{ on: one === kind }"
        :aria-pressed="one === kind"
        @click="choose(one)"
      >
        {{ words }}
      </button>
    </div>
    <label for="cash-amount">Amount</label>
    <input
      id="cash-amount"
      v-model="amount"
      class="big-field num"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="Boolean(wrong.amount)"
      aria-describedby="cash-amount-wrong"
    />
    <p id="cash-amount-wrong" class="bad" role="alert">{{ wrong.amount }}</p>
    <label for="cash-reason">Why</label>
    <input
      id="cash-reason"
      v-model="reason"
      class="big-field"
      maxlength="120"
      autocomplete="off"
      :aria-invalid="Boolean(wrong.reason)"
      aria-describedby="cash-reason-wrong"
    />
    <div class="kinds" role="group" aria-label="Usual reasons">
      <button v-for="one in REASONS[kind]" :key="one" type="button" class="chip" @click="reason = one">
        {{ one }}
      </button>
    </div>
    <p id="cash-reason-wrong" class="bad" role="alert">{{ wrong.reason }}</p>
    <label for="cash-person">{{ CASH_MOVES[kind].person }} (optional)</label>
    <input id="cash-person" v-model="person" class="big-field" maxlength="60" autocomplete="off" />
    <div class="acts">
      <v-btn @click="work.leave()">Cancel <kbd>Esc</kbd></v-btn>
      <v-btn class="go" type="submit" :loading="busy">{{ CASH_MOVES[kind].words }} <kbd>Enter</kbd></v-btn>
    </div>
  </form>
</template>

<style scoped>
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.kinds .on {
  background: var(--blue);
  color: var(--on-blue);
  border-color: var(--blue);
}
</style>
