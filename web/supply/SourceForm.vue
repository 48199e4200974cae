<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { ItemSupply } from '../../contract/supply.ts';
import { ONE } from '../../core/quantity.ts';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import QuantityField from '../look/QuantityField.vue';
import { formProblems } from '../net/problem.ts';
import { useItemSupplyStore } from './itemSupplyStore.ts';

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
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

async function attempt(work: () => Promise<void>): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  busy.value = true;
  try {
    await work();
    emit('leave');
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}
async function accept(): Promise<void> {
  const { supplierId, cost, pack, least } = form;
  const missing: Record<string, string> = {
    ...(supplierId === null && { supplierId: 'From whom?' }),
    ...(Number.isNaN(cost) && { cost: 'Type an amount.' }),
    ...(!((pack ?? 0) > 0) && { pack: 'At least one.' }),
    ...(Number.isNaN(least) && { least: 'Type a number.' }),
  };
  if (supplierId === null || Object.keys(missing).length > 0) {
    wrong.value = missing;
    return panel.value?.focusWrong();
  }
  await attempt(() => store.putSource(itemId, { ...form, supplierId, pack: pack ?? ONE, least: least ?? 0 }));
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="source ? source.supplier : 'From whom it comes'"
    done="Keep"
    :busy
    :wrong="whole"
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
      <button
        v-if="source"
        type="button"
        class="word"
        @click="attempt(() => store.dropSource(itemId, source?.supplierId ?? 0))"
      >
        It does not come from them any more
      </button>
    </template>
  </FormPanel>
</template>
