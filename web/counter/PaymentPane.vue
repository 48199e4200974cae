<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { formatMoney, parseMoney, type Money } from '../../core/money.ts';
import { change, likelyAmounts } from '../../core/payment/cash.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useBasketStore } from './basketStore.ts';

const basket = useBasketStore();
const till = useTillStore();
const field = useTemplateRef<HTMLInputElement>('field');
const typed = ref('');
const wrong = ref('');
/** An unlikely amount that was asked about. */
const sure = ref<Money | null>(null);

const plain = (amount: Money) => formatMoney(amount, till.digits).replaceAll(',', '');
const likely = computed(() => (till.facts ? likelyAmounts(basket.total, till.facts.currency) : []));
const handed = computed(() => parseMoney(typed.value, till.digits));
const back = computed(() => (handed.value === null ? null : change(handed.value, basket.total)));

async function fillIn(): Promise<void> {
  typed.value = plain(basket.total);
  await nextTick();
  field.value?.focus();
  field.value?.select();
}
onMounted(fillIn);
watch(() => basket.total, fillIn);

async function accept(amount: Money | null = handed.value): Promise<void> {
  wrong.value = '';
  if (amount === null) {
    wrong.value = 'Type what was handed over, for example 50 or 12.50.';
  } else if (change(amount, basket.total) < 0) {
    wrong.value = `That does not cover it: ${till.money(basket.total - amount)} is missing.`;
  } else if (isUnlikely(amount) && sure.value !== amount) {
    sure.value = amount;
    wrong.value = `${till.money(change(amount, basket.total))} change is a lot. If that is right, take it once more.`;
  } else {
    return basket.payCash(amount);
  }
  await nextTick();
  field.value?.focus();
  field.value?.select();
}

/** More change than any note would bring: most likely a slip of the finger. */
function isUnlikely(amount: Money): boolean {
  const largest = Math.max(...(till.facts?.currency.pieces ?? []).map(({ value }) => value));
  return change(amount, basket.total) >= 2 * largest;
}
</script>

<template>
  <div class="owed">
    <span>To pay</span>
    <span class="num big">{{ till.money(basket.total) }}</span>
  </div>
  <form class="cash" @submit.prevent="accept()" @keydown.f9.prevent="accept()">
    <h2>Cash</h2>
    <label for="handed">Handed over</label>
    <input
      id="handed"
      ref="field"
      v-model="typed"
      class="num"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="wrong !== ''"
      aria-describedby="handed-wrong"
      @input="wrong = ''"
    />
    <div class="likely" role="group" aria-label="Likely amounts">
      <button
        v-for="(amount, at) in likely"
        :key="amount"
        type="button"
        class="num"
        :disabled="basket.busy"
        @click="accept(amount)"
      >
        <small v-if="at === 0">exact</small>{{ till.money(amount) }}
      </button>
    </div>
    <p id="handed-wrong" class="bad" role="alert">{{ wrong }}</p>
  </form>
  <div class="space" />
  <div class="back">
    <span>{{ back !== null && back < 0 ? 'Still missing' : 'Change' }}</span>
    <span class="num" :class="{ bad: back !== null && back < 0 }">{{
      back === null ? '–' : till.money(Math.abs(back))
    }}</span>
  </div>
  <button type="button" class="next-step" :disabled="basket.busy" @click="accept()">
    <span>{{ basket.busy ? 'Storing the sale …' : back === 0 ? 'Exact cash taken' : 'Cash taken' }}</span><kbd
      >F9</kbd
    >
  </button>
  <button type="button" class="foot-step" :disabled="basket.busy" @click="basket.backToBasket()">
    <span>Back to basket</span><kbd>Esc</kbd>
  </button>
</template>

<style scoped>
.owed {
  background: #15171c;
  color: #fff;
  padding: 16px 18px;
  display: flex;
  justify-content: space-between;
  align-items: flex-end;
}
.big {
  font-size: 52px;
  line-height: 1;
  font-weight: 600;
  letter-spacing: -0.02em;
}
.cash {
  background: var(--surface);
  padding: 16px 18px;
  display: grid;
  gap: 8px;
  border-bottom: var(--rule);
}
.cash h2 {
  font-size: 19px;
  font-weight: 700;
}
.cash input {
  border: var(--group);
  height: 64px;
  font-size: 32px;
  font-weight: 600;
  text-align: right;
  padding: 0 12px;
  background: var(--surface);
  color: var(--ink);
  width: 100%;
}
.likely {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
}
.likely button {
  text-align: center;
  border: 1.5px solid var(--ink);
  margin: 0 -1.5px -1.5px 0;
  min-height: 56px;
  font-size: 18px;
  font-weight: 600;
  display: grid;
  place-content: center;
}
.likely button:first-child {
  background: var(--blue-wash);
}
.likely small {
  font: 600 12px var(--v-font-body);
}
.likely button:active {
  background: var(--blue-wash);
}
.cash .bad {
  min-height: 21px;
  font-weight: 600;
}
.space {
  flex: 1;
}
.back {
  display: flex;
  justify-content: space-between;
  align-items: flex-end;
  padding: 8px 18px 12px;
  font-weight: 700;
  font-size: 17px;
}
.back .num {
  font-size: 34px;
  line-height: 1;
  font-weight: 600;
}
@media (max-width: 1100px) {
  .big {
    font-size: 42px;
  }
}
</style>
