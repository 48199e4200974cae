<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { ItemSupply } from '../../contract/supply.ts';
import FormPanel from '../look/FormPanel.vue';
import QuantityField from '../look/QuantityField.vue';
import { formProblems } from '../net/problem.ts';
import { useItemSupplyStore } from './itemSupplyStore.ts';

/** When an item is ordered again for a place, and up to how much; with nothing typed it is not. */
const { itemId, at } = defineProps<{
  itemId: number;
  at: ItemSupply['reorder'][number];
  decimals: number;
}>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemSupplyStore();
const panel = useTemplateRef('panel');
const form = reactive({ point: at.point, target: at.target });
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  const bad = (['point', 'target'] as const).filter((field) => Number.isNaN(form[field]));
  if (bad.length > 0) {
    wrong.value = Object.fromEntries(bad.map((field) => [field, 'Type a number.']));
    return panel.value?.focusWrong();
  }
  busy.value = true;
  try {
    await store.putReorder(itemId, { placeId: at.placeId, ...form });
    emit('leave');
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="`Ordered again for ${at.place}`"
    done="Keep"
    :busy
    :wrong="whole"
    @accept="accept"
    @leave="emit('leave')"
  >
    <QuantityField v-model="form.point" label="Below" :decimals :wrong="wrong.point" />
    <QuantityField v-model="form.target" label="Up to" :decimals :wrong="wrong.target" />
  </FormPanel>
</template>
