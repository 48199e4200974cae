<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { LayerView } from '../../contract/supply.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useItemSupplyStore } from './itemSupplyStore.ts';

/** What goods turn out to have cost: what of them was sold follows, today. */
const { layer } = defineProps<{ layer: LayerView; unit: string }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemSupplyStore();
const panel = useTemplateRef('panel');
const cost = ref<number | null>(layer.known ? layer.cost : null);
const why = ref('');
const typed = reactive({ cost, why });
const { wrong, whole, busy, send } = useFormAnswer(panel);

const accept = () =>
  send({ cost: (cost.value === null || Number.isNaN(cost.value)) && 'What did it cost?' }, async () => {
    await store.correctCost(layer, cost.value ?? 0, why.value);
    emit('leave');
  });
</script>

<template>
  <FormPanel
    ref="panel"
    title="Correct the cost"
    done="It cost that"
    :busy
    :wrong="whole"
    :remembers="`cost of ${layer.id}`"
    :fields="typed"
    @accept="accept"
    @leave="emit('leave')"
  >
    <p>
      {{ quantityWords(layer.quantity, unit) }} came to {{ layer.place }}.
      <b v-if="!layer.known">Nobody knows yet what they cost.</b>
    </p>
    <MoneyField
      v-model="cost"
      :label="`All ${quantityWords(layer.quantity, unit)} together cost`"
      :wrong="wrong.cost"
    />
    <v-text-field v-model="why" label="Why" autocomplete="off" :error-messages="wrong.why" />
    <p class="soft">What was sold of them costs more or less from today; days that are closed stand.</p>
  </FormPanel>
</template>
