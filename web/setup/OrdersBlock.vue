<script setup lang="ts">
import { computed } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { ORDER_PAYS, type OrderPay } from '../../core/promises/order.ts';
import CountField from '../look/CountField.vue';
import MoneyField from '../look/MoneyField.vue';
import RateField from '../look/RateField.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import SettingsForm from './SettingsForm.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';
import WordButton from '../look/WordButton.vue';

const { facts } = defineProps<{ facts: SetupFacts }>();

/** A zone as it is typed. */
interface ZoneForm {
  name: string;
  /** Beginnings of postcodes, with commas between them. */
  postcodes: string;
  steps: { upTo: number | null; fee: number }[];
}

const setup = useSetupStore();
const notices = useNoticeStore();
const { attempt } = useAttempt();
const { form, wrong, remembered, keep } = useSettingsForm(
  'Orders',
  () => setup.facts,
  ({ orders: { zones, leadMinutes, usualWeight, ...rest } }) => ({
    ...rest,
    leadMinutes: leadMinutes as number | null,
    usualWeight: usualWeight as number | null,
    zones: zones.map(({ name, postcodes, steps }): ZoneForm => ({
      name,
      postcodes: postcodes.join(', '),
      steps: steps.map((step) => ({ ...step })),
    })),
  }),
);
const PAYS = (Object.keys(ORDER_PAYS) as OrderPay[]).map((value) => ({ value, title: ORDER_PAYS[value] }));
const calendar = computed(() => `${location.origin}/api/calendar/${facts.calendarKey}.ics`);

const addZone = () => form.zones.push({ name: '', postcodes: '', steps: [{ upTo: null, fee: 0 }] });
const addStep = (zone: ZoneForm) => zone.steps.push({ upTo: null, fee: 0 });

async function save(): Promise<void> {
  const { leadMinutes: lead, usualWeight: weight } = form;
  const whole = (value: number | null) => value !== null && !Number.isNaN(value);
  const steps = form.zones.flatMap((zone) => zone.steps);
  wrong.value = {
    ...(Number.isNaN(form.leastDeposit) && { leastDeposit: 'Type a rate from 0 to 100 %.' }),
    ...(!whole(lead) && { leadMinutes: 'How many minutes?' }),
    ...(!whole(weight) && { usualWeight: 'How many grams?' }),
    ...(steps.some(({ upTo, fee }) => !whole(upTo) || Number.isNaN(fee)) && {
      zones: 'Type a weight and an amount in each row.',
    }),
  };
  if (Object.keys(wrong.value).length > 0) return;
  const wanted = {
    ...form,
    leadMinutes: lead ?? 0,
    usualWeight: weight ?? 0,
    zones: form.zones.map(({ name, postcodes, steps: rows }) => ({
      name,
      postcodes: postcodes
        .split(',')
        .map((one) => one.trim())
        .filter(Boolean),
      steps: rows.map(({ upTo, fee }) => ({ upTo: upTo ?? 0, fee })),
    })),
  };
  await keep((seen) => setup.saveOrders(wanted, seen), 'Orders are set.');
}
const zoneWrong = computed(() =>
  Object.entries(wrong.value)
    .filter(([field]) => field.startsWith('zones'))
    .map(([, words]) => words)
    .join(' '),
);

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(calendar.value);
  notices.say('The address is copied.');
}
const renew = () =>
  attempt(setup.renewCalendar(), 'The calendar has another address; the one before is dead.');
</script>

<template>
  <SettingsForm :remembered title="Orders" @save="save">
    <v-select v-model="form.pay" :items="PAYS" label="Paid when an order is placed" />
    <RateField
      v-if="form.pay === 'deposit'"
      v-model="form.leastDeposit"
      label="Least deposit"
      :wrong="wrong.leastDeposit"
    />
    <CountField v-model="form.leadMinutes" label="Goods are ready after minutes" :wrong="wrong.leadMinutes" />
    <CountField
      v-model="form.usualWeight"
      label="An item of unknown weight has grams"
      :wrong="wrong.usualWeight"
    />
    <v-select
      v-model="form.shippingTaxCategoryId"
      :items="facts.taxCategories"
      item-title="name"
      item-value="id"
      label="Shipping is taxed as"
      :error-messages="wrong.shippingTaxCategoryId"
    />
    <div class="whole">
      <h3 class="label">Where the shop ships to</h3>
      <fieldset v-for="(zone, at) in form.zones" :key="at" class="zone-form">
        <legend class="hidden-text">{{ zone.name || 'New zone' }}</legend>
        <div class="named">
          <v-text-field v-model="zone.name" label="Zone" maxlength="40" />
          <v-text-field
            v-model="zone.postcodes"
            label="Postcodes begin with"
            placeholder="everywhere else"
            persistent-placeholder
          />
          <v-btn @click="form.zones.splice(at, 1)">Remove zone</v-btn>
        </div>
        <div v-for="(step, nth) in zone.steps" :key="nth" class="step">
          <CountField v-model="step.upTo" label="Up to grams" />
          <MoneyField v-model="step.fee" label="Fee" />
          <v-btn :disabled="zone.steps.length === 1" @click="zone.steps.splice(nth, 1)">Remove</v-btn>
        </div>
        <WordButton @click="addStep(zone)">Another weight</WordButton>
      </fieldset>
      <p v-if="zoneWrong" class="bad" role="alert">{{ zoneWrong }}</p>
      <WordButton @click="addZone">Another zone</WordButton>
      <h3 class="label">Calendar of collections</h3>
      <p class="soft">
        Calendar programs subscribe to this address. Whoever knows it sees what is collected when; no customer
        is named.
      </p>
      <v-text-field :model-value="calendar" label="Address" readonly />
      <div class="acts">
        <v-btn @click="copy">Copy it</v-btn>
        <v-btn @click="renew">Another address</v-btn>
      </div>
    </div>
  </SettingsForm>
</template>

<style scoped>
.whole {
  grid-column: 1 / -1;
  display: grid;
  gap: 12px;
  justify-items: start;
}
.whole > .v-text-field {
  width: 100%;
}
.zone-form {
  width: 100%;
  display: grid;
  gap: 12px;
  justify-items: start;
  border: 0;
  border-left: 8px solid var(--line, var(--soft));
  padding: 4px 0 8px 14px;
}
.named,
.step {
  width: 100%;
}
.named {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
}
.step {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
