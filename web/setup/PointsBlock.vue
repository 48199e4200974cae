<script setup lang="ts">
import type { SetupFacts } from '../../contract/setup.ts';
import CountField from '../look/CountField.vue';
import { pointWorth, thousandWorth } from '../../core/people/loyalty.ts';
import MoneyField from '../look/MoneyField.vue';
import RateField from '../look/RateField.vue';
import MorePoints from './MorePoints.vue';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { form, wrong, remembered, keep } = useSettingsForm(
  'Points',
  () => setup.facts,
  ({ points: { worth, ...rest } }) => ({ ...rest, thousand: thousandWorth(worth) }),
);

async function save(): Promise<void> {
  wrong.value = {
    ...(Number.isNaN(form.per) && { per: 'Type an amount.' }),
    ...(Number.isNaN(form.thousand) && { worth: 'Type an amount.' }),
    ...(Number.isNaN(form.use) && { use: 'From 0 to 100 %.' }),
    ...(Number.isNaN(form.offPoints) && { offPoints: 'How many points are a step?' }),
    ...(Number.isNaN(form.offAmount) && { offAmount: 'Type an amount.' }),
    ...(Number.isNaN(form.offMost) && { offMost: 'From 0 to 100 %.' }),
    ...(Number.isNaN(form.given) && { given: 'How many points?' }),
    ...(Number.isNaN(form.months) && { months: 'From 0 to 120.' }),
    ...(Number.isNaN(form.backDays) && { backDays: 'From 1 to 366.' }),
    ...(Number.isNaN(form.joinDays) && { joinDays: 'From 0 to 366.' }),
  };
  if (Object.keys(wrong.value).length > 0) return;
  const { thousand, ...programme } = form;
  const wanted = { ...programme, worth: pointWorth(thousand) };
  await keep((seen) => setup.savePoints(wanted, seen), 'Points are set. What was earned so far stays.');
}
</script>

<template>
  <div class="parts-of">
    <SettingsForm :remembered title="Points" @save="save">
      <v-checkbox v-model="form.on" label="The shop gives points for what customers buy" hide-details />
      <v-text-field v-model="form.word" label="They are called" maxlength="20" :error-messages="wrong.word" />
      <CountField v-model="form.given" label="So many points" :wrong="wrong.given" />
      <MoneyField v-model="form.per" label="For each" :wrong="wrong.per" />
      <CountField
        v-model="form.months"
        label="They end after so many months (0: never)"
        :wrong="wrong.months"
      />
      <CountField
        v-model="form.backDays"
        label="What comes back late can be used for days"
        :wrong="wrong.backDays"
      />
      <CountField
        v-model="form.joinDays"
        label="Who joins within days gets the points of a sale"
        :wrong="wrong.joinDays"
      />
      <MoneyField
        v-model="form.thousand"
        label="A thousand points are worth in the books"
        :wrong="wrong.worth"
      />
      <RateField v-model="form.use" label="Of them are expected to be used" :wrong="wrong.use" />
      <CountField
        v-model="form.offPoints"
        label="Money off in steps of so many points (0: none)"
        :wrong="wrong.offPoints"
      />
      <MoneyField v-model="form.offAmount" label="Each step takes off" :wrong="wrong.offAmount" />
      <RateField v-model="form.offMost" label="Points pay at most, of the goods" :wrong="wrong.offMost" />
    </SettingsForm>
    <MorePoints :facts="facts" />
  </div>
</template>

<style scoped>
.parts-of {
  display: grid;
  gap: 18px;
}
</style>
