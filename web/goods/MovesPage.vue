<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { computed, onUnmounted, reactive, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { MOST_MOVES, MOVES_PAGE, type MoveOrigin, type StockMoveRow } from '../../contract/stockMoves.ts';
import { transferName } from '../../contract/transfers.ts';
import { countNumber } from '../../core/counts/compare.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { REASON_WORDS } from '../../core/goods/stockReasons.ts';
import { deliveryNumber, supplierReturnNumber } from '../../core/supply/purchaseOrder.ts';
import DateField from '../look/DateField.vue';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useStockMovesStore } from './stockMovesStore.ts';
import WordButton from '../look/WordButton.vue';

/** How stock moved: everything that came and went, why, and what did it. What is asked for stands in the address. */
const store = useStockMovesStore();
const till = useTillStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const route = useRoute();
const router = useRouter();

const text = (key: string): string => {
  const value = route.query[key];
  return typeof value === 'string' ? value : '';
};
const filter = reactive({
  find: text('find'),
  reason: text('reason'),
  place: Number(text('place')) || 0,
  supplier: Number(text('supplier')) || 0,
  staff: Number(text('staff')) || 0,
  from: text('from'),
  to: text('to'),
});
const page = ref(0);
const listed = computed(() => store.listed);
const asked = computed(() =>
  Object.fromEntries(Object.entries(filter).flatMap(([key, value]) => (value ? [[key, String(value)]] : []))),
);
const query = computed(() => new URLSearchParams(asked.value).toString());
const csv = computed(() => `/api/goods/moves.csv?${query.value}`);

const { busy, load } = useAskedList(
  () => query.value,
  page,
  () => store.load(query.value, page.value),
);
onUnmounted(store.follow(load));
watchDebounced(query, () => router.replace({ query: asked.value }), { debounce: 150 });
useScans((code) => (filter.find = code));
const widen = () =>
  Object.assign(filter, { find: '', reason: '', place: 0, supplier: 0, staff: 0, from: '', to: '' });

const any = (words: string, all: readonly { id: number; name: string }[] = []) => [
  { value: 0, title: words },
  ...all.map(({ id, name }) => ({ value: id, title: name })),
];
const REASONS = [
  { value: '', title: 'Any reason' },
  ...Object.entries(REASON_WORDS).map(([value, title]) => ({ value, title })),
];
const COLUMNS = computed(() => [
  { key: 'at', words: 'When', width: '205px' },
  { key: 'name', words: 'Goods' },
  { key: 'reason', words: 'What happened' },
  { key: 'quantity', words: 'Quantity', right: true, width: '110px' },
  ...(session.may('goods.cost') ? [{ key: 'cost', words: 'Cost', right: true, width: '110px' }] : []),
  { key: 'origin', words: 'By', width: '150px' },
]);

/** Where what moved it is shown. */
function placeOf(origin: NonNullable<MoveOrigin>): { to: string; words: string } {
  switch (origin.kind) {
    case 'sale':
      return { to: `/journal/${origin.id}`, words: origin.number };
    case 'promise':
      return { to: `/waiting/${origin.id}`, words: 'Order' };
    case 'transfer':
      return { to: `/goods/transfers/${origin.id}`, words: transferName(origin.id) };
    case 'delivery':
      return { to: `/goods/deliveries/${origin.id}`, words: deliveryNumber(origin.number) };
    case 'supplier-return':
      return { to: `/goods/deliveries/${origin.id}`, words: supplierReturnNumber(origin.number) };
    case 'count':
      return { to: `/goods/counts/${origin.id}`, words: countNumber(origin.number) };
  }
}
function open({ origin, itemId }: StockMoveRow): void {
  void router.push(origin ? placeOf(origin).to : `/goods/${itemId}`);
}
const signed = ({ quantity, unit }: StockMoveRow) =>
  quantity === 0 ? '' : `${quantity > 0 ? '+' : ''}${quantityWords(quantity, unit)}`;
</script>

<template>
  <ListPage
    :narrowed="query !== ''"
    @widen="widen"
    v-model:page="page"
    title="How stock moved"
    :of="['move', listed?.count === MOST_MOVES ? 'moves, the newest' : 'moves']"
    :columns="COLUMNS"
    :rows="listed?.rows ?? []"
    :count="listed?.count ?? null"
    :per-page="MOVES_PAGE"
    :busy="busy"
    :name-of="(row) => `${REASON_WORDS[row.reason]} ${row.name}`"
    @open="open"
  >
    <template #acts>
      <v-btn v-if="mayOpen('/goods/value')" to="/goods/value">What it is worth</v-btn>
      <v-btn to="/goods">All goods</v-btn>
      <v-btn v-if="session.may('goods.import')" :href="csv">CSV</v-btn>
    </template>
    <template #filters>
      <div class="first">
        <v-text-field
          v-model="filter.find"
          label="Name, number, or scan the code"
          data-search
          autocomplete="off"
          clearable
          @click:clear="filter.find = ''"
        />
        <v-select v-model="filter.reason" label="What happened" :items="REASONS" />
        <v-select v-model="filter.place" label="Place" :items="any('Any place', listed?.places)" />
        <v-select
          v-model="filter.supplier"
          label="Supplier"
          :items="any('Any supplier', listed?.suppliers)"
        />
        <v-select v-model="filter.staff" label="By whom" :items="any('Anybody', listed?.staff)" />
        <DateField v-model="filter.from" label="From" />
        <DateField v-model="filter.to" label="To" />
      </div>
      <div v-if="query" class="chips">
        <WordButton class="in-text" @click="widen">Show everything</WordButton>
      </div>
    </template>
    <template #at="{ row }"
      ><span class="soft">{{ till.time(row.at, 'full') }}</span></template
    >
    <template #name="{ row }">
      <router-link class="word in-text" :to="`/goods/${row.itemId}`" @click.stop>{{ row.name }}</router-link>
      <span class="soft beneath">{{ row.number }}</span>
    </template>
    <template #reason="{ row }">
      {{ REASON_WORDS[row.reason] }}<template v-if="row.words">: {{ row.words }}</template>
      <span class="soft beneath"
        >{{ row.place }}<template v-if="row.approvedBy">, approved by {{ row.approvedBy }}</template></span
      >
    </template>
    <template #quantity="{ row }"
      ><span class="num">{{ signed(row) }}</span></template
    >
    <template #cost="{ row }"
      ><span class="num">{{ row.cost === null ? '' : till.money(row.cost) }}</span></template
    >
    <template #origin="{ row }">
      <router-link v-if="row.origin" class="word num in-text" :to="placeOf(row.origin).to" @click.stop>{{
        placeOf(row.origin).words
      }}</router-link>
      <span class="soft beneath">{{ row.by }}</span>
    </template>
    <template #empty>
      <b>Nothing moved yet</b>
      <p>What is sold, delivered, counted or put right stands here, with what did it.</p>
    </template>
  </ListPage>
</template>

<style scoped>
.first {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) repeat(3, minmax(0, 1fr));
  gap: 10px;
}
</style>
