<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import type { OrderPage } from '../../contract/supply.ts';
import { means } from '../../core/goods/codes.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { ONE } from '../../core/quantity.ts';
import { goodsCost, SPREADS, type SpreadBy } from '../../core/supply/landedCost.ts';
import { orderNumber } from '../../core/supply/purchaseOrder.ts';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import QuantityField from '../look/QuantityField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useKeys } from '../keys/useKeys.ts';
import { lookFirst } from '../notices/follow.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { NothingHas, useScansInTurn } from '../sale/scannedGoods.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDelivered, type Came } from './delivered.ts';
import { useSupplyStore } from './supplyStore.ts';
import WordButton from '../look/WordButton.vue';

/** What came: as ordered, or counted by scanning; what is broken, what it cost, and what its way here cost. */
const { order } = defineProps<{ order: OrderPage }>();
const emit = defineEmits<{ done: [made: { id: number; number: number }]; leave: [] }>();

const store = useSupplyStore();
const till = useTillStore();
const notices = useNoticeStore();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);
const deliveryNote = ref('');
const freight = ref<number | null>(null);
const spreadBy = ref<SpreadBy>('value');
/** The order as it was looked at last: what another one makes of it is under what is typed here. */
const looked = shallowRef(order);
async function look(): Promise<void> {
  await store.orderAgain(order.id);
  looked.value = store.order ?? looked.value;
}
const { lines, byScan, typed, unordered, put, countByScan, addSerial, add } = useDelivered(
  () => looked.value,
);
const fields = reactive({ deliveryNote, freight, spreadBy, byScan, typed, unordered });
/** Of the goods with serial numbers, the one whose units are scanned now. */
const serialOf = ref<number | null>(null);

async function scanned(code: string): Promise<void> {
  const line = lines.value.find((one) => means(code, one));
  if (line?.serials) {
    serialOf.value = line.itemId;
    notices.say(`${line.name}: scan the serial number of each unit.`);
  } else if (line) {
    serialOf.value = null;
    if (!byScan.value) countByScan();
    const now = lines.value.find(({ itemId }) => itemId === line.itemId);
    put(line.itemId, { quantity: (now?.quantity ?? 0) + ONE });
  } else if (serialOf.value !== null) addSerial(serialOf.value, code);
  else await addUnordered(code);
}
/** Something came that nobody ordered. */
async function addUnordered(code: string): Promise<void> {
  const [item] = await store.findItems(order.id, { code });
  if (!item) throw new NothingHas(code);
  if (!byScan.value) countByScan();
  add(item);
  if (item.serials) serialOf.value = item.itemId;
}
useScansInTurn(scanned);

const came = computed(() => lines.value.filter(({ quantity }) => quantity !== null && quantity !== 0));
const cost = computed(() =>
  came.value.reduce(
    (all, { quantity, unitCost }) =>
      all +
      (Number.isFinite(quantity) && Number.isFinite(unitCost ?? 0)
        ? goodsCost(quantity ?? 0, unitCost ?? 0)
        : 0),
    Number.isFinite(freight.value ?? 0) ? (freight.value ?? 0) : 0,
  ),
);
const less = computed(() => lines.value.filter(({ quantity, open }) => (quantity ?? 0) < open).length);
const SPREAD = Object.entries(SPREADS).map(([value, words]) => ({ value: value as SpreadBy, words }));
/** The keys of the form act in its lines, too. */
const zone = useTemplateRef('zone');
const take = () => void panel.value?.accept();
useKeys('form', { accept: take, leave: () => panel.value?.goAway() }, { within: zone });
const entered = ({ target }: KeyboardEvent) => (target instanceof HTMLInputElement ? take() : undefined);
const problemOf = (itemId: number): string | undefined => {
  const at = came.value.findIndex((line) => line.itemId === itemId);
  return Object.entries(wrong.value).find(([field]) => field.startsWith(`lines[${at}]`))?.[1];
};

async function accept(): Promise<void> {
  if (busy.value || came.value.length === 0) return;
  const odd = ({ quantity, damaged, unitCost }: Came) =>
    (!((quantity ?? 0) > 0) || Number.isNaN(damaged) || Number.isNaN(unitCost)) && 'Type a number.';
  const mistakes = {
    freight: Number.isNaN(freight.value) && 'Type an amount.',
    ...Object.fromEntries(came.value.map((line, at) => [`lines[${at}].quantity`, odd(line)])),
  };
  await send(mistakes, async () => {
    const wanted = {
      version: looked.value.version,
      deliveryNote: deliveryNote.value,
      freight: freight.value ?? 0,
      spreadBy: spreadBy.value,
      lines: came.value.map(({ itemId, quantity, damaged, unitCost, found }) => ({
        itemId,
        quantity: quantity ?? 0,
        damaged: damaged ?? 0,
        unitCost,
        serials: found,
      })),
    };
    emit('done', await store.takeIn(order.id, wanted).catch(lookFirst(look)));
  });
}
</script>

<template>
  <div class="two">
    <section class="zone" aria-label="The delivery">
      <div class="scroll">
        <FormPanel
          ref="panel"
          :title="`What came of ${orderNumber(order.number)}`"
          :done="came.length > 0 ? `Take ${counted(came.length, 'line')} in` : ''"
          :busy
          :wrong="whole || wrong.lines"
          :remembers="`delivery of ${order.id}`"
          :fields
          @accept="accept"
          @leave="emit('leave')"
        >
          <p>
            <template v-if="byScan"
              ><b>Counted by scan.</b> Each scan is one more; what differs can be typed.</template
            ><template v-else
              >Everything that was ordered is filled in. Scan to count instead, or type what
              differs.</template
            >
          </p>
          <v-text-field
            v-model="deliveryNote"
            label="Number of the delivery note"
            autocomplete="off"
            :error-messages="wrong.deliveryNote"
          />
          <MoneyField v-model="freight" optional label="Freight and duty" :wrong="wrong.freight" />
          <ChipChoice v-if="freight" v-model="spreadBy" label="Spread over the goods" :options="SPREAD" />
          <template #foot>
            <dl class="facts">
              <dt>Costs</dt>
              <dd class="num">{{ till.money(cost) }}</dd>
              <template v-if="less > 0">
                <dt>Not all came</dt>
                <dd>{{ counted(less, 'line') }}: the rest stays on order</dd>
              </template>
            </dl>
          </template>
          <template #after>
            <WordButton v-if="!byScan" @click="countByScan">Count from nothing</WordButton>
          </template>
        </FormPanel>
      </div>
    </section>
    <section ref="zone" class="zone" aria-label="Lines" @keydown.enter="entered">
      <div class="scroll">
        <table class="goods-lines">
          <thead>
            <tr>
              <th>Goods</th>
              <th class="right">To come</th>
              <th class="right">Came</th>
              <th class="right">Broken</th>
              <th class="right">Each</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in lines" :key="line.itemId" :class="{ on: (line.quantity ?? 0) !== line.open }">
              <td>
                <b>{{ line.name }}</b>
                <span class="soft beneath">{{ line.theirNumber || line.number }}</span>
                <span v-if="line.found.length > 0" class="beneath num">{{ line.found.join(', ') }}</span>
                <WordButton v-if="line.serials && serialOf !== line.itemId" @click="serialOf = line.itemId">
                  Scan serial numbers
                </WordButton>
                <b v-else-if="line.serials" class="beneath">Scan the serial number of each unit</b>
                <span v-if="problemOf(line.itemId)" class="bad beneath" role="alert">{{
                  problemOf(line.itemId)
                }}</span>
              </td>
              <td class="right num">
                {{ line.ordered > 0 ? quantityWords(line.open, line.unit) : 'not ordered' }}
              </td>
              <td class="right">
                <QuantityField
                  bare
                  :model-value="line.quantity"
                  :label="`Came of ${line.name}`"
                  :decimals="line.decimals"
                  :aria-invalid="problemOf(line.itemId) !== undefined"
                  @update:model-value="(quantity) => put(line.itemId, { quantity })"
                />
              </td>
              <td class="right">
                <QuantityField
                  bare
                  :model-value="line.damaged"
                  :label="`Broken of ${line.name}`"
                  :decimals="line.decimals"
                  @update:model-value="(damaged) => put(line.itemId, { damaged })"
                />
              </td>
              <td class="right">
                <MoneyField
                  bare
                  optional
                  :model-value="line.unitCost"
                  :label="`Each of ${line.name}`"
                  none="not known"
                  @update:model-value="(unitCost) => put(line.itemId, { unitCost })"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>
