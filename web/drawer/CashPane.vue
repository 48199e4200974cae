<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { ref, useTemplateRef } from 'vue';
import { CASH_MOVES, cashMoveStep, type CashMoveKind } from '../../core/drawer/cashMove.ts';
import { parseMoney } from '../../core/money.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import UsualWords from '../look/UsualWords.vue';
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

const KINDS = (Object.keys(CASH_MOVES) as CashMoveKind[]).map((value) => ({
  value,
  words: CASH_MOVES[value].words,
}));

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

function choose(next: CashMoveKind | null): void {
  if (!next) return;
  kind.value = next;
  reason.value = '';
  void panel.value?.focusFirst();
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
    return panel.value?.focusWrong();
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
  <FormPanel
    ref="panel"
    :title="CASH_MOVES[kind].words"
    :done="CASH_MOVES[kind].words"
    :busy
    @accept="move"
    @leave="work.leave()"
  >
    <ChipChoice :model-value="kind" label="Which way" :options="KINDS" @update:model-value="choose" />
    <BigField id="cash-amount" v-model="amount" label="Amount" kind="figure" :wrong="wrong.amount" />
    <BigField id="cash-reason" v-model="reason" label="Why" maxlength="120" :wrong="wrong.reason" />
    <UsualWords v-model="reason" :words="REASONS[kind]" />
    <BigField
      id="cash-person"
      v-model="person"
      :label="`${CASH_MOVES[kind].person} (optional)`"
      maxlength="60"
    />
  </FormPanel>
</template>
