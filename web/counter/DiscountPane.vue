<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef, useTemplateRef } from 'vue';
import {
  discountEffect,
  giveDiscount,
  isOnSameLines,
  withoutDiscount,
} from '../../core/counter/basketDiscounts.ts';
import { largeDiscounts } from '../../core/counter/neededRights.ts';
import KeyHint from '../keys/KeyHint.vue';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import UsualWords from '../look/UsualWords.vue';
import { parseMoney } from '../../core/money.ts';
import {
  presetNeeds,
  sizeWords,
  type DiscountPreset,
  type DiscountSize,
  type TypedDiscount,
} from '../../core/pricing/discount.ts';
import { parseRate } from '../../core/rate.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import WordButton from '../look/WordButton.vue';
import { useAnswer } from '../notices/answer.ts';

const KINDS = { percent: 'Per cent off', amount: 'Amount off', target: 'New price' } as const;
const KIND_CHOICE = (Object.keys(KINDS) as DiscountSize['kind'][]).map((value) => ({
  value,
  words: KINDS[value],
}));
const REASONS = ['Agreed price', 'Damaged', 'Scratched', 'Waited long'];

const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const customers = useCustomerStore();
const countersigns = useCountersignStore();
const session = useSessionStore();
const panel = useTemplateRef('panel');
const reasonField = useTemplateRef('reasonField');

/** The lines that it was begun for, as far as they are there. */
const begunFor = computed(() => basket.lines.filter(({ id }) => work.about.lineIds.includes(id)));
const scope = ref<'lines' | 'basket'>(begunFor.value.length === 0 ? 'basket' : 'lines');
const lineIds = computed(() => (scope.value === 'basket' ? null : begunFor.value.map(({ id }) => id)));
/** What was given on the same goods before: the new one takes its place. */
const given = computed(() => basket.basket.discounts?.find((one) => isOnSameLines(one, lineIds.value)));
const kind = ref<DiscountSize['kind']>('percent');
const typed = ref('');
const reason = ref('');
const preset = shallowRef<DiscountPreset | null>(null);
/** What is wrong, by its field; without one it is the whole. */
const wrong = ref<{ size?: string; reason?: string; whole?: string }>({});
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
const needs = computed(() => preset.value && !customers.unread && presetNeeds(preset.value, customers.panel));

/** The basket as it would be, priced: what is shown before anything is accepted. */
const trial = useAnswer(
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

const presets = till.facts?.discountPresets ?? [];
preset.value = presets.find((one) => one.id === work.presetId) ?? null;
const presetChoice = presets.map((one) => ({
  value: one.id,
  words: one.name,
  figures: sizeWords(one.size, till.digits),
}));

/** A second touch lets it go again. */
function takePreset(presetId: number | null): void {
  preset.value = presets.find((one) => one.id === presetId && one.id !== preset.value?.id) ?? null;
  wrong.value = {};
}

const scopes = computed(() => {
  const [first, ...more] = begunFor.value;
  const words = more.length > 0 ? `${begunFor.value.length} picked lines` : first?.name;
  return [
    ...(words === undefined ? [] : [{ value: 'lines' as const, words }]),
    { value: 'basket' as const, words: 'The whole basket' },
  ];
});

function chooseKind(one: DiscountSize['kind'] | null): void {
  kind.value = one ?? kind.value;
  void panel.value?.focusFirst();
}

/** A usual reason; the hand stays in the form, where F9 gives the discount. */
function takeReason(one: string): void {
  reason.value = one;
  reasonField.value?.focus();
}

/** @returns what is wrong, or nothing */
async function give(): Promise<typeof wrong.value> {
  const wanted = discount.value;
  if (!wanted) {
    const example = `Type an amount, for example ${till.example(5)}.`;
    return { size: kind.value === 'percent' ? 'Type a percentage, for example 10.' : example };
  }
  if (!wanted.reason) return { reason: 'Say why: the reason is printed.' };
  if (preset.value?.needsCustomer && customers.unread) await customers.readAgain();
  if (needs.value) return { whole: needs.value };
  if (preset.value?.needsCustomer && customers.unread)
    return { whole: 'What is known of the customer is not here yet. Try again.' };
  const next = giveDiscount(basket.basket, wanted);
  const { priced } = await catalogue.price(next);
  if (discountEffect(priced, id).taken === 0) return { whole: words.value };
  const limit = till.facts?.discountLimits[session.person?.role ?? 'cashier'] ?? 0;
  const large = largeDiscounts(next, priced, limit, till.facts?.discountPresets ?? [])
    .map(({ step }) => step)
    .filter(({ subject }) => subject.startsWith(`discount:${id}:`));
  const about = `${sizeWords(wanted.size, till.digits)}, ${wanted.reason}`;
  const approval =
    large.length > 0
      ? await countersigns.need('discount.large', basket.basket.id, about, large)
      : { id: undefined };
  if (!approval) return { whole: 'Not approved.' };
  await basket.change(giveDiscount(basket.basket, { ...wanted, countersign: approval.id }));
  return {};
}

async function accept(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  try {
    wrong.value = await give();
    if (wrong.value.whole) return await panel.value?.focusFirst();
    if (wrong.value.size ?? wrong.value.reason) return await panel.value?.focusWrong();
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
  <FormPanel
    ref="panel"
    title="Discount"
    done="Give it"
    :busy
    :wrong="wrong.whole"
    @accept="accept"
    @leave="work.leave()"
  >
    <ChipChoice v-model="scope" label="On what" :options="scopes" />
    <ChipChoice
      v-if="presetChoice.length > 0"
      :model-value="preset?.id ?? null"
      label="Ready discounts"
      :options="presetChoice"
      @update:model-value="takePreset"
    />
    <div v-if="needs" class="needs" role="alert">
      <b>{{ needs }}</b>
      <v-btn @click="work.begin('customer')">Find the customer <KeyHint of="counter.customer" /></v-btn>
    </div>
    <p v-else-if="preset?.needsCustomer" class="why">
      {{ customers.panel?.name }}{{ preset.group ? ` belongs to ${preset.group}` : ' is known' }}
    </p>
    <template v-if="!preset">
      <ChipChoice :model-value="kind" label="How" :options="KIND_CHOICE" @update:model-value="chooseKind" />
      <BigField id="discount-size" v-model="typed" :label="KINDS[kind]" kind="figure" :wrong="wrong.size" />
      <BigField
        id="discount-reason"
        ref="reasonField"
        v-model="reason"
        label="Reason, printed on the receipt"
        maxlength="120"
        :wrong="wrong.reason"
      />
      <UsualWords v-if="!reason" :model-value="reason" :words="REASONS" @update:model-value="takeReason" />
    </template>
    <ul v-if="parts.length > 1" class="parts">
      <li v-for="part in parts" :key="part.lineId">
        <span>{{ part.name }}</span><span class="num">{{ till.money(part.amount) }}</span>
      </li>
    </ul>
    <WordButton v-if="given" @click="takeAway">
      Take away {{ sizeWords(given.size, till.digits) }}, {{ given.reason }}
    </WordButton>
    <template #foot>
      <p v-if="words" class="effect">{{ words }}</p>
    </template>
  </FormPanel>
</template>

<style scoped>
.needs {
  display: grid;
  gap: 8px;
  padding: 10px 12px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
}
.effect {
  font-size: 19px;
  font-weight: 650;
}
.parts {
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
