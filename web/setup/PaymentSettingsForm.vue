<script setup lang="ts">
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import { useSettingsForm } from './settingsForm.ts';

/** How the shop takes money, whatever means of payment there are. */
const setup = usePaymentSetupStore();
const {
  form: settings,
  wrong,
  keep,
} = useSettingsForm(
  () => setup.facts,
  ({ settings: now }) => ({
    ...now,
    giftCardMonths: String(now.giftCardMonths ?? ''),
    dormantMonths: String(now.dormantMonths ?? ''),
  }),
);

const months = (text: string): number | null => (text.trim() ? Number(text) : null);

async function save(): Promise<void> {
  const wanted = {
    ...settings,
    giftCardMonths: months(settings.giftCardMonths),
    dormantMonths: months(settings.dormantMonths),
  };
  await keep((seen) => setup.saveSettings(wanted, seen), 'The shop takes money like this from now on.');
}
</script>

<template>
  <form class="fields parted" novalidate @submit.prevent="save">
    <v-select
      v-model="settings.roundUpStep"
      label="Round up for a fund"
      :items="[
        { value: 0, title: 'No' },
        { value: 100, title: 'To the next 1' },
        { value: 500, title: 'To the next 5' },
        { value: 1000, title: 'To the next 10' },
      ]"
      :error-messages="wrong.roundUpStep"
    />
    <v-text-field v-model="settings.fund" label="For whom" :error-messages="wrong.fund" />
    <v-text-field
      v-model="settings.tipRates"
      label="Tips on the terminal, %"
      hint="Up to four, with commas: 10, 15, 20. Empty: none."
      persistent-hint
      :error-messages="wrong.tipRates"
    />
    <v-select
      v-model="settings.cashRounding"
      label="Cash is rounded to"
      :items="[
        { value: 0, title: 'nothing: all coins are in use' },
        { value: 5, title: '0.05' },
        { value: 10, title: '0.10' },
        { value: 50, title: '0.50' },
        { value: 100, title: '1.00' },
      ]"
      :error-messages="wrong.cashRounding"
    />
    <v-text-field
      v-model="settings.giftCardMonths"
      label="New gift cards expire after so many months (empty: never)"
      inputmode="numeric"
      :error-messages="wrong.giftCardMonths"
    />
    <v-text-field
      v-model="settings.dormantMonths"
      label="Dormant after so many months without use (empty: never)"
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
