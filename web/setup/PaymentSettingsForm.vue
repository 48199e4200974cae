<script setup lang="ts">
import { CASH_COINS } from '../../core/payment/cash.ts';
import { ROUND_UP_STEPS } from '../../core/payment/roundUp.ts';
import { formatTipRates, parseTipRates } from '../../core/payment/tips.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useSettingsForm } from './settingsForm.ts';

/** How the shop takes money, whatever means of payment there are. */
const setup = usePaymentSetupStore();
const till = useTillStore();
const {
  form: settings,
  wrong,
  remembered,
  keep,
} = useSettingsForm(
  'Payment',
  () => setup.facts,
  ({ settings: now }) => ({
    ...now,
    tipRates: formatTipRates(now.tipRates),
    giftCardMonths: String(now.giftCardMonths ?? ''),
    dormantMonths: String(now.dormantMonths ?? ''),
  }),
);

const roundUpSteps = [
  { value: 0, title: 'No' },
  ...ROUND_UP_STEPS.map((value) => ({ value, title: `To the next ${till.money(value)}` })),
];
const coins = [
  { value: 0, title: 'nothing: all coins are in use' },
  ...CASH_COINS.map((value) => ({ value, title: till.money(value) })),
];
const tips = () => formatTipRates([100_000, 125_000, 200_000]);
const months = (text: string): number | null => (text.trim() ? Number(text) : null);

async function save(): Promise<void> {
  const tipRates = parseTipRates(settings.tipRates);
  if (!tipRates) {
    wrong.value = { tipRates: `Up to four parts in per cent, for example ${tips()}.` };
    return;
  }
  const wanted = {
    ...settings,
    tipRates,
    giftCardMonths: months(settings.giftCardMonths),
    dormantMonths: months(settings.dormantMonths),
  };
  await keep((seen) => setup.saveSettings(wanted, seen), 'The shop takes money like this from now on.');
}
</script>

<template>
  <form class="fields parted" novalidate @submit.prevent="save">
    <TypedBefore :of="remembered" />
    <v-select
      v-model="settings.roundUpStep"
      label="Round up for a fund"
      :items="roundUpSteps"
      :error-messages="wrong.roundUpStep"
    />
    <v-text-field v-model="settings.fund" label="For whom" :error-messages="wrong.fund" />
    <v-text-field
      v-model="settings.tipRates"
      label="Tips on the terminal, %"
      :hint="`Up to four: ${tips()}. Empty: none.`"
      persistent-hint
      :error-messages="wrong.tipRates"
    />
    <v-select
      v-model="settings.cashRounding"
      label="Cash is rounded to"
      :items="coins"
      :error-messages="wrong.cashRounding"
    />
    <v-text-field
      v-model="settings.giftCardMonths"
      label="New gift cards expire after so many months"
      placeholder="never"
      persistent-placeholder
      inputmode="numeric"
      :error-messages="wrong.giftCardMonths"
    />
    <v-text-field
      v-model="settings.dormantMonths"
      label="Dormant after so many months without use"
      placeholder="never"
      persistent-placeholder
      inputmode="numeric"
      :error-messages="wrong.dormantMonths"
    />
    <div class="acts"><v-btn class="go" type="submit">Keep the changes</v-btn></div>
  </form>
</template>

<style scoped>
.parted {
  border-top: var(--group);
  padding-top: 14px;
}
</style>
