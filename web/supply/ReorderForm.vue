<script setup lang="ts">
import { reactive, useTemplateRef } from 'vue';
import type { ItemSupply } from '../../contract/supply.ts';
import FormPanel from '../look/FormPanel.vue';
import QuantityField from '../look/QuantityField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
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
const { wrong, whole, busy, send } = useFormAnswer(panel);

const odd = (quantity: number | null) => Number.isNaN(quantity) && 'Type a number.';
const accept = () =>
  send({ point: odd(form.point), target: odd(form.target) }, async () => {
    const { placeId, point, target } = at;
    await store.putReorder(itemId, { placeId, ...form, seen: { point, target } });
    emit('leave');
  });
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
