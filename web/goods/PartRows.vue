<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { ref, shallowRef } from 'vue';
import type { GoodsRow } from '../../contract/goods.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import QuantityField from '../look/QuantityField.vue';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import type { PartRow } from './partRow.ts';
import { useItemPageStore } from './itemPageStore.ts';
import WordButton from '../look/WordButton.vue';

/** What is in a bundle: looked up, or scanned. */
const { wrong } = defineProps<{ wrong: Readonly<Record<string, string>> }>();
const parts = defineModel<PartRow[]>({ required: true });

const store = useItemPageStore();
const till = useTillStore();
const notices = useNoticeStore();
const find = ref('');
const found = shallowRef<GoodsRow[]>([]);

const put = (itemId: number, quantity: Quantity | null) =>
  (parts.value = parts.value.map((part) =>
    part.itemId === itemId ? { ...part, quantity: quantity ?? Number.NaN } : part,
  ));
function add({ id, name, price, decimals }: GoodsRow): void {
  const had = parts.value.find(({ itemId }) => itemId === id);
  if (had) put(id, had.quantity + ONE);
  else parts.value = [...parts.value, { itemId: id, name, price, decimals, quantity: ONE }];
  [find.value, found.value] = ['', []];
}
watchDebounced(
  find,
  async (asked) => {
    found.value = asked.trim() === '' ? [] : await store.findGoods(asked).catch(() => []);
  },
  { debounce: 150 },
);
useScans(async (code) => {
  const [item] = await store.findGoods(code).catch(() => []);
  if (item) add(item);
  else notices.failed(`Nothing has the code ${code}.`);
});
</script>

<template>
  <div class="look-up">
    <v-text-field
      v-model="find"
      label="What is in it: name, number, or scan the code"
      autocomplete="off"
      :error-messages="wrong.parts"
      @keydown.enter.prevent="found[0] && add(found[0])"
    />
    <ul v-if="found.length > 0" class="offered" aria-label="Found">
      <li v-for="item in found" :key="item.id">
        <button type="button" @click="add(item)">
          <span
            ><b>{{ item.name }}</b> <span class="soft beneath">{{ item.number }}</span></span
          ><span class="num">{{ item.price === null ? 'asks' : till.money(item.price) }}</span>
        </button>
      </li>
    </ul>
  </div>
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
