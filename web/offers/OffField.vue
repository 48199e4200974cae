<script setup lang="ts">
import type { OfferOff } from '../../core/offers/offer.ts';
import MoneyField from '../look/MoneyField.vue';
import type { Editable } from './newOffer.ts';
import RateField from '../look/RateField.vue';

/** How much is taken off: a part, an amount, or whatever brings the goods to a price. */
type Off = Editable<OfferOff | { kind: 'price'; price: number }>;
const off = defineModel<Off>({ required: true });
const { withPrice = false } = defineProps<{ withPrice?: boolean; wrong?: string | undefined }>();

const KINDS = [
  { value: 'percent', title: 'a percentage off' },
  { value: 'amount', title: 'an amount off' },
  ...(withPrice ? [{ value: 'price', title: 'for a price' }] : []),
];

function choose(kind: Off['kind']): void {
  if (kind === off.value.kind) return;
  if (kind === 'percent') off.value = { kind, rate: 100_000 };
  else off.value = kind === 'amount' ? { kind, amount: 5_00 } : { kind, price: 10_00 };
}
</script>

<template>
  <div class="pair">
    <v-select :model-value="off.kind" :items="KINDS" label="Gives" @update:model-value="choose" />
    <RateField v-if="off.kind === 'percent'" v-model="off.rate" label="Part" :wrong="wrong" />
    <MoneyField v-else-if="off.kind === 'amount'" v-model="off.amount" label="Amount" :wrong="wrong" />
    <MoneyField v-else v-model="off.price" label="Price" :wrong="wrong" />
  </div>
</template>
