<script setup lang="ts">
import { computed, onMounted, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { ItemFacts } from '../../contract/goods.ts';
import { formatQuantity } from '../../core/quantity.ts';
import BarcodeImage from '../journal/BarcodeImage.vue';
import { useItemStore } from '../goods/itemStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { typesEntry } from '../keys/entry.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useAnswer } from '../notices/answer.ts';

const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const items = useItemStore();
const panel = useTemplateRef('panel');
onMounted(() => panel.value?.focus());

const asked = useAnswer<ItemFacts | null>(async () => {
  const id = basket.chosen?.itemId;
  return id === undefined ? null : items.facts(id);
}, null);
/** What was asked about the line before is not said of this one. */
const item = computed(() => (asked.value?.id === basket.chosen?.itemId ? asked.value : null));
const priceWords = (price: number | null) => (price === null ? 'asks' : till.money(price));

useKeys('form', { leave: (event) => (typesEntry(event) ? false : work.leave()) });
</script>

<template>
  <section ref="panel" class="panel item" tabindex="-1" aria-labelledby="item-title">
    <template v-if="item">
      <h2 id="item-title" class="title">{{ item.name }}</h2>
      <p class="soft">{{ item.number }} · {{ item.category }}</p>
      <img
        v-if="item.picture !== null"
        class="picture"
        :src="`/api/goods/pictures/${item.picture}`"
        alt=""
        width="160"
        height="120"
      />
      <p v-if="item.description">{{ item.description }}</p>
      <p v-if="item.minAge !== null" class="why">Sold from {{ item.minAge }} years on</p>
      <table v-if="item.stock.length > 0">
        <caption class="label">
          In stock
        </caption>
        <tbody>
          <tr v-for="level in item.stock" :key="level.place">
            <th scope="row">{{ level.place }}{{ level.here ? ', here' : '' }}</th>
            <td class="num" :class="{ bad: level.quantity <= 0 }">
              {{ formatQuantity(level.quantity) }}{{ item.unit === 'each' ? '' : ` ${item.unit}` }}
              <span v-if="level.setAside > 0" class="soft"
                >+ {{ formatQuantity(level.setAside) }} promised</span
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft">Not kept in stock.</p>
      <table>
        <caption class="label">
          Price
        </caption>
        <tbody>
          <tr v-for="(past, at) in item.prices" :key="past.changedAt">
            <th scope="row">
              {{
                at === 0
                  ? 'now'
                  : `until ${till.time(item.prices[at - 1]?.changedAt ?? past.changedAt, 'full')}`
              }}
            </th>
            <td class="num">{{ priceWords(past.price) }}</td>
          </tr>
        </tbody>
      </table>
      <BarcodeImage v-for="code in item.codes" :key="code" :text="code" />
    </template>
    <p v-else class="soft" role="status">Looking it up …</p>
    <v-btn @click="work.leave()">Back <KeyHint of="form.leave" /></v-btn>
  </section>
</template>

<style scoped>
.picture {
  border: var(--group);
}
.item {
  align-content: start;
  outline: 0;
}
th {
  font-weight: 400;
}
td {
  text-align: right;
  font-size: 17px;
}
</style>
