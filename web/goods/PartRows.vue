<script setup lang="ts">
import type { GoodsRow } from '../../contract/goods.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import QuantityField from '../look/QuantityField.vue';
import LookUp from '../look/LookUp.vue';
import { useScannedGoods } from '../sale/scannedGoods.ts';
import { useTillStore } from '../shop/tillStore.ts';
import type { PartRow } from './partRow.ts';
import { useItemPageStore } from './itemPageStore.ts';
import WordButton from '../look/WordButton.vue';

/** What is in a bundle: looked up, or scanned. */
const { wrong } = defineProps<{ wrong: Readonly<Record<string, string>> }>();
const parts = defineModel<PartRow[]>({ required: true });

const store = useItemPageStore();
const till = useTillStore();

const put = (itemId: number, quantity: Quantity | null) =>
  (parts.value = parts.value.map((part) =>
    part.itemId === itemId ? { ...part, quantity: quantity ?? Number.NaN } : part,
  ));
function add({ id, name, price, decimals }: GoodsRow): void {
  const had = parts.value.find(({ itemId }) => itemId === id);
  if (had) put(id, had.quantity + ONE);
  else parts.value = [...parts.value, { itemId: id, name, price, decimals, quantity: ONE }];
}
const search = (find: string) => store.findGoods({ find });
const of = ({ id, name, number, price }: GoodsRow) => ({
  key: id,
  name,
  beneath: number,
  figures: price === null ? 'asks' : till.money(price),
});
useScannedGoods((code) => store.findGoods({ code }), add);
</script>

<template>
  <LookUp
    label="What is in it: name, number, or scan the code"
    :search
    :of
    :wrong="wrong.parts"
    @take="add"
  />
  <table v-if="parts.length > 0" class="goods-lines">
    <thead>
      <tr>
        <th>Goods</th>
        <th class="right">Price</th>
        <th class="right">Quantity</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(part, at) in parts" :key="part.itemId">
        <td>
          <b>{{ part.name }}</b>
        </td>
        <td class="right num">{{ part.price === null ? 'asks' : till.money(part.price) }}</td>
        <td class="right">
          <QuantityField
            bare
            :model-value="part.quantity"
            :label="`Quantity of ${part.name}`"
            :decimals="part.decimals"
            :wrong="wrong[`parts[${at}].quantity`]"
            @update:model-value="(quantity) => put(part.itemId, quantity)"
          />
        </td>
        <td>
          <WordButton @click="parts = parts.filter(({ itemId }) => itemId !== part.itemId)">
            Take out
          </WordButton>
        </td>
      </tr>
    </tbody>
  </table>
</template>
