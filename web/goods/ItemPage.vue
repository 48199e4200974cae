<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import type { ItemPage as PageOfItem } from '../../contract/goods.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { REASON_WORDS } from '../../core/goods/stockReasons.ts';
import type { ItemSupply, LayerView } from '../../contract/supply.ts';
import MonthsChart from '../look/MonthsChart.vue';
import { usePageOf } from '../look/pageOf.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import CostForm from '../supply/CostForm.vue';
import ItemSupplyLists from '../supply/ItemSupplyLists.vue';
import ReorderForm from '../supply/ReorderForm.vue';
import SourceForm from '../supply/SourceForm.vue';
import { useItemSupplyStore } from '../supply/itemSupplyStore.ts';
import ItemForm from './ItemForm.vue';
import PicturesForm from './PicturesForm.vue';
import PriceToComeForm from './PriceToComeForm.vue';
import PartsForm from './PartsForm.vue';
import StockForm from './StockForm.vue';
import VariantsForm from './VariantsForm.vue';
import { useItemPageStore } from './itemPageStore.ts';
import { useItemScans } from './itemScans.ts';
import WordButton from '../look/WordButton.vue';

/** One item: what it is, what it costs, where it lies, how it sold, and who changed what. */
const store = useItemPageStore();
const supplies = useItemSupplyStore();
const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const mode = ref<
  'look' | 'change' | 'price' | 'stock' | 'variants' | 'parts' | 'pictures' | 'source' | 'reorder' | 'cost'
>('look');

usePageOf('/goods', async (id) => {
  mode.value = 'look';
  await Promise.all([store.load(id), supplies.load(id)]);
});
useItemScans(() => mode.value === 'look');
const stops = [store.follow(), supplies.follow()];
onUnmounted(() => stops.forEach((stop) => stop()));

const page = computed(() => store.page);
const record = computed(() => page.value?.record);
/** The item as it was when somebody began to change it: whoever changes it meanwhile is not overwritten. */
const changing = shallowRef<PageOfItem | null>(null);
function begin(what: 'change' | 'price' | 'stock' | 'variants' | 'parts'): void {
  changing.value = page.value;
  mode.value = what;
}
const leave = () => (mode.value = 'look');
const source = shallowRef<ItemSupply['suppliers'][number]>();
const reorder = shallowRef<ItemSupply['reorder'][number]>();
const layer = shallowRef<LayerView>();
function changeSource(one: typeof source.value): void {
  source.value = one;
  mode.value = 'source';
}
function changeReorder(one: ItemSupply['reorder'][number]): void {
  reorder.value = one;
  mode.value = 'reorder';
}
function correct(one: LayerView): void {
  layer.value = one;
  mode.value = 'cost';
}

const units = (quantity: number) => quantityWords(quantity, record.value?.unit ?? 'each');
const priceWords = (price: number | null) => (price === null ? 'asked for' : till.money(price));
const figures = computed(() => {
  const { stock = [], months = [] } = page.value ?? {};
  const total = stock.reduce((all, { onHand, setAside }) => all + onHand - setAside, 0);
  const sold = months.reduce((all, { quantity }) => all + quantity, 0);
  return [
    ...(page.value?.kind === 'goods'
      ? [{ words: 'Price', value: priceWords(record.value?.price ?? null) }]
      : []),
    ...(record.value?.stocked ? [{ words: 'Available', value: units(total), bad: total < 0 }] : []),
    { words: 'Sold in twelve months', value: units(sold) },
  ];
});
const facts = computed(() => {
  const known = record.value;
  if (!known) return [];
  const tax = till.facts?.taxCategories.find(({ id }) => id === known.taxCategoryId)?.name ?? '';
  return [
    { words: 'Number', value: known.number },
    { words: known.codes.length > 1 ? 'Codes' : 'Code', value: known.codes.join(', ') },
    { words: 'Category', value: known.category },
    { words: 'Tax', value: tax },
    { words: 'Costs the shop', value: known.cost === null ? '' : till.money(known.cost) },
    { words: 'Unit', value: known.unit === 'each' ? '' : known.unit },
    { words: 'Serial numbers', value: known.serials ? 'each unit has one' : '' },
    { words: 'Sold from', value: known.minAge === null ? '' : `${known.minAge} years on` },
    { words: 'Asks', value: known.asksNote },
    { words: 'Weighs', value: known.weight === null ? '' : `${known.weight} g` },
    ...known.groupPrices.map(({ group, price }) => ({ words: group, value: till.money(price) })),
  ].filter(({ value }) => value !== '');
});

async function dropPrice(from: string): Promise<void> {
  if (!page.value) return;
  await store.dropPrice(page.value, from).catch((error: unknown) => notices.failed(problemWords(error)));
}
</script>

<template>
  <VariantsForm v-if="mode === 'variants' && changing" :page="changing" @leave="leave" />
  <div v-else-if="page && record" class="two">
    <section class="zone" aria-labelledby="item-name">
      <header class="head">
        <router-link class="word" to="/goods">All goods</router-link>
        <span v-if="!record.active" class="why">Not sold any more</span>
      </header>
      <div class="scroll">
        <ItemForm v-if="mode === 'change' && changing" :page="changing" @leave="leave" />
        <PriceToComeForm v-else-if="mode === 'price' && changing" :page="changing" @leave="leave" />
        <PartsForm v-else-if="mode === 'parts' && changing" :page="changing" @leave="leave" />
        <PicturesForm v-else-if="mode === 'pictures'" @leave="leave" />
        <StockForm v-else-if="mode === 'stock' && changing" :page="changing" @leave="leave" />
        <SourceForm
          v-else-if="mode === 'source' && supplies.supply"
          :item-id="page.id"
          :known="supplies.supply.known"
          :decimals="record.decimals"
          :source
          @leave="leave"
        />
        <ReorderForm
          v-else-if="mode === 'reorder' && reorder"
          :item-id="page.id"
          :at="reorder"
          :decimals="record.decimals"
          @leave="leave"
        />
        <CostForm v-else-if="mode === 'cost' && layer" :layer :unit="record.unit" @leave="leave" />
        <div v-else class="of-page">
          <p v-if="page.pictures.length > 0" class="pictures">
            <img
              v-for="id in page.pictures"
              :key="id"
              :src="`/api/goods/pictures/${id}`"
              alt=""
              width="120"
              height="90"
            />
          </p>
          <h1 id="item-name" class="title">{{ record.name }}</h1>
          <p v-if="page.family">
            <router-link class="word" :to="`/goods/${page.family.id}`">{{ page.family.name }}</router-link>:
            {{ page.family.variant.join(', ') }}
          </p>
          <p v-if="record.description">{{ record.description }}</p>
          <dl class="facts">
            <template v-for="{ words, value } in facts" :key="words">
              <dt>{{ words }}</dt>
              <dd>{{ value }}</dd>
            </template>
          </dl>
          <p v-if="record.tags.length > 0" class="words">
            <span v-for="tag in record.tags" :key="tag" class="why">{{ tag }}</span>
          </p>
          <div class="acts">
            <v-btn @click="begin('change')">Change</v-btn>
            <v-btn @click="mode = 'pictures'">Pictures</v-btn>
            <v-btn v-if="page.kind === 'family'" @click="begin('variants')">Add variants</v-btn>
            <v-btn v-if="page.kind === 'bundle'" @click="begin('parts')">Change what is in it</v-btn>
            <v-btn v-if="record.price !== null" @click="begin('price')">Price from a day on</v-btn>
            <v-btn v-if="record.stocked && session.may('stock.move')" @click="begin('stock')"
              >Put stock right</v-btn
            >
          </div>
        </div>
      </div>
    </section>
    <section class="zone" aria-label="Stock, prices and sales">
      <dl class="page-figures">
        <div v-for="{ words, value, bad } in figures" :key="words">
          <dt class="label">{{ words }}</dt>
          <dd class="num" :class="{ bad }">{{ value }}</dd>
        </div>
      </dl>
      <div class="scroll page-lists">
        <section v-if="page.contains.length > 0">
          <h2 class="label">{{ page.kind === 'family' ? page.axes.join(' and ') : 'What is in it' }}</h2>
          <ul>
            <li v-for="one in page.contains" :key="one.id">
              <router-link class="word" :to="`/goods/${one.id}`">{{ one.name }}</router-link>
              <span class="num"
                >{{ one.quantity === null ? '' : `${quantityWords(one.quantity, 'each')} × `
                }}{{ priceWords(one.price) }}</span
              >
            </li>
          </ul>
        </section>
        <section v-if="page.stock.length > 0">
          <h2 class="label">In stock</h2>
          <ul>
            <li v-for="level in page.stock" :key="level.placeId">
              <span
                >{{ level.place }}<template v-if="level.here">, here</template
                ><span v-if="level.setAside > 0" class="soft beneath"
                  >{{ units(level.setAside) }} of it set aside</span
                ></span
              >
              <span class="num" :class="{ bad: level.onHand < 0 }">{{ units(level.onHand) }}</span>
            </li>
          </ul>
        </section>
        <ItemSupplyLists
          v-if="supplies.supply && record.stocked"
          :supply="supplies.supply"
          :unit="record.unit"
          @source="changeSource"
          @reorder="changeReorder"
          @correct="correct"
        />
        <section v-if="page.toCome.length > 0">
          <h2 class="label">Prices to come</h2>
          <ul>
            <li v-for="{ from, price, by } in page.toCome" :key="from">
              <span
                ><b>{{ till.calendarDay(from) }}</b> <span class="soft">{{ by }}</span></span
              >
              <span class="right"
                ><span class="num">{{ till.money(price) }}</span
                ><WordButton @click="dropPrice(from)">Take away</WordButton></span
              >
            </li>
          </ul>
        </section>
        <section v-if="page.months.length > 0">
          <h2 class="label">Sold by month, without tax</h2>
          <MonthsChart name="Sold" :months="page.months.map(({ month, net }) => ({ month, amount: net }))" />
        </section>
        <section v-if="page.moves.length > 0">
          <h2 class="label">How stock moved</h2>
          <ul>
            <li v-for="move in page.moves" :key="move.id">
              <span
                ><b>{{ REASON_WORDS[move.reason] }}</b
                ><template v-if="move.words">: {{ move.words }}</template>
                <span class="soft beneath"
                  >{{ till.time(move.at, 'full') }}, {{ move.place
                  }}<template v-if="move.by">, {{ move.by }}</template></span
                ></span
              >
              <span class="right"
                ><span class="num" :class="{ bad: move.quantity < 0 && move.sale === null }">{{
                  move.quantity > 0 ? `+${units(move.quantity)}` : units(move.quantity)
                }}</span
                ><router-link v-if="move.sale" class="word num" :to="`/journal/${move.sale.id}`">{{
                  move.sale.number
                }}</router-link
                ><router-link v-else-if="move.promiseId" class="word" :to="`/waiting/${move.promiseId}`"
                  >Order</router-link
                ></span
              >
            </li>
          </ul>
          <router-link class="word" :to="{ path: '/goods/moves', query: { find: record.number } }"
            >All of them, with filters</router-link
          >
        </section>
        <section v-if="page.prices.length > 1">
          <h2 class="label">Prices</h2>
          <ul>
            <li v-for="past in page.prices" :key="past.changedAt">
              <span class="soft">since {{ till.time(past.changedAt, 'full') }}</span>
              <span class="num">{{ priceWords(past.price) }}</span>
            </li>
          </ul>
        </section>
        <section>
          <h2 class="label">Who changed what</h2>
          <ul>
            <li v-for="(change, at) in page.changes" :key="at">
              <span
                >{{ change.what }}: <span v-if="change.was" class="was">{{ change.was }}</span>
                {{ change.became || (change.was ? '' : '–') }}</span
              >
              <span class="soft right"
                >{{ change.who || 'its day' }}, {{ till.time(change.at, 'full') }}</span
              >
            </li>
            <li>
              <span>In the catalogue since</span
              ><span class="soft">{{ till.time(page.addedAt, 'full') }}</span>
            </li>
          </ul>
        </section>
      </div>
    </section>
  </div>
  <p v-else class="empty" role="status">Looking it up …</p>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.pictures img {
  object-fit: contain;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
}
</style>
