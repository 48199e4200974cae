<script setup lang="ts">
import { computed, onUnmounted, reactive, ref, toRef, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { LIST_PAGE } from '../../contract/listQuery.ts';
import type { OrderRow } from '../../contract/supply.ts';
import { deliveryNumber, orderNumber, orderWords } from '../../core/supply/purchaseOrder.ts';
import { useAskedList } from '../look/askedList.ts';
import ChipChoice from '../look/ChipChoice.vue';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import ListPage from '../look/ListPage.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useWayOn } from '../look/wayOn.ts';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import OrderFilters from './OrderFilters.vue';
import { useSupplyStore } from './supplyStore.ts';

/** What is ordered, and what came. */
const store = useSupplyStore();
const till = useTillStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const router = useRouter();
const goOn = useWayOn();
useScans((code) => (store.listed.find = code));
const panel = useTemplateRef('panel');
const beginning = ref(false);
const form = reactive({
  supplierId: null as number | null,
  placeId: null as number | null,
  suggested: 'yes' as 'yes' | 'no',
  cover: 14 as number | null,
});
const { wrong, whole, busy: sending, send } = useFormAnswer(panel);

const { busy, load } = useAskedList(
  () => JSON.stringify(store.listed),
  toRef(store, 'listedPage'),
  store.loadOrders,
);
onUnmounted(store.follow(load));

const places = computed(() =>
  (store.orders?.places ?? []).map(({ id, name }) => ({ value: id, words: name })),
);
function begin(): void {
  form.placeId = store.orders?.places.find(({ here }) => here)?.id ?? null;
  const only = store.orders?.suppliers;
  form.supplierId = only?.length === 1 ? (only[0]?.id ?? null) : null;
  beginning.value = true;
}
function accept(): Promise<void> {
  const { supplierId, placeId, cover } = form;
  const mistakes = {
    supplierId: supplierId === null && 'From whom?',
    cover: (cover === null || Number.isNaN(cover)) && 'Type a number of days.',
  };
  return send(mistakes, async () => {
    const id = await store.beginOrder({
      supplierId: supplierId ?? 0,
      placeId: placeId ?? 0,
      cover: cover ?? 0,
      suggested: form.suggested === 'yes',
    });
    await goOn(`/goods/orders/${id}`);
  });
}

const BEGINS = [
  { value: 'yes', words: 'With what is suggested' },
  { value: 'no', words: 'Empty' },
] as const;
const COLUMNS = [
  { key: 'number', words: 'Number', width: '120px' },
  { key: 'supplier', words: 'Supplier' },
  { key: 'state', words: 'How far', width: '210px' },
  { key: 'expectedOn', words: 'Expected', width: '150px' },
  { key: 'total', words: 'Costs', right: true, width: '140px' },
];
const DELIVERY_COLUMNS = [
  { key: 'number', words: 'Number', width: '120px' },
  { key: 'supplier', words: 'Supplier' },
  { key: 'at', words: 'Came', width: '230px' },
  { key: 'invoiceNumber', words: 'Invoice', width: '170px' },
  { key: 'cost', words: 'Cost', right: true, width: '140px' },
];
const rows = computed(() => store.orders?.orders ?? []);
const deliveries = computed(() => store.orders?.deliveries ?? []);
const late = ({ state, expectedOn }: OrderRow) =>
  state === 'sent' && expectedOn !== null && expectedOn < (store.orders?.today ?? '');
</script>

<template>
  <div class="beside-form" :class="{ beside: beginning }">
    <ListPage
      v-if="store.listed.show !== 'deliveries'"
      v-model:page="store.listedPage"
      :narrowed="store.listed.find.trim() !== ''"
      title="Orders to suppliers"
      :of="['order', 'orders']"
      :columns="COLUMNS"
      :rows
      :count="store.orders?.count ?? null"
      :per-page="LIST_PAGE"
      :busy
      :name-of="(row) => orderNumber(row.number)"
      @open="({ id }) => router.push(`/goods/orders/${id}`)"
      @widen="store.listed.find = ''"
    >
      <template #acts>
        <v-btn v-if="mayOpen('/goods/suppliers')" to="/goods/suppliers">Suppliers</v-btn>
        <v-btn v-if="session.may('goods.order')" :class="{ go: !beginning }" @click="begin">New order</v-btn>
      </template>
      <template #filters>
        <OrderFilters />
      </template>
      <template #number="{ row }"
        ><b class="num">{{ orderNumber(row.number) }}</b></template
      >
      <template #supplier="{ row }"
        ><b>{{ row.supplier }}</b> <span class="soft">for {{ row.place }}</span></template
      >
      <template #state="{ row }">{{ orderWords(row.state, row.lines) }}</template>
      <template #expectedOn="{ row }"
        ><span v-if="row.expectedOn && row.state !== 'closed'" :class="{ bad: late(row) }">{{
          till.calendarDay(row.expectedOn)
        }}</span></template
      >
      <template #total="{ row }">{{ till.money(row.total) }}</template>
      <template #empty>
        <b>{{ store.listed.show === 'open' ? 'Nothing is on order' : 'No orders yet' }}</b>
        <p v-if="(store.orders?.suppliers.length ?? 0) === 0">
          First say from whom goods come, and on an item's page what comes from them.
        </p>
      </template>
    </ListPage>
    <ListPage
      v-else
      v-model:page="store.listedPage"
      :narrowed="store.listed.find.trim() !== ''"
      title="Deliveries"
      :of="['delivery', 'deliveries']"
      :columns="DELIVERY_COLUMNS"
      :rows="deliveries"
      :count="store.orders?.count ?? null"
      :per-page="LIST_PAGE"
      :busy
      :name-of="(row) => deliveryNumber(row.number)"
      @open="({ id }) => router.push(`/goods/deliveries/${id}`)"
      @widen="store.listed.find = ''"
    >
      <template #filters>
        <OrderFilters />
      </template>
      <template #number="{ row }"
        ><b class="num">{{ deliveryNumber(row.number) }}</b></template
      >
      <template #at="{ row }">{{ till.time(row.at, 'full') }}, {{ row.place }}</template>
      <template #invoiceNumber="{ row }"
        ><template v-if="row.invoiceNumber">{{ row.invoiceNumber }}</template
        ><span v-else class="why">not yet</span></template
      >
      <template #cost="{ row }">{{ till.money(row.cost) }}</template>
      <template #empty>
        <b>Nothing came yet</b>
      </template>
    </ListPage>
    <aside v-if="beginning" class="scroll" aria-label="New order">
      <FormPanel
        ref="panel"
        title="New order"
        done="Begin it"
        :busy="sending"
        :wrong="whole"
        remembers="new order"
        :fields="form"
        @accept="accept"
        @leave="beginning = false"
      >
        <v-autocomplete
          v-model="form.supplierId"
          label="From whom"
          :items="(store.orders?.suppliers ?? []).map(({ id, name }) => ({ value: id, title: name }))"
          :error-messages="wrong.supplierId"
        />
        <ChipChoice v-if="places.length > 1" v-model="form.placeId" label="For where" :options="places" />
        <ChipChoice v-model="form.suggested" label="It begins" :options="BEGINS" />
        <CountField
          v-if="form.suggested === 'yes'"
          v-model="form.cover"
          label="Days it shall last, where no point is set"
          :wrong="wrong.cover"
        />
      </FormPanel>
    </aside>
  </div>
</template>
