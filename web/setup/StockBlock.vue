<script setup lang="ts">
import type { SetupFacts } from '../../contract/setup.ts';
import { ROLES } from '../../core/staff/rights.ts';
import MoneyField from '../look/MoneyField.vue';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const {
  form: limits,
  wrong,
  remembered,
  keep,
} = useSettingsForm(
  'Stock',
  () => setup.facts,
  ({ stockLimits }) => ({ ...stockLimits }),
);

async function save(): Promise<void> {
  wrong.value = Object.fromEntries(
    ROLES.flatMap((role) =>
      Number.isNaN(limits[role]) ? [[`limits.${role}`, 'Type an amount, or nothing.']] : [],
    ),
  );
  if (Object.keys(wrong.value).length > 0) return;
  await keep(
    (seen) => setup.saveStockLimits({ ...limits }, seen),
    'The limits for putting stock right are set.',
  );
}
</script>

<template>
  <SettingsForm :remembered title="Stock" @save="save">
    <p class="soft">
      What each role puts right or books alone, by what it cost. Above it, somebody who may approves it.
    </p>
    <MoneyField
      v-for="role in ROLES"
      :key="role"
      v-model="limits[role]"
      optional
      none="any"
      :label="`Stock put right up to, ${role}`"
      :wrong="wrong[`limits.${role}`]"
    />
  </SettingsForm>
</template>
