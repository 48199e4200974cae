<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core';
import { computed, onUnmounted, ref, toRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { GoodsRow } from '../../contract/goods.ts';
import { GOODS_PAGE, GOODS_SORTS, type GoodsSort } from '../../core/goods/itemList.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { MOST_AT_ONCE } from '../../core/goods/manyItems.ts';
import { formatCount } from '../../core/locale.ts';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import ManyForm from './ManyForm.vue';
import { useGoodsListStore } from './goodsListStore.ts';
import { useItemScans } from './itemScans.ts';
import ChipButton from '../look/ChipButton.vue';
import WordButton from '../look/WordButton.vue';

/** What the shop sells. */
const goods = useGoodsListStore();
const till = useTillStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const router = useRouter();
const changing = ref(false);

const stop = goods.follow();
onUnmounted(stop);
const asked = computed(() => goods.query.toString());
const { busy } = useAskedList(() => asked.value, toRef(goods, 'page'), goods.load);
watch(
  () => goods.picked.size,
  (size) => {
    if (size === 0) changing.value = false;
  },
);

/** How many of those that fit can be picked. */
const canPick = computed(() => Math.min(goods.listed?.count ?? 0, MOST_AT_ONCE));
const pickWords = computed(
  () =>
    `Pick ${canPick.value < (goods.listed?.count ?? 0) ? 'the first' : 'all'} ${formatCount(canPick.value)}`,
);

useItemScans();

const csv = computed(() => `/api/goods/list.csv?${asked.value}`);

/** Columns that may be chosen; the name always stands there. */
const CHOICES = computed(() => [
  { key: 'category', words: 'Category and tags' },
  { key: 'code', words: 'Code', width: '150px' },
  { key: 'supplier', words: 'Supplier' },
  { key: 'tax', words: 'Tax', width: '110px' },
  ...(session.may('goods.cost') ? [{ key: 'cost', words: 'Cost', right: true, width: '110px' }] : []),
  { key: 'price', words: 'Price', right: true, width: '130px' },
  { key: 'here', words: 'Here', right: true, width: '110px' },
  { key: 'elsewhere', words: 'Elsewhere', right: true, width: '110px' },
]);
/** The same on this till the next time. */
const chosen = useLocalStorage('mondrel.goods-columns', ['category', 'price', 'here', 'elsewhere']);
const columns = computed(() => [
  { key: 'name', words: 'Name' },
  ...CHOICES.value.filter(({ key }) => chosen.value.includes(key)),
]);
const choosing = ref(false);
const choose = (key: string) =>
  (chosen.value = chosen.value.includes(key)
    ? chosen.value.filter((one) => one !== key)
    : [...chosen.value, key]);
const SORTS = Object.entries(GOODS_SORTS).map(([value, title]) => ({ value: value as GoodsSort, title }));
const categories = computed(() => [
  { value: 0, title: 'Any category' },
  ...(goods.listed?.categories ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const tags = computed(() => [
  { value: '', title: 'Any tag' },
  ...(goods.listed?.tags ?? []).map((tag) => ({ value: tag, title: tag })),
]);
const suppliers = computed(() => [
  { value: 0, title: 'Any supplier' },
  ...(goods.listed?.suppliers ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const STATES = [
  { value: 'sold', title: 'Sold' },
  { value: 'ended', title: 'Not sold any more' },
  { value: '', title: 'All' },
];
const FLAGS = [
  { key: 'out', words: 'None here' },
  { key: 'below', words: 'Below its reorder point' },
  { key: 'noCode', words: 'Without a code' },
  { key: 'noPrice', words: 'Without a price' },
  { key: 'noCost', words: 'Without a cost' },
] as const;

const units = (quantity: number | null, { unit }: GoodsRow) =>
  quantity === null ? '' : quantityWords(quantity, unit);
const KINDS = { goods: '', family: 'family', bundle: 'bundle' } as const;
const open = ({ id }: GoodsRow) => router.push(`/goods/${id}`);
</script>

<template>
  <div class="beside-form" :class="{ beside: changing }">
    <ListPage
      :narrowed="goods.narrowed || goods.filter.find !== ''"
      @widen="goods.widen()"
      v-model:page="goods.page"
      title="Goods"
      :of="['item', 'items']"
      :columns="columns"
      :rows="goods.listed?.rows ?? []"
      :count="goods.listed?.count ?? null"
      :per-page="GOODS_PAGE"
      :picked="goods.picked"
      :busy="busy"
      :name-of="(row) => row.name"
      @open="open"
      @pick="goods.pick"
      @pick-page="goods.pickPage"
    >
      <template #acts>
        <template v-if="goods.picked.size > 0">
          <span
            ><b>{{ formatCount(goods.picked.size) }}</b> picked</span
          >
          <v-btn v-if="canPick > goods.picked.size" @click="goods.pickAll()">{{ pickWords }}</v-btn>
          <v-btn @click="goods.pickNone()">Pick none</v-btn>
          <v-btn :class="{ go: !changing }" @click="changing = true">Change them</v-btn>
        </template>
        <template v-else>
          <template v-if="session.may('goods.import')">
            <v-btn to="/goods/import">Import</v-btn>
            <v-btn :href="csv">CSV</v-btn>
          </template>
          <v-btn v-if="mayOpen('/goods/orders')" to="/goods/orders">Orders</v-btn>
          <v-btn v-if="mayOpen('/goods/transfers')" to="/goods/transfers">Transfers</v-btn>
          <v-btn v-if="mayOpen('/goods/counts')" to="/goods/counts">Counts</v-btn>
          <v-btn to="/goods/moves">Moves</v-btn>
        </template>
        <v-btn to="/goods/labels"
          >Labels<template v-if="goods.listed && goods.listed.labelsDue > 0"
            >: {{ goods.listed.labelsDue }} due</template
          ></v-btn
        >
        <v-btn v-if="goods.picked.size === 0" class="go" to="/goods/new">New item</v-btn>
      </template>
      <template #filters>
        <div class="first">
          <v-text-field
            v-model="goods.filter.find"
            label="Name, number, tag, or scan the code"
            data-search
            autocomplete="off"
            clearable
            @click:clear="goods.filter.find = ''"
          />
          <v-select v-model="goods.filter.category" label="Category" :items="categories" />
          <v-select v-model="goods.filter.tag" label="Tag" :items="tags" />
          <v-select v-model="goods.filter.supplier" label="Supplier" :items="suppliers" />
          <v-select v-model="goods.filter.state" label="State" :items="STATES" />
          <v-select v-model="goods.sort" label="Sorted by" :items="SORTS" />
        </div>
        <div class="chips">
          <ChipButton
            v-for="{ key, words } in FLAGS"
            :key="key"
            :on="goods.filter[key] === 'yes'"
            @click="goods.filter[key] = goods.filter[key] ? '' : 'yes'"
          >
            {{ words }}
          </ChipButton>
          <WordButton v-if="goods.narrowed" @click="goods.widen()"> Show everything </WordButton>
          <WordButton :aria-expanded="choosing" @click="choosing = !choosing"> Columns </WordButton>
        </div>
        <div v-if="choosing" class="chips" role="group" aria-label="Columns">
          <ChipButton
            v-for="{ key, words } in CHOICES"
            :key="key"
            :on="chosen.includes(key)"
            @click="choose(key)"
          >
            {{ words }}
          </ChipButton>
        </div>
      </template>
      <template #name="{ row }">
        <b>{{ row.name }}</b>
        <span class="soft under"
          >{{ row.number }}<template v-if="KINDS[row.kind]"> · {{ KINDS[row.kind] }}</template></span
        >
      </template>
      <template #category="{ row }">
        <span class="words">
          {{ row.category }}
          <span v-for="tag in row.tags" :key="tag" class="why">{{ tag }}</span>
          <span v-if="!row.active" class="soft">not sold any more</span>
        </span>
      </template>
      <template #price="{ row }">
        <template v-if="row.price !== null">{{ till.money(row.price) }}</template>
        <span v-else-if="row.kind === 'goods'" class="soft">asks</span>
        <span v-if="row.toCome" class="soft under"
          >{{ till.money(row.toCome.price) }} from {{ till.calendarDay(row.toCome.from) }}</span
        >
      </template>
      <template #here="{ row }">
        <span :class="{ bad: row.here !== null && row.here <= 0 }">{{ units(row.here, row) }}</span>
      </template>
      <template #cost="{ row }">{{ row.cost === null ? '' : till.money(row.cost) }}</template>
      <template #elsewhere="{ row }">{{ units(row.elsewhere, row) }}</template>
      <template #empty>
        <b>No goods yet</b>
        <p>Scan what you sell, one after the other, and type what it is called and costs.</p>
        <v-btn class="go" to="/goods/new">Add the first item</v-btn>
      </template>
    </ListPage>
    <aside v-if="changing" class="scroll" aria-label="Change many at once">
      <ManyForm @leave="changing = false" />
    </aside>
  </div>
</template>

<style scoped>
.first {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) repeat(5, minmax(0, 1fr));
  gap: 10px;
}
.beside .first {
  grid-template-columns: repeat(3, minmax(0, 1fr));
}
@media (max-width: 1100px) {
  .first {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
}
</style>
