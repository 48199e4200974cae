<script setup lang="ts">
import TimeField from '../look/TimeField.vue';
import { WEEKDAYS } from '../../core/locale.ts';
import type { Partner } from '../../core/promises/relay.ts';
import RateField from '../look/RateField.vue';
import { useTillStore } from '../shop/tillStore.ts';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

/** A partner: where it delivers, until when it takes orders, and what its part is; nothing is a new one. */
const { partner: shown } = defineProps<{ partner: Partner | null }>();
const setup = useSetupStore();
const till = useTillStore();
const { form, wrong, remembered, keep } = useSettingsForm(
  shown?.name ?? 'A new partner',
  () => setup.facts,
  ({ partners }) => {
    const partner = partners.find(({ id }) => id === shown?.id);
    return {
      code: partner?.code ?? '',
      name: partner?.name ?? '',
      city: partner?.city ?? '',
      phone: partner?.phone ?? '',
      postcodes: partner?.postcodes.join(', ') ?? '',
      timezone: partner?.timezone ?? till.facts?.shop.timezone ?? '',
      takes: partner?.takes ?? '',
      rate: partner?.rate ?? 800_000,
      active: partner?.active ?? true,
      days: WEEKDAYS.map((_day, nth) => ({
        open: partner ? (partner.cutOffs[nth] ?? null) !== null : nth < 5,
        until: partner?.cutOffs[nth] ?? '14:00',
      })),
    };
  },
);

async function save(): Promise<void> {
  wrong.value = Number.isNaN(form.rate) ? { rate: 'Type a rate from 0 to 100 %.' } : {};
  if (Object.keys(wrong.value).length > 0) return;
  const { days, postcodes, ...rest } = form;
  const settings = {
    ...rest,
    postcodes: postcodes
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean),
    cutOffs: days.map(({ open, until }) => (open ? until : null)),
  };
  const id = shown?.id ?? null;
  await keep((seen) => setup.savePartner(id, settings, seen), `${form.name} is set.`);
}
</script>

<template>
  <SettingsForm :remembered :title="partner?.name ?? 'A new partner'" @save="save">
    <v-text-field v-model="form.code" label="Code" maxlength="12" :error-messages="wrong.code" />
    <v-text-field v-model="form.name" label="Name" maxlength="80" :error-messages="wrong.name" />
    <v-text-field v-model="form.city" label="Town" maxlength="80" :error-messages="wrong.city" />
    <v-text-field v-model="form.phone" label="Telephone" maxlength="40" :error-messages="wrong.phone" />
    <v-text-field
      v-model="form.postcodes"
      label="Delivers where postcodes begin with"
      placeholder="everywhere"
      persistent-placeholder
      :error-messages="wrong.postcodes"
    />
    <v-text-field
      v-model="form.timezone"
      label="Time zone"
      placeholder="America/New_York"
      :error-messages="wrong.timezone"
    />
    <v-text-field v-model="form.takes" label="What it takes" maxlength="200" :error-messages="wrong.takes" />
    <RateField v-model="form.rate" label="Its part of the price" :wrong="wrong.rate" />
    <v-checkbox v-model="form.active" label="It is asked" hide-details />
    <div class="whole">
      <h3 class="label">Takes orders for the same day until</h3>
      <div class="days">
        <div v-for="(one, nth) in form.days" :key="nth" class="day">
          <v-checkbox v-model="one.open" :label="WEEKDAYS[nth]" hide-details />
          <TimeField
            v-model="one.until"
            :disabled="!one.open"
            :label="`${WEEKDAYS[nth]}, until`"
            :wrong="wrong[`cutOffs[${nth}]`]"
          />
        </div>
      </div>
    </div>
  </SettingsForm>
</template>

<style scoped>
.whole {
  grid-column: 1 / -1;
  display: grid;
  gap: 10px;
}
.days {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 8px 18px;
}
.day {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: center;
  gap: 8px;
}
</style>
