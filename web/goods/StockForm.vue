<script setup lang="ts">
import { computed, reactive, useTemplateRef } from 'vue';
import type { ItemPage } from '../../contract/goods.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { BY_HAND, type ReasonByHand } from '../../core/goods/stockReasons.ts';
import { ONE, parseQuantity } from '../../core/quantity.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import MoneyField from '../look/MoneyField.vue';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** Stock that is put right by hand: how much, which way, and why. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const notices = useNoticeStore();
const countersigns = useCountersignStore();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);
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

const accept = () =>
  send(
    {
      serials: record.serials && form.serials.length === 0 && 'Which ones?',
      quantity: !record.serials && !((quantity.value ?? 0) > 0) && 'How many?',
      unitCost: BY_HAND[form.reason].sign > 0 && Number.isNaN(form.unitCost) && 'Type an amount.',
    },
    async () => {
      const wanted = {
        ...form,
        quantity: quantity.value ?? 0,
        unitCost: BY_HAND[form.reason].sign > 0 ? form.unitCost : null,
      };
      const about = `${BY_HAND[form.reason].words}, ${record.name}`;
      const done = await countersigns.approved(about, (approval) =>
        store.moveStock(page, { ...wanted, approval }),
      );
      if (!done) return;
      notices.say(`${record.name}: stock is put right.`);
      emit('leave');
    },
  );
</script>

<template>
  <CountersignPane v-if="countersigns.asking" />
  <FormPanel
    v-show="!countersigns.asking"
    ref="panel"
    title="Put stock right"
    :done="becomes === null ? 'Put it right' : `Then ${quantityWords(becomes, record.unit)} are there`"
    :busy
    :wrong="whole"
    :remembers="`stock of ${page.id}`"
    :fields="form"
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
