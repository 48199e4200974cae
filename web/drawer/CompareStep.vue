<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { onMounted, ref, watch } from 'vue';
import { useKeys } from '../keys/useKeys.ts';
import type { TerminalTotal, VarianceFound } from '../../contract/drawer.ts';
import { cashMoveStep } from '../../core/drawer/cashMove.ts';
import { toCount, type ShiftTender } from '../../core/drawer/shiftReport.ts';
import { formatMoney } from '../../core/money.ts';
import { useAnswer } from '../notices/answer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import HowManyField from '../look/HowManyField.vue';
import ExplanationList from './ExplanationList.vue';
import { useClosingStore } from './closingStore.ts';
import { useDrawerStore } from './drawerStore.ts';

defineProps<{ wrong: string | undefined }>();
const emit = defineEmits<{ countAgain: [] }>();

const closing = useClosingStore();
const drawer = useDrawerStore();
const till = useTillStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const [explanations, showExplanations] = shown<VarianceFound['explanations']>([]);
const terminals = useAnswer<TerminalTotal[]>(() => drawer.terminalTotals(), []);
const busy = ref(false);

const inOwn = (tender: ShiftTender, amount: number) => formatMoney(amount, closing.digitsOf(tender));

async function look(): Promise<void> {
  try {
    await showExplanations(drawer.explain(closing.counts));
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
onMounted(look);
watch(
  () => [JSON.stringify(closing.counts), closing.expected],
  () => void look(),
);

type Found = VarianceFound['explanations'][number];

function followWords({ followUp }: Found): string {
  switch (followUp?.kind) {
    case 'cash-out':
    case 'cash-in':
      return followUp.reason && drawer.deskTillId === null
        ? followUp.kind === 'cash-in'
          ? 'Record cash in'
          : 'Record cash out'
        : '';
    case 'correct-tender':
      return followUp.to === 'cash' ? 'It was cash' : 'It was card';
    case 'count-again':
      return 'Count again';
    default:
      return '';
  }
}

/** Records what it was, and compares again. */
async function follow({ followUp, words }: Found): Promise<void> {
  if (busy.value || !followUp) return;
  if (followUp.kind === 'count-again') return emit('countAgain');
  busy.value = true;
  try {
    const id = newId();
    if (followUp.kind === 'correct-tender') {
      const [saleId = '', position = ''] = followUp.eventId.split(':');
      await drawer.correctTender(id, {
        saleId,
        position: Number(position),
        to: followUp.to,
        reason: 'Found when the drawer was counted',
      });
    } else {
      const kind = followUp.kind === 'cash-in' ? 'in' : 'out';
      const step = cashMoveStep({ kind, amount: followUp.amount });
      const approval = await countersigns.need('drawer.cash-move', id, words, [step]);
      if (!approval) return;
      await drawer.moveCash(id, {
        kind,
        amount: followUp.amount,
        reason: followUp.reason,
        person: '',
        countersign: approval.id,
      });
    }
    await drawer.look(true);
    await look();
    notices.say('Recorded. The drawer is compared again.');
  } catch (error) {
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}

useKeys('comparing', {
  follow: (_event, nth) => {
    const one = explanations.value[nth];
    return one && followWords(one) ? follow(one) : false;
  },
});
</script>

<template>
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
        <td class="num" data-test="expected">{{ till.money(closing.expected) }}</td>
        <td class="num">{{ till.money(drawer.counted) }}</td>
        <td class="num" data-test="difference" :class="{ bad: closing.difference < 0 }">
          {{ till.money(closing.difference) }}
        </td>
      </tr>
      <tr v-for="one in closing.others" :key="one.typeId">
        <th scope="row">
          {{ one.name }} <span class="soft num">{{ one.count }} ×</span>
        </th>
        <td class="num">{{ inOwn(one, toCount(one)) }}{{ one.currency ? ` ${one.currency}` : '' }}</td>
        <td>
          <HowManyField
            v-if="one.counted"
            class="other"
            :label="`${one.name}, counted`"
            :model-value="closing.form.others[one.typeId] ?? ''"
            @update:model-value="(typed) => (closing.form.others[one.typeId] = typed)"
          />
          <span v-else class="soft">not counted</span>
        </td>
        <td class="num" :class="{ bad: (closing.differenceOf(one) ?? 0) < 0 }">
          {{ closing.differenceOf(one) === null ? '' : inOwn(one, closing.differenceOf(one) ?? 0) }}
        </td>
      </tr>
      <tr v-for="one in terminals" :key="one.terminal">
        <th scope="row">Terminal {{ one.terminal }}</th>
        <td class="num">{{ till.money(one.recorded) }}</td>
        <td class="num">{{ one.said === null ? 'no answer' : till.money(one.said) }}</td>
        <td class="num" :class="{ bad: one.said !== null && one.said !== one.recorded }">
          {{ one.said === null ? '' : till.money(one.said - one.recorded) }}
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
  <p class="verdict" :class="{ off: closing.difference !== 0 }">
    <b>{{ closing.difference === 0 ? 'The drawer fits.' : `The drawer is ${closing.words}.` }}</b>
    {{
      closing.difference === 0
        ? 'Go on to the bag.'
        : 'Count again, or accept the difference: it is booked and stands in the report.'
    }}
  </p>
  <ExplanationList
    v-if="closing.difference !== 0"
    :explanations="explanations"
    :follow-words="followWords"
    :busy="busy"
    @follow="follow"
  />
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
.compare tbody th {
  font-weight: 400;
}
.compare td,
.compare thead th:not(:first-child) {
  text-align: right;
}
.compare td {
  font-size: 20px;
}
.compare td:last-child {
  font-weight: 700;
}
</style>
