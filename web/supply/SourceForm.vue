<script setup lang="ts">
import { reactive, useTemplateRef } from 'vue';
import type { ItemSupply } from '../../contract/supply.ts';
import { ONE } from '../../core/quantity.ts';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import QuantityField from '../look/QuantityField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useItemSupplyStore } from './itemSupplyStore.ts';
import WordButton from '../look/WordButton.vue';

/** From whom an item comes, and on what terms. */
const { itemId, source = undefined } = defineProps<{
  itemId: number;
  known: ItemSupply['known'];
  decimals: number;
  source?: ItemSupply['suppliers'][number] | undefined;
}>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemSupplyStore();
const panel = useTemplateRef('panel');
const form = reactive({
  supplierId: source?.supplierId ?? null,
  theirNumber: source?.theirNumber ?? '',
  cost: source?.cost ?? null,
  pack: (source?.pack ?? ONE) as number | null,
  least: (source?.least || null) as number | null,
  first: source?.first ?? false,
});
const { wrong, whole, busy, send } = useFormAnswer(panel);

function accept(): Promise<void> {
  const { supplierId, cost, pack, least } = form;
  const mistakes = {
    supplierId: supplierId === null && 'From whom?',
    cost: Number.isNaN(cost) && 'Type an amount.',
    pack: !((pack ?? 0) > 0) && 'At least one.',
    least: Number.isNaN(least) && 'Type a number.',
  };
  return send(mistakes, async () => {
    const wanted = { ...form, supplierId: supplierId ?? 0, pack: pack ?? ONE, least: least ?? 0 };
    await store.putSource(itemId, wanted);
    emit('leave');
  });
}
const drop = () =>
  send({}, async () => {
    await store.dropSource(itemId, source?.supplierId ?? 0);
    emit('leave');
  });
</script>

<template>
  <FormPanel
    ref="panel"
    :title="source ? source.supplier : 'From whom it comes'"
    done="Keep"
    :busy
    :wrong="whole"
    :remembers="`source ${itemId} ${source?.supplierId ?? 0}`"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <v-autocomplete
      v-if="!source"
      v-model="form.supplierId"
      label="From whom"
      :items="known.map(({ id, name }) => ({ value: id, title: name }))"
      :error-messages="wrong.supplierId"
    />
    <v-text-field
      v-model="form.theirNumber"
      label="Its number with them"
      autocomplete="off"
      :error-messages="wrong.theirNumber"
    />
    <MoneyField v-model="form.cost" optional label="A unit costs" none="not known" :wrong="wrong.cost" />
    <QuantityField v-model="form.pack" label="Comes in packs of" :decimals :wrong="wrong.pack" />
    <QuantityField v-model="form.least" label="They send no less than" :decimals :wrong="wrong.least" />
    <v-checkbox v-model="form.first" label="Ordered from them first" hide-details />
    <template #after>
      <WordButton v-if="source" @click="drop"> It does not come from them any more </WordButton>
    </template>
  </FormPanel>
</template>
