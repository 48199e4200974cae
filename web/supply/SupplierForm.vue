<script setup lang="ts">
import { reactive, useTemplateRef } from 'vue';
import type { SupplierPage, WantedSupplier } from '../../contract/supply.ts';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { follow, lookFirst } from '../notices/follow.ts';
import { useSupplyStore } from './supplyStore.ts';

/** Who a supplier is, and on what terms they deliver. */
const { page = undefined } = defineProps<{ page?: SupplierPage }>();
const emit = defineEmits<{ done: [id: number]; leave: [] }>();

const store = useSupplyStore();
const panel = useTemplateRef('panel');
const form = reactive<
  Omit<WantedSupplier, 'daysToPay' | 'leadDays'> & Record<'daysToPay' | 'leadDays', number | null>
>({
  ...(page?.record ?? {
    name: '',
    active: true,
    contact: '',
    email: '',
    phone: '',
    street: '',
    postcode: '',
    city: '',
    account: '',
    daysToPay: 30,
    leadDays: 7,
    words: '',
  }),
});
/** The supplier as it was looked at last; what another one changes is taken over where nobody has touched it here. */
let looked = page;
async function look(): Promise<void> {
  if (!looked) return;
  await store.supplierAgain(looked.id);
  const now = store.supplier;
  if (!now) return;
  follow(form, looked.record, { ...now.record });
  looked = now;
}
const FIELDS = [
  ['contact', 'Whom to speak to'],
  ['email', 'Mail for orders'],
  ['phone', 'Telephone'],
  ['street', 'Street'],
  ['postcode', 'Postcode'],
  ['city', 'City'],
  ['account', 'Our number with them'],
] as const;
const { wrong, whole, busy, send } = useFormAnswer(panel);

const days = (count: number | null) => (count === null || Number.isNaN(count)) && 'Type a number of days.';
function accept(): Promise<void> {
  const { daysToPay, leadDays } = form;
  return send({ daysToPay: days(daysToPay), leadDays: days(leadDays) }, async () => {
    const wanted = { ...form, daysToPay: daysToPay ?? 0, leadDays: leadDays ?? 0 };
    if (looked) await store.saveSupplier(looked, wanted).catch(lookFirst(look));
    emit('done', page ? page.id : await store.addSupplier(wanted));
  });
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="page ? 'Change the supplier' : 'New supplier'"
    :done="page ? 'Keep' : 'Add'"
    :busy
    :wrong="whole"
    :remembers="page ? `supplier ${page.id}` : 'new supplier'"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <v-text-field v-model="form.name" label="Name" autocomplete="off" :error-messages="wrong.name" />
    <v-text-field
      v-for="[field, words] in FIELDS"
      :key="field"
      v-model="form[field]"
      :label="words"
      autocomplete="off"
      :error-messages="wrong[field]"
    />
    <CountField v-model="form.leadDays" label="Days until goods come" :wrong="wrong.leadDays" />
    <CountField v-model="form.daysToPay" label="Days to pay" :wrong="wrong.daysToPay" />
    <v-textarea v-model="form.words" label="Note" rows="2" auto-grow :error-messages="wrong.words" />
    <v-checkbox v-if="page" v-model="form.active" label="Ordered from" hide-details />
  </FormPanel>
</template>
