<script setup lang="ts">
import { onUnmounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { SupplierRow } from '../../contract/supply.ts';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { useTillStore } from '../shop/tillStore.ts';
import SupplierForm from './SupplierForm.vue';
import { useSupplyStore } from './supplyStore.ts';

/** From whom goods come. */
const store = useSupplyStore();
const till = useTillStore();
const router = useRouter();
const find = ref('');
const adding = ref(false);

const { busy, load } = useAskedList(
  () => find.value,
  ref(0),
  () => store.loadSuppliers(find.value),
);
onUnmounted(store.follow(load));

const COLUMNS = [
  { key: 'name', words: 'Name' },
  { key: 'items', words: 'Items', right: true, width: '100px' },
  { key: 'orders', words: 'Open orders', right: true, width: '140px' },
  { key: 'toCome', words: 'To come', right: true, width: '150px' },
  { key: 'lastDelivery', words: 'Last delivery', width: '190px' },
];
const open = ({ id }: Pick<SupplierRow, 'id'>) => router.push(`/goods/suppliers/${id}`);
</script>

<template>
  <div class="beside-form" :class="{ beside: adding }">
    <ListPage
      :narrowed="find !== ''"
      @widen="find = ''"
      title="Suppliers"
      :of="['supplier', 'suppliers']"
      :columns="COLUMNS"
      :rows="store.suppliers ?? []"
      :count="store.suppliers?.length ?? null"
      :per-page="1000"
      :busy
      :name-of="(row) => row.name"
      @open="open"
    >
      <template #acts>
        <v-btn to="/goods/orders">Orders</v-btn>
        <v-btn :class="{ go: !adding }" @click="adding = true">New supplier</v-btn>
      </template>
      <template #filters>
        <v-text-field
          v-model="find"
          label="Name, person, city"
          data-search
          autocomplete="off"
          clearable
          @click:clear="find = ''"
        />
      </template>
      <template #name="{ row }">
        <b>{{ row.name }}</b> <span v-if="!row.active" class="soft">not ordered from any more</span>
      </template>
      <template #toCome="{ row }">{{ row.toCome > 0 ? till.money(row.toCome) : '' }}</template>
      <template #lastDelivery="{ row }">{{
        row.lastDelivery ? till.time(row.lastDelivery, 'full') : ''
      }}</template>
      <template #empty>
        <b>No suppliers yet</b>
        <p>Say from whom goods come: then they can be ordered, and what they cost is known.</p>
      </template>
    </ListPage>
    <aside v-if="adding" class="scroll" aria-label="New supplier">
      <SupplierForm @done="(id) => open({ id })" @leave="adding = false" />
    </aside>
  </div>
</template>
