<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import BigField from '../look/BigField.vue';
import UsualWords from '../look/UsualWords.vue';
import { voidStep } from '../../core/journal/afterTheSale.ts';
import { sum } from '../../core/money.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useJournalStore } from './journalStore.ts';
import WaitButton from '../look/WaitButton.vue';

const { sale } = defineProps<{ sale: JournalSale }>();
const emit = defineEmits<{ done: []; leave: [] }>();

const REASONS = ['Rung up twice', 'Wrong goods', 'Wrong way of paying', 'The customer changed their mind'];

const journal = useJournalStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const till = useTillStore();
/** All that was paid, what was rounded up and tips included. */
const goesBack = computed(() => sum(sale.tenders.map(({ amount, tip }) => amount + tip)) || sale.total);
const reason = ref(sale.afterwards.void?.reason ?? '');
const wrong = ref('');
const busy = ref(false);
const field = useTemplateRef('field');
const panel = useTemplateRef('panel');
onMounted(() => field.value?.focus());
useKeys('form', { accept: doVoid, leave: () => emit('leave') }, { within: panel });

async function doVoid(): Promise<void> {
  if (busy.value) return;
  wrong.value = reason.value.trim() ? '' : 'Say why: it is recorded and printed.';
  if (wrong.value) return void nextTick(() => field.value?.focus());
  busy.value = true;
  try {
    const words = reason.value.trim();
    const approval = await countersigns.need('sale.void', sale.id, `${sale.number}, ${words}`, [
      voidStep(sale.total),
    ]);
    if (!approval) return;
    const { state } = await journal.voidSale(sale.id, words, approval.id);
    if (state === 'done') notices.say(`${sale.number} is voided. The money goes back the way it came.`);
    else notices.say(`${sale.number} is being voided: the card terminal has not answered yet.`);
    emit('done');
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <CountersignPane v-if="countersigns.asking" />
  <form
    v-show="!countersigns.asking"
    ref="panel"
    class="void"
    aria-label="Void"
    novalidate
    @submit.prevent="doVoid"
  >
    <p v-if="sale.voided === 'begun'">
      <b>The card payment is being taken back.</b> It goes on by itself when the terminal answers.
    </p>
    <template v-else>
      <p>
        <b>{{ till.money(goesBack) }} goes back the way it was paid.</b> Goods, points and codes go back, too;
        the number stays in the journal.
      </p>
      <ul v-if="sale.tenders.length > 0" aria-label="What goes back">
        <li v-for="(tender, at) in sale.tenders" :key="at">
          {{ tender.name }} <span class="num">{{ till.money(tender.amount + tender.tip) }}</span>
          {{ tender.tip > 0 ? `with ${till.money(tender.tip)} tip` : '' }}
        </li>
      </ul>
      <p v-if="sale.donation > 0" class="soft">
        <span class="num">{{ till.money(sale.donation) }}</span> of it was rounded up and given.
      </p>
      <BigField id="void-reason" ref="field" v-model="reason" label="Why" maxlength="120" :wrong />
      <UsualWords v-model="reason" :words="REASONS" />
    </template>
    <p v-if="sale.voided === 'begun'" class="bad" role="alert">{{ wrong }}</p>
    <div class="acts">
      <v-btn v-if="sale.voided !== 'begun'" @click="emit('leave')">Cancel <KeyHint of="form.leave" /></v-btn>
      <WaitButton class="go stop" type="submit" :loading="busy">{{
        sale.voided === 'begun' ? 'Try again' : 'Void the sale'
      }}</WaitButton>
    </div>
  </form>
</template>

<style scoped>
.void {
  padding: 14px 18px;
  display: grid;
  gap: 8px;
  background: var(--red-wash);
  border-bottom: var(--rule);
}
</style>
