<script setup lang="ts">
import CountField from '../look/CountField.vue';
import type { AfterSaleSettings, SetupFacts } from '../../contract/setup.ts';
import { plainMoney, parseMoney } from '../../core/money.ts';
import { ROLES, type Role } from '../../core/staff/rights.ts';
import { useTillStore } from '../shop/tillStore.ts';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

defineProps<{ facts: SetupFacts }>();

const RESTS = [
  { value: 'cash', title: 'In cash' },
  { value: 'store-credit', title: 'As store credit' },
];

const setup = useSetupStore();
const till = useTillStore();
const typed = (amount: number | null) => (amount === null ? '' : plainMoney(amount, till.digits));
const { form, wrong, remembered, keep } = useSettingsForm(
  'Returns and the end of the shift',
  () => setup.facts,
  ({ afterSale: { refundLimits, ...settings } }) => ({
    ...settings,
    dropAbove: typed(settings.dropAbove),
    shortLimit: typed(settings.shortLimit),
    limits: Object.fromEntries(ROLES.map((role) => [role, typed(refundLimits[role])])) as Record<
      Role,
      string
    >,
  }),
);

async function save(): Promise<void> {
  const { limits, ...rest } = form;
  const amounts = {
    dropAbove: parseMoney(form.dropAbove, till.digits),
    shortLimit: parseMoney(form.shortLimit, till.digits),
  };
  const given = ROLES.map(
    (role) => [role, limits[role].trim() ? parseMoney(limits[role], till.digits) : null] as const,
  );
  const bad = {
    ...(amounts.dropAbove === null ? { dropAbove: `Type an amount, for example ${till.example(800)}.` } : {}),
    ...(amounts.shortLimit === null
      ? { shortLimit: `Type an amount, for example ${till.example(10)}.` }
      : {}),
    ...Object.fromEntries(
      given
        .filter(([role, amount]) => limits[role].trim() && amount === null)
        .map(([role]) => [`refundLimits.${role}`, 'Type an amount, or nothing.']),
    ),
  };
  if (amounts.dropAbove === null || amounts.shortLimit === null || Object.keys(bad).length > 0) {
    wrong.value = bad;
    return;
  }
  const wanted = {
    ...rest,
    dropAbove: amounts.dropAbove,
    shortLimit: amounts.shortLimit,
    refundLimits: Object.fromEntries(given),
  } as AfterSaleSettings;
  await keep((seen) => setup.saveAfterSale(wanted, seen), 'Returns and the end of the shift are set.');
}
</script>

<template>
  <SettingsForm :remembered title="Returns and the end of the shift" @save="save">
    <CountField v-model="form.returnDays" label="Goods come back within days" :wrong="wrong.returnDays" />
    <v-select v-model="form.refundRest" :items="RESTS" label="What was not paid electronically goes back" />
    <CountField
      v-model="form.noReceiptDays"
      label="Without a receipt: lowest price of days"
      :wrong="wrong.noReceiptDays"
    />
    <CountField
      v-model="form.noReceiptWarning"
      label="Warn from so many without a receipt"
      :wrong="wrong.noReceiptWarning"
    />
    <v-text-field
      v-for="role in ROLES"
      :key="role"
      v-model="form.limits[role]"
      :label="`Refunds up to, ${role} (empty: any)`"
      :error-messages="wrong[`refundLimits.${role}`]"
    />
    <v-text-field
      v-model="form.dropAbove"
      label="Suggest a safe drop above (0: never)"
      :error-messages="wrong.dropAbove"
    />
    <v-text-field
      v-model="form.shortLimit"
      label="Managers hear of a shortage above"
      :error-messages="wrong.shortLimit"
    />
    <v-text-field v-model="form.managersMail" label="Managers' mail" :error-messages="wrong.managersMail" />
    <v-checkbox
      v-model="form.blindCount"
      label="Count the drawer without seeing what is expected"
      hide-details
    />
    <v-checkbox
      v-model="form.openAsLeft"
      label="A drawer may be opened as it was left, without counting"
      hide-details
    />
    <v-checkbox
      v-model="form.countAsTotal"
      label="The drawer may be counted as one total at the end"
      hide-details
    />
  </SettingsForm>
</template>
