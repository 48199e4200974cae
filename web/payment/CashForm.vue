<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { plainMoney, parseMoney, type Money } from '../../core/money.ts';
import { cashRounding, change, likelyAmounts } from '../../core/payment/cash.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import { usePaymentStore } from './paymentStore.ts';

const { type } = defineProps<{ type: TenderType }>();

/** So many buttons stand side by side. */
const LIKELY = 4;

const basket = useBasketStore();
const payment = usePaymentStore();
const till = useTillStore();
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
const typed = ref('');
const wrong = ref('');
/** An unlikely amount that was asked about. */
const sure = ref<Money | null>(null);

const plain = (amount: Money) => plainMoney(amount, till.digits);
const rounding = computed(() => cashRounding(payment.left, till.facts?.payment.cashRounding ?? 0));
/** What is left, as it can be paid in cash. */
const toPay = computed(() => payment.left + rounding.value);
const suggested = computed(() => (payment.parts > 1 ? payment.share : toPay.value));
const likely = computed(() => (till.facts ? likelyAmounts(toPay.value, till.facts.currency, LIKELY) : []));
const handed = computed(() => parseMoney(typed.value, till.digits));
const back = computed(() => (handed.value === null ? null : change(handed.value, toPay.value)));

async function fillIn(): Promise<void> {
  typed.value = plain(suggested.value);
  await nextTick();
  field.value?.focus();
  field.value?.select();
}
onMounted(fillIn);
watch(suggested, fillIn);

async function accept(amount: Money | null = handed.value): Promise<void> {
  wrong.value = '';
  const digits = till.facts?.payment.cashRounding ?? 0;
  if (amount === null || amount <= 0) {
    wrong.value = `Type what was handed over, for example 50 or ${till.example(12.5)}.`;
  } else if (amount < toPay.value && digits > 1 && amount % digits !== 0) {
    wrong.value = `Cash comes in steps of ${till.money(digits)}.`;
  } else if (isUnlikely(amount) && sure.value !== amount) {
    sure.value = amount;
    wrong.value = `${till.money(change(amount, toPay.value))} change is a lot. If that is right, take it once more.`;
  } else if (amount >= toPay.value) {
    return basket.payCash(amount);
  } else if (sure.value !== amount && payment.parts === 1) {
    sure.value = amount;
    wrong.value = `${till.money(toPay.value - amount)} is missing. Press once more to take it as a part.`;
  } else {
    await payment.take(type, amount).catch((error: unknown) => {
      wrong.value = error instanceof Error ? error.message : '';
    });
    return;
  }
  await nextTick();
  field.value?.focus();
  field.value?.select();
}
/**
 * Another means is chosen: what was typed is taken as a part, and can be undone there. @returns whether it may be
 * left
 */
async function leave(): Promise<boolean> {
  const amount = handed.value;
  if (typed.value.trim() === '' || amount === suggested.value) return true;
  if (amount !== null && amount > 0 && amount < toPay.value) {
    sure.value = amount;
    await accept(amount);
    return wrong.value === '';
  }
  wrong.value = 'Take the cash first, or empty the field.';
  field.value?.select();
  return false;
}
defineExpose({ accept, leave });

/** More change than any note would bring: most likely a slip of the finger. */
function isUnlikely(amount: Money): boolean {
  const largest = Math.max(...(till.facts?.currency.pieces ?? []).map(({ value }) => value));
  return change(amount, toPay.value) >= 2 * largest;
}
</script>

<template>
  <form class="fields" @submit.prevent="accept()">
    <BigField
      id="handed"
      ref="field"
      v-model="typed"
      label="Handed over"
      kind="figure"
      :wrong
      @input="wrong = ''"
    />
    <div class="likely" role="group" aria-label="Likely amounts">
      <button
        v-for="(amount, at) in likely"
        :key="amount"
        type="button"
        class="num"
        data-money
        :disabled="basket.busy"
        @click="accept(amount)"
      >
        <small v-if="at === 0">exact</small>{{ till.money(amount) }}
      </button>
    </div>
    <p v-if="rounding !== 0" class="soft">
      Rounded by <span class="num">{{ till.money(rounding) }}</span> for cash.
    </p>
    <p class="back">
      <span>{{ back !== null && back < 0 ? 'Still missing' : 'Change' }}</span>
      <span class="num" :class="{ bad: back !== null && back < 0 }">{{
        back === null ? '–' : till.money(Math.abs(back))
      }}</span>
    </p>
  </form>
</template>

<style scoped>
.likely {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
}
.likely button {
  text-align: center;
  border: 1.5px solid var(--ink);
  margin: 0 -1.5px -1.5px 0;
  min-height: 44px;
  font-size: 15px;
  font-weight: 600;
  background: var(--surface);
  display: grid;
  place-content: center;
}
.likely small {
  font: 600 12px var(--v-font-body);
}
.likely button:active {
  background: var(--yellow-wash);
}
.back {
  display: flex;
  justify-content: space-between;
  align-items: end;
  font-weight: 700;
}
.back .num {
  font-size: 28px;
  line-height: 1;
}
</style>
