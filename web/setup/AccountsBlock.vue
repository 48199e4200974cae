<script setup lang="ts">
import type { SetupFacts } from '../../contract/setup.ts';
import CountField from '../look/CountField.vue';
import MoneyField from '../look/MoneyField.vue';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { form, wrong, remembered, keep } = useSettingsForm(
  'House accounts',
  () => setup.facts,
  ({ accounts: { reminders, ...rest } }) => ({ ...rest, days: reminders.join(', ') }),
);
const SHEETS = [
  { value: 'A4', title: 'A4, for a window on the left' },
  { value: 'LETTER', title: 'Letter, folded in three for a number 10 envelope' },
] as const;

async function save(): Promise<void> {
  const typed = form.days.split(/[\s,;]+/).filter(Boolean);
  const after = typed.map(Number);
  wrong.value = {
    ...(Number.isNaN(form.limit) && { limit: 'Type an amount.' }),
    ...(Number.isNaN(form.daysToPay) && { daysToPay: 'From 0 to 366.' }),
    ...(after.some((one) => !Number.isInteger(one)) && { reminders: 'Days with commas: 7, 21, 42.' }),
  };
  if (Object.keys(wrong.value).length > 0) return;
  const { days: _typed, ...rest } = form;
  await keep((seen) => setup.saveAccounts({ ...rest, reminders: after }, seen), 'House accounts are set.');
}
</script>

<template>
  <SettingsForm :remembered title="House accounts" @save="save">
    <MoneyField v-model="form.limit" label="Limit of a new account" :wrong="wrong.limit" />
    <CountField v-model="form.daysToPay" label="Days to pay" :wrong="wrong.daysToPay" />
    <v-select
      v-model="form.sheet"
      :items="SHEETS"
      label="Sheets that statements are written on"
      :error-messages="wrong.sheet"
    />
    <v-textarea
      v-model="form.howToPay"
      label="How to pay"
      hint="{number} stands for the number of the account."
      persistent-hint
      rows="2"
      auto-grow
      maxlength="300"
      :error-messages="wrong.howToPay"
    />
    <v-text-field
      v-model="form.days"
      label="Days overdue after which reminders go out"
      placeholder="7, 21, 42"
      persistent-placeholder
      :error-messages="wrong.reminders"
    />
    <v-checkbox v-model="form.byItself" label="Reminders go out every night by themselves" hide-details />
  </SettingsForm>
</template>
