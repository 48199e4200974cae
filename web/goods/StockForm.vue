<script setup lang="ts">
import { computed, reactive, ref, useTemplateRef } from 'vue';
import type { ItemPage } from '../../contract/goods.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { BY_HAND, type ReasonByHand } from '../../core/goods/stockReasons.ts';
import { ONE, parseQuantity } from '../../core/quantity.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { formProblems } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** Stock that is put right by hand: how much, which way, and why. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const notices = useNoticeStore();
const panel = useTemplateRef('panel');
const form = reactive({
  placeId: page.stock.find(({ here }) => here)?.placeId ?? page.stock[0]?.placeId ?? 0,
  reason: 'found' as ReasonByHand,
  quantity: '',
  serials: [] as string[],
  words: '',
  unitCost: page.record.cost,
});
useScans(
  (serial) => {
    if (!form.serials.includes(serial)) form.serials = [...form.serials, serial];
  },
  () => page.record.serials,
);
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
const { record } = page;
const places = page.stock.map(({ placeId, place, onHand }) => ({
  value: placeId,
  words: place,
  figures: quantityWords(onHand, record.unit),
}));
const reasons = Object.entries(BY_HAND).map(([value, { words, sign }]) => ({
  value: value as ReasonByHand,
  words: `${words} ${sign > 0 ? '+' : '−'}`,
}));
const quantity = computed(() =>
  record.serials ? form.serials.length * ONE : parseQuantity(form.quantity, record.decimals),
);
const becomes = computed(() => {
  const had = page.stock.find(({ placeId }) => placeId === form.placeId)?.onHand ?? 0;
  const typed = quantity.value;
  return typed === null || typed <= 0 ? null : had + BY_HAND[form.reason].sign * typed;
});

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  if (quantity.value === null || quantity.value <= 0) {
    wrong.value = record.serials ? { serials: 'Which ones?' } : { quantity: 'How many?' };
    return panel.value?.focusWrong();
  }
  const unitCost = BY_HAND[form.reason].sign > 0 ? form.unitCost : null;
  if (Number.isNaN(unitCost)) {
    wrong.value = { unitCost: 'Type an amount.' };
    return panel.value?.focusWrong();
  }
  busy.value = true;
  try {
    await store.moveStock(page, { ...form, quantity: quantity.value, unitCost });
    notices.say(`${record.name}: stock is put right.`);
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
    title="Put stock right"
    :done="becomes === null ? 'Put it right' : `Then ${quantityWords(becomes, record.unit)} are there`"
    :busy
    :wrong="whole"
    @accept="accept"
    @leave="emit('leave')"
  >
    <ChipChoice v-if="places.length > 1" v-model="form.placeId" label="Where" :options="places" />
    <ChipChoice v-model="form.reason" label="What happened" :options="reasons" />
    <v-combobox
      v-if="record.serials"
      v-model="form.serials"
      label="Serial numbers"
      multiple
      chips
      closable-chips
      :error-messages="wrong.serials ?? wrong.quantity"
    />
    <BigField
      v-else
      v-model="form.quantity"
      label="How many"
      kind="figure"
      maxlength="12"
      :wrong="wrong.quantity"
    />
    <MoneyField
      v-if="BY_HAND[form.reason].sign > 0"
      v-model="form.unitCost"
      optional
      label="A unit costs"
      none="not known"
      :wrong="wrong.unitCost"
    />
    <v-text-field v-model="form.words" label="What else there is to say" maxlength="200" />
  </FormPanel>
</template>
