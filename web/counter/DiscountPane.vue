<script setup lang="ts">
import { computedAsync } from '@vueuse/core';
import { v4 as newId } from 'uuid';
import { computed, nextTick, onMounted, ref, shallowRef, useTemplateRef } from 'vue';
import {
  discountEffect,
  giveDiscount,
  isOnSameLines,
  withoutDiscount,
} from '../../core/counter/basketDiscounts.ts';
import { largeDiscounts } from '../../core/counter/neededRights.ts';
import { parseMoney } from '../../core/money.ts';
import {
  presetNeeds,
  sizeWords,
  type DiscountPreset,
  type DiscountSize,
  type TypedDiscount,
} from '../../core/offers/discount.ts';
import { parseRate } from '../../core/rate.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';

const KINDS = { percent: 'Per cent off', amount: 'Amount off', target: 'New price' } as const;
const REASONS = ['Agreed price', 'Damaged', 'Scratched', 'Waited long'];

const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const customers = useCustomerStore();
const countersigns = useCountersignStore();
const session = useSessionStore();
const panel = useTemplateRef('panel');

const picked = basket.pickedLines.map(({ id }) => id);
const chosenId = basket.chosen?.id ?? null;
const scope = ref<'lines' | 'basket'>(chosenId === null ? 'basket' : 'lines');
const lineIds = computed(() =>
  scope.value === 'basket' ? null : picked.length > 0 ? picked : [chosenId ?? ''],
);
const linesWord = computed(() =>
  picked.length > 0 ? `${picked.length} picked lines` : (basket.chosen?.name ?? 'Line'),
);
/** What was given on the same goods before: the new one takes its place. */
const given = computed(() => basket.basket.discounts?.find((one) => isOnSameLines(one, lineIds.value)));
const kind = ref<DiscountSize['kind']>('percent');
const typed = ref('');
const reason = ref('');
const preset = shallowRef<DiscountPreset | null>(null);
const wrong = ref('');
const busy = ref(false);
const id = newId();

const size = computed<DiscountSize | null>(() => {
  if (preset.value) return preset.value.size;
  if (kind.value === 'percent') {
    const rate = parseRate(typed.value);
    return rate ? { kind: 'percent', rate } : null;
  }
  const amount = parseMoney(typed.value, till.digits);
  if (amount === null || amount < 0 || (kind.value === 'amount' && amount === 0)) return null;
  return kind.value === 'amount' ? { kind: 'amount', amount } : { kind: 'target', price: amount };
});
const discount = computed<TypedDiscount | null>(
  () =>
    size.value && {
      id,
      lineIds: lineIds.value,
      size: size.value,
      reason: preset.value?.name ?? reason.value.trim(),
      ...(preset.value && { presetId: preset.value.id }),
    },
);
/** Who a preset is for, where the sale is not for them. */
const needs = computed(() => preset.value && presetNeeds(preset.value, customers.panel));

/** The basket as it would be, priced: what is shown before anything is accepted. */
const trial = computedAsync(
  async () =>
    discount.value ? (await catalogue.price(giveDiscount(basket.basket, discount.value))).priced : null,
  null,
);
const effect = computed(() => trial.value && discountEffect(trial.value, id));
const parts = computed(() =>
  (trial.value?.lines ?? []).flatMap(({ id: lineId, records }) => {
    const record = records.find((one) => one.discountId === id);
    const line = basket.lines.find((one) => one.id === lineId);
    return record && line ? [{ lineId, name: line.name, amount: record.amount }] : [];
  }),
);
const words = computed(() => {
  if (!effect.value) return '';
  const { taken, before } = effect.value;
  if (taken === 0)
    return 'That takes nothing off: what comes back, and goods without a price, cannot be discounted.';
  const on = parts.value.length === 1 ? (parts.value[0]?.name ?? '') : `${parts.value.length} lines`;
  return `On ${on}, ${till.money(before)} becomes ${till.money(before - taken)}.`;
});

async function focusFirst(): Promise<void> {
  await nextTick();
  panel.value?.querySelector<HTMLInputElement>('input')?.focus();
}
onMounted(() => {
  const start = till.facts?.discountPresets.find((one) => one.id === work.presetId);
  if (start) preset.value = start;
  void focusFirst();
});

function takePreset(one: DiscountPreset): void {
  preset.value = preset.value?.id === one.id ? null : one;
  wrong.value = '';
}

function chooseKind(one: DiscountSize['kind']): void {
  kind.value = one;
  preset.value = null;
  void focusFirst();
}

/** A usual reason; the hand stays in the form, where F9 gives the discount. */
function takeReason(one: string): void {
  reason.value = one;
  panel.value?.querySelector<HTMLInputElement>('#discount-reason')?.focus();
}

/** @returns what is wrong, or nothing */
async function give(): Promise<string | undefined> {
  const wanted = discount.value;
  if (!wanted)
    return kind.value === 'percent'
      ? 'Type a percentage, for example 10.'
      : `Type an amount, for example ${till.example(5)}.`;
  if (!wanted.reason) return 'Say why: the reason is printed.';
  if (needs.value) return needs.value;
  const next = giveDiscount(basket.basket, wanted);
  const { priced } = await catalogue.price(next);
  if (discountEffect(priced, id).taken === 0) return words.value;
  const limit = till.facts?.discountLimits[session.person?.role ?? 'cashier'] ?? 0;
  const large = largeDiscounts(next, priced, limit, till.facts?.discountPresets ?? [])
    .map(({ step }) => step)
    .filter(({ subject }) => subject.startsWith(`discount:${id}:`));
  const about = `${sizeWords(wanted.size, till.digits)}, ${wanted.reason}`;
  const approval =
    large.length > 0
      ? await countersigns.need('discount.large', basket.basket.id, about, large)
      : { id: undefined };
  if (!approval) return 'Not approved.';
  await basket.change(giveDiscount(basket.basket, { ...wanted, countersign: approval.id }));
  return undefined;
}

async function accept(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  try {
    wrong.value = (await give()) ?? '';
    if (wrong.value) return await focusFirst();
    basket.pickNone();
    work.leave();
  } finally {
    busy.value = false;
  }
}

async function takeAway(): Promise<void> {
  if (given.value) await basket.change(withoutDiscount(basket.basket, given.value.id));
  work.leave();
}
</script>

<template>
  <form
    ref="panel"
    class="panel"
    aria-labelledby="discount-title"
    novalidate
    @submit.prevent="accept"
    @keydown.f9.prevent="accept"
    @keydown.esc.stop="work.leave()"
  >
    <h2 id="discount-title" class="title">Discount</h2>
    <div class="row" role="group" aria-label="On what">
      <button
        v-if="chosenId"
        type="button"
        class="chip"
        :class="{ on: scope === 'lines' }"
        :aria-pressed="scope === 'lines'"
        @click="scope = 'lines'"
      >
        {{ linesWord }}
      </button>
      <button
        type="button"
        class="chip"
        :class="{ on: scope === 'basket' }"
        :aria-pressed="scope === 'basket'"
        @click="scope = 'basket'"
      >
        The whole basket
      </button>
    </div>
    <div v-if="till.facts?.discountPresets.length" class="row" role="group" aria-label="Ready discounts">
      <button
        v-for="one in till.facts.discountPresets"
        :key="one.id"
        type="button"
        class="chip"
        :class="{ on: preset?.id === one.id }"
        :aria-pressed="preset?.id === one.id"
        @click="takePreset(one)"
      >
        {{ one.name }} <span class="num">{{ sizeWords(one.size, till.digits) }}</span>
      </button>
    </div>
    <div v-if="needs" class="needs" role="alert">
      <b>{{ needs }}</b>
      <v-btn @click="work.begin('customer')">Find the customer <kbd>F4</kbd></v-btn>
    </div>
    <p v-else-if="preset?.needsCustomer" class="why">
      {{ customers.panel?.name }}{{ preset.group ? ` belongs to ${preset.group}` : ' is known' }}
    </p>
    <template v-if="!preset">
      <div class="row" role="group" aria-label="How">
        <button
          v-for="(word, one) in KINDS"
          :key="one"
          type="button"
          class="chip"
          :class="{ on: kind === one }"
          :aria-pressed="kind === one"
          @click="chooseKind(one)"
        >
          {{ word }}
        </button>
      </div>
      <label for="discount-size">{{ KINDS[kind] }}</label>
      <input
        id="discount-size"
        v-model="typed"
        class="big-field num"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="wrong !== ''"
        aria-describedby="discount-wrong"
      />
      <label for="discount-reason">Reason, printed on the receipt</label>
      <input id="discount-reason" v-model="reason" class="big-field" maxlength="120" autocomplete="off" />
      <div v-if="!reason" class="row" role="group" aria-label="Usual reasons">
        <button v-for="one in REASONS" :key="one" type="button" class="chip" @click="takeReason(one)">
          {{ one }}
        </button>
      </div>
    </template>
    <ul v-if="parts.length > 1" class="parts">
      <li v-for="part in parts" :key="part.lineId">
        <span>{{ part.name }}</span><span class="num">{{ till.money(part.amount) }}</span>
      </li>
    </ul>
    <button v-if="given" type="button" class="word" @click="takeAway">
      Take away {{ sizeWords(given.size, till.digits) }}, {{ given.reason }}
    </button>
    <div class="foot">
      <p v-if="words" class="effect">{{ words }}</p>
      <p id="discount-wrong" class="bad" role="alert">{{ wrong }}</p>
      <div class="acts">
        <v-btn @click="work.leave()">Cancel <kbd>Esc</kbd></v-btn>
        <v-btn class="go" type="submit" :loading="busy">Give it <kbd>F9</kbd></v-btn>
      </div>
    </div>
  </form>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.row .on {
  background: var(--blue);
  color: var(--on-blue);
  border-color: var(--blue);
}
.needs {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
}
/* What it does and the next step stay in sight, however long the form is. */
.foot {
  position: sticky;
  bottom: -18px;
  margin: 0 -18px -18px;
  padding: 12px 18px 18px;
  display: grid;
  gap: 8px;
  background: var(--surface);
  border-top: var(--group);
}
.effect {
  font-size: 19px;
  font-weight: 650;
}
.parts {
  list-style: none;
  max-height: 180px;
  overflow-y: auto;
  border-top: var(--group);
}
.parts li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: var(--hair);
}
</style>
