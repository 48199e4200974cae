<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, type Component } from 'vue';
import { tenderKind, type TenderKind } from '../../core/payment/tenderKinds.ts';
import { useKeys } from '../keys/useKeys.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import AccountForm from './AccountForm.vue';
import CardForm from './CardForm.vue';
import CashForm from './CashForm.vue';
import OwedBand from './OwedBand.vue';
import OtherForm from './OtherForm.vue';
import RoundUpStrip from './RoundUpStrip.vue';
import TakenList from './TakenList.vue';
import TerminalWait from './TerminalWait.vue';
import ValueForm from './ValueForm.vue';
import { usePaymentStore } from './paymentStore.ts';
import StepButton from '../look/StepButton.vue';
import ChipChoice from '../look/ChipChoice.vue';
import RowButton from '../look/RowButton.vue';

const basket = useBasketStore();
const payment = usePaymentStore();
const till = useTillStore();
const form = useTemplateRef<{ accept(): Promise<void>; leave?(): Promise<boolean> }[]>('form');
const splitting = ref(false);
const MOST_PARTS = 10;
const PARTS = Array.from({ length: MOST_PARTS }, (_, at) => ({
  value: at + 1,
  words: at === 0 ? 'whole' : String(at + 1),
}));

// Every payment begins with cash, which takes one key.
payment.chosenId = null;
void payment.load().catch(() => {});

const FORMS = {
  cash: CashForm,
  card: CardForm,
  'stored-value': ValueForm,
  account: AccountForm,
  'noted-card': OtherForm,
  cheque: OtherForm,
  transfer: OtherForm,
  'foreign-cash': OtherForm,
  voucher: OtherForm,
} as const satisfies Record<TenderKind, Component>;
const fitting = computed(() => payment.chosen && FORMS[payment.chosen.kind]);

async function choose(at: number): Promise<void> {
  const type = payment.types[at];
  if (!type || payment.open || type.id === payment.chosen?.id) return;
  if ((await form.value?.[0]?.leave?.()) === false) return;
  payment.chosenId = type.id;
  await nextTick();
  const way = document.querySelector<HTMLElement>(`#tender-${type.id}`);
  way?.querySelector('input')?.focus();
  // What is typed for it is in sight, whole.
  way?.scrollIntoView({ block: 'nearest' });
}

function split(parts: number): void {
  payment.parts = parts;
  splitting.value = false;
}

const inField = (target: EventTarget | null) =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

useKeys(
  'paying',
  {
    // While an amount is typed, its digits are digits: Alt makes them choose.
    choose: ({ altKey, target }, nth) => {
      if (!altKey && inField(target)) return false;
      const at = nth % 9;
      if (splitting.value && at >= 1) split(at + 1);
      else void choose(at);
    },
    move: (_event, nth) => {
      const { length } = payment.types;
      if (length < 2) return false;
      const now = payment.types.findIndex(({ id }) => id === payment.chosen?.id);
      return choose((now + (nth === 0 ? -1 : 1) + length) % length);
    },
    split: () => {
      splitting.value = !splitting.value;
    },
    roundUp: () => (payment.roundUp ? payment.giveRoundUp(true) : false),
    accept: () => next(),
  },
  { when: () => !payment.open },
);

async function next(): Promise<void> {
  if (payment.left === 0) await basket.payCash(0);
  else await form.value?.[0]?.accept();
}

const nextWords = computed(() => {
  if (payment.busy || basket.busy) return 'Storing …';
  if (payment.left <= 0) return 'Finish the sale';
  return payment.chosen ? tenderKind(payment.chosen.kind).take(payment.chosen.name) : 'Take it';
});
</script>

<template>
  <OwedBand
    :words="payment.held.length > 0 ? 'Left to pay' : 'To pay'"
    :amount="till.money(basket.due - payment.takenAmount)"
  >
    <span v-if="payment.held.length > 0" class="num of"
      >of {{ till.money(basket.due) }} · {{ till.money(payment.takenAmount) }} taken</span
    >
  </OwedBand>
  <p v-if="payment.left < 0" class="too-much" role="alert">
    {{ till.money(-payment.left) }} too much was taken. Undo a payment.
  </p>
  <TakenList />
  <TerminalWait v-if="payment.open" :tender="payment.open" />
  <template v-else>
    <RoundUpStrip />
    <div class="ways scroll" role="group" aria-label="Means of payment">
      <div
        v-for="(type, at) in payment.left > 0 ? payment.types : []"
        :id="`tender-${type.id}`"
        :key="type.id"
        class="way"
        :class="{ on: type.id === payment.chosen?.id }"
      >
        <RowButton picks :on="type.id === payment.chosen?.id" :title="`Alt+${at + 1}`" @click="choose(at)">
          <kbd>{{ at + 1 }}</kbd><b class="what">{{ type.name }}</b>
        </RowButton>
        <component
          :is="fitting"
          v-if="type.id === payment.chosen?.id"
          ref="form"
          :key="type.id"
          :type="type"
        />
      </div>
      <p v-if="payment.types.length > 1 && payment.left > 0" class="hint soft">
        <kbd>↑</kbd> <kbd>↓</kbd> or <kbd>Alt</kbd> with a number chooses
      </p>
    </div>
  </template>
  <ChipChoice
    v-if="splitting"
    class="split"
    label="Into how many parts"
    :options="PARTS"
    :model-value="payment.parts"
    @update:model-value="(parts) => split(parts ?? 1)"
  />
  <StepButton
    of="paying.accept"
    v-if="!payment.open"
    :disabled="basket.busy || payment.busy || payment.left < 0"
    @click="next"
    >{{ nextWords }}</StepButton
  >
  <div class="feet">
    <StepButton
      of="paying.split"
      beside
      :disabled="payment.open !== null || payment.left <= 0"
      :aria-expanded="splitting"
      @click="splitting = !splitting"
      >{{ payment.parts > 1 ? `1 of ${payment.parts} parts` : 'Split evenly' }}</StepButton
    >
    <StepButton
      of="counter.back"
      beside
      :disabled="basket.busy || payment.open !== null"
      @click="basket.backToBasket()"
      >Back to basket</StepButton
    >
  </div>
</template>

<style scoped>
.of {
  grid-column: 1 / -1;
  text-align: right;
  font-size: 14px;
  color: var(--band-soft);
}
.too-much {
  background: var(--red-wash);
  color: var(--red);
  padding: 10px 18px;
  font-weight: 700;
}
.ways {
  flex: 1;
  background: var(--surface);
  overflow-y: auto;
}
/* What it asks belongs to its row. */
.way.on > .list-row {
  border-bottom-color: transparent;
}
.way.on {
  border-bottom: var(--hair);
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.way :deep(.fields) {
  padding: 0 18px 12px;
  display: grid;
  gap: 8px;
}
.way :deep(label) {
  font-size: 14px;
  font-weight: 650;
}
.way :deep(.bad) {
  font-weight: 600;
}
.hint {
  padding: 10px 18px;
  font-size: 13px;
}
.split {
  padding: 10px 18px;
  border-top: var(--group);
  background: var(--surface);
}
.feet {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.feet > * + * {
  border-left: var(--group);
}
</style>
