<script setup lang="ts">
import type { SetupFacts } from '../../contract/setup.ts';
import { INTERVALS, type Interval } from '../../core/promises/plan.ts';
import CountField from '../look/CountField.vue';
import MoneyField from '../look/MoneyField.vue';
import RateField from '../look/RateField.vue';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { form, wrong, remembered, keep } = useSettingsForm(
  'Layaways',
  () => setup.facts,
  ({ layaway: { parts, stages, ...rest } }) => ({
    ...rest,
    parts: parts as number | null,
    /** A word on a line each. */
    own: stages.join('\n'),
  }),
);
const INTERVAL_CHOICES = (Object.keys(INTERVALS) as Interval[]).map((value) => ({
  value,
  title: INTERVALS[value],
}));

const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

async function save(): Promise<void> {
  wrong.value = {
    ...(Number.isNaN(form.leastDeposit) && { leastDeposit: 'Type a rate from 0 to 100 %.' }),
    ...(Number.isNaN(form.fee) && { fee: 'Type an amount.' }),
    ...(!form.parts && { parts: 'How many parts?' }),
  };
  if (Object.keys(wrong.value).length > 0 || !form.parts) return;
  const { own, parts, ...rest } = form;
  const wanted = { ...rest, parts, stages: linesOf(own) };
  await keep((seen) => setup.saveLayaway(wanted, seen), 'Layaways are set.');
}
</script>

<template>
  <SettingsForm :remembered title="Layaways" @save="save">
    <RateField v-model="form.leastDeposit" label="Least deposit" :wrong="wrong.leastDeposit" />
    <CountField v-model="form.parts" label="Parts" :wrong="wrong.parts" />
    <v-select v-model="form.interval" :items="INTERVAL_CHOICES" label="A part is due" />
    <MoneyField v-model="form.fee" label="Fee for cancelling" :wrong="wrong.fee" />
    <v-select
      v-model="form.feeTaxCategoryId"
      :items="facts.taxCategories"
      item-title="name"
      item-value="id"
      label="The fee is taxed as"
      :error-messages="wrong.feeTaxCategoryId"
    />
    <v-checkbox
      v-model="form.lower"
      label="Where a price is lower at the handover, it counts (orders, too)"
      hide-details
    />
    <v-textarea
      v-model="form.words"
      label="Terms on the paper of a layaway"
      rows="3"
      maxlength="500"
      :error-messages="wrong.words"
    />
    <v-textarea
      v-model="form.own"
      label="Words of your own for how far one is, a line each"
      rows="2"
      :error-messages="wrong.stages"
    />
  </SettingsForm>
</template>
