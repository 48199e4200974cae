<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { SupplierPage, WantedSupplier } from '../../contract/supply.ts';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formProblems } from '../net/problem.ts';
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
const FIELDS = [
  ['contact', 'Whom to speak to'],
  ['email', 'Mail for orders'],
  ['phone', 'Telephone'],
  ['street', 'Street'],
  ['postcode', 'Postcode'],
  ['city', 'City'],
  ['account', 'Our number with them'],
] as const;
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  const { daysToPay, leadDays } = form;
  if (daysToPay === null || leadDays === null || Number.isNaN(daysToPay) || Number.isNaN(leadDays)) {
    wrong.value = { [Number.isNaN(leadDays) ? 'leadDays' : 'daysToPay']: 'Type a number of days.' };
    return panel.value?.focusWrong();
  }
  busy.value = true;
  try {
    const wanted = { ...form, daysToPay, leadDays };
    if (page) {
      await store.saveSupplier(page, wanted);
      emit('done', page.id);
    } else emit('done', await store.addSupplier(wanted));
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    wrong.value = Object.fromEntries(
      Object.entries(fields).map(([field, words]) => [field.replace(/^supplier\./, ''), words]),
    );
    whole.value = other;
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="page ? 'Change the supplier' : 'New supplier'"
    :done="page ? 'Keep' : 'Add'"
    :busy
    :wrong="whole"
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
