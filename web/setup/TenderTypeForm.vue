<script setup lang="ts">
import { onMounted, useTemplateRef } from 'vue';
import type { NewTenderType } from '../../contract/payment.ts';
import { CURRENCIES } from '../../core/payment/currency.ts';
import { TENDER_KINDS, type TenderKind } from '../../core/payment/tenderKinds.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { formatFactor, parseFactor } from '../../core/rate.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useSettingsForm } from './settingsForm.ts';

/** A means of payment that is changed; nothing is a new one. */
const { shown } = defineProps<{ shown: TenderType | null }>();
const emit = defineEmits<{ done: [] }>();

const setup = usePaymentSetupStore();
const till = useTillStore();
const {
  form: type,
  wrong,
  remembered,
  keep,
} = useSettingsForm(
  shown?.name ?? 'A new means of payment',
  () => setup.facts,
  ({ types }) => {
    const one = types.find(({ id }) => id === shown?.id);
    return {
      name: one?.name ?? '',
      kind: one?.kind ?? ('voucher' as TenderKind),
      active: one?.active ?? true,
      reference: one?.reference ?? '',
      counted: one?.counted ?? true,
      opensDrawer: one?.opensDrawer ?? true,
      foreignCurrency: one?.foreign?.currency ?? '',
      rate: one?.foreign ? formatFactor(one.foreign.rate) : '',
    };
  },
);

const form = useTemplateRef('form');
// The list above it is long.
onMounted(() => form.value?.scrollIntoView({ block: 'nearest' }));

const asSent = ({ rate, ...rest }: typeof type): NewTenderType => ({
  ...rest,
  foreignRate: rest.kind === 'foreign-cash' ? parseFactor(rate) : null,
});

async function save(): Promise<void> {
  const wanted = asSent(type);
  const work = (seen: number) => (shown ? setup.changeType(shown.id, wanted, seen) : setup.addType(wanted));
  if (await keep(work, `${wanted.name} is kept.`)) emit('done');
}
</script>

<template>
  <form ref="form" class="fields" novalidate @submit.prevent="save">
    <TypedBefore :of="remembered" />
    <v-text-field v-model="type.name" label="Name" :error-messages="wrong.name" />
    <v-select
      v-model="type.kind"
      label="What it is"
      :disabled="shown !== null"
      :items="
        Object.entries(TENDER_KINDS)
          .filter(([, { onlyOnce }]) => shown !== null || !onlyOnce)
          .map(([value, { words }]) => ({ value, title: words }))
      "
      :error-messages="wrong.kind"
    />
    <v-text-field
      v-model="type.reference"
      label="Asks for, e.g. Cheque number (empty: nothing)"
      :error-messages="wrong.reference"
    />
    <template v-if="type.kind === 'foreign-cash'">
      <v-autocomplete
        v-model="type.foreignCurrency"
        label="Currency"
        :items="
          CURRENCIES.filter(({ code }) => code !== till.facts?.currency.code).map(({ code, name }) => ({
            value: code,
            title: `${code} ${name}`,
          }))
        "
        :error-messages="wrong.foreignCurrency"
      />
      <v-text-field
        v-model="type.rate"
        label="One of it is worth"
        inputmode="decimal"
        :error-messages="wrong.foreignRate"
      />
    </template>
    <div class="checks">
      <v-checkbox v-model="type.active" label="Taken" hide-details />
      <v-checkbox v-model="type.counted" label="Counted at close" hide-details />
      <v-checkbox v-model="type.opensDrawer" label="Opens the drawer" hide-details />
      <p v-if="wrong.active" class="bad">{{ wrong.active }}</p>
    </div>
    <div class="acts">
      <v-btn @click="emit('done')">Cancel</v-btn>
      <v-btn class="go" type="submit">Keep it</v-btn>
    </div>
  </form>
</template>

<style scoped>
.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
</style>
