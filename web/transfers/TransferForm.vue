<script setup lang="ts">
import { computed, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import type { SendableItem, TransferView, TransfersPage } from '../../contract/transfers.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { ONE } from '../../core/quantity.ts';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import LookUp from '../look/LookUp.vue';
import QuantityField from '../look/QuantityField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useScannedGoods } from '../sale/scannedGoods.ts';
import { useTransferStore } from './transferStore.ts';
import WordButton from '../look/WordButton.vue';

/** What is to go from a place to another: scanned, or found by its words. */
const { places } = defineProps<{ places: TransfersPage['places'] }>();
const emit = defineEmits<{ done: [transfer: TransferView]; leave: [] }>();

interface Line extends SendableItem {
  quantity: number | null;
  units: string[];
}
const panel = useTemplateRef('panel');
const store = useTransferStore();
const here = places.find((place) => place.here) ?? places[0];
const fromPlace = ref<number | null>(places.find(({ id }) => id !== here?.id)?.id ?? null);
const toPlace = ref<number | null>(here?.id ?? null);
const words = ref('');
const lines = shallowRef<Line[]>([]);
const typed = reactive({ fromPlace, toPlace, words, lines });
const { wrong, whole, busy, send } = useFormAnswer(panel);
const choices = computed(() => places.map(({ id, name }) => ({ value: id, words: name })));

const put = (itemId: number, part: Partial<Line>) =>
  (lines.value = lines.value.map((line) => (line.itemId === itemId ? { ...line, ...part } : line)));
function add(item: SendableItem): void {
  const had = lines.value.find(({ itemId }) => itemId === item.itemId);
  if (item.serials) {
    const units = [...new Set([...(had?.units ?? []), ...(item.serial ? [item.serial] : [])])];
    if (had) put(item.itemId, { units, quantity: units.length * ONE });
    else lines.value = [...lines.value, { ...item, units, quantity: units.length * ONE }];
  } else if (had) put(item.itemId, { quantity: (had.quantity ?? 0) + ONE });
  else lines.value = [...lines.value, { ...item, units: [], quantity: ONE }];
}
const search = (find: string) => store.findItems(fromPlace.value ?? 0, { find });
const of = ({ itemId, name, number, there, unit }: SendableItem) => ({
  key: itemId,
  name,
  beneath: number,
  figures: `${quantityWords(there, unit)} there`,
});
useScannedGoods((code) => store.findItems(fromPlace.value ?? 0, { code }), add);

async function accept(): Promise<void> {
  const mistakes = Object.fromEntries(
    lines.value.map(({ quantity, serials }, at) => [
      `lines[${at}].quantity`,
      !((quantity ?? 0) > 0) && (serials ? 'Scan the serial number of each unit.' : 'How many?'),
    ]),
  );
  await send(mistakes, async () => {
    const transfer = await store.askFor({
      fromPlace: fromPlace.value ?? 0,
      toPlace: toPlace.value ?? 0,
      words: words.value,
      lines: lines.value.map(({ itemId, quantity, units }) => ({
        itemId,
        quantity: quantity ?? 0,
        serials: units,
      })),
    });
    emit('done', transfer);
  });
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="Goods to another place"
    :done="lines.length > 0 ? 'Ask for it' : ''"
    :busy
    :wrong="whole || wrong.toPlace || wrong.fromPlace"
    remembers="new transfer"
    :fields="typed"
    @accept="accept"
    @leave="emit('leave')"
  >
    <p class="label">From</p>
    <ChipChoice v-model="fromPlace" label="From where" :options="choices" />
    <p class="label">To</p>
    <ChipChoice v-model="toPlace" label="To where" :options="choices" />
    <LookUp label="Name, number, or scan the code" :search :of @take="add" />
    <ul v-if="lines.length > 0" class="going">
      <li v-for="(line, at) in lines" :key="line.itemId">
        <span
          ><b>{{ line.name }}</b>
          <span class="soft beneath"
            >{{ quantityWords(line.there, line.unit) }} there<template v-if="line.units.length > 0"
              >; {{ line.units.join(', ') }}</template
            ></span
          >
          <span
            v-if="wrong[`lines[${at}].quantity`] ?? wrong[`lines[${at}].serials`]"
            class="bad beneath"
            role="alert"
            >{{ wrong[`lines[${at}].quantity`] ?? wrong[`lines[${at}].serials`] }}</span
          ></span
        >
        <span v-if="line.serials" class="num">{{ line.units.length }}</span>
        <QuantityField
          v-else
          bare
          :model-value="line.quantity"
          :label="`How many of ${line.name}`"
          :decimals="line.decimals"
          @update:model-value="(quantity) => put(line.itemId, { quantity })"
        />
        <WordButton @click="lines = lines.filter(({ itemId }) => itemId !== line.itemId)">
          Take off
        </WordButton>
      </li>
    </ul>
    <v-text-field v-model="words" label="What for" autocomplete="off" maxlength="200" hide-details />
  </FormPanel>
</template>

<style scoped>
.going li {
  display: grid;
  grid-template-columns: 1fr 92px auto;
  gap: 8px;
  padding: 6px 0;
  border-bottom: var(--hair);
  align-items: center;
}
</style>
