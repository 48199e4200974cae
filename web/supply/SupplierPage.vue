<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';
import {
  MOST_OF_SUPPLIER,
  type OrdersQuery,
  type SupplierPage as PageOfSupplier,
} from '../../contract/supply.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { deliveryNumber, orderNumber, orderWords } from '../../core/supply/purchaseOrder.ts';
import MoreRows from '../look/MoreRows.vue';
import { usePageOf } from '../look/pageOf.ts';
import { useSomeOf } from '../look/someOf.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import SupplierForm from './SupplierForm.vue';
import { useSupplyStore } from './supplyStore.ts';
import WordButton from '../look/WordButton.vue';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

/** One supplier: who they are, what comes from them, what is on order, and how they delivered. */
const store = useSupplyStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const goOn = useWayOn();
const changing = shallowRef<PageOfSupplier | null>(null);
const busy = ref(false);

const load = async () => store.loadSupplier(Number(route.params.id));
usePageOf('/goods/suppliers', async () => {
  changing.value = null;
  await load();
});
onUnmounted(store.follow(load));

const page = computed(() => store.supplier);
const facts = computed(() => {
  const record = page.value?.record;
  if (!record) return [];
  return [
    { words: 'Speak to', value: record.contact },
    { words: 'Mail', value: record.email },
    { words: 'Telephone', value: record.phone },
    { words: 'Address', value: [record.street, record.postcode, record.city].filter(Boolean).join(', ') },
    { words: 'Our number', value: record.account },
    { words: 'Goods come in', value: counted(record.leadDays, 'day') },
    { words: 'To be paid in', value: counted(record.daysToPay, 'day') },
    { words: 'Note', value: record.words },
  ].filter(({ value }) => value !== '');
});
const figures = computed(() => {
  const { reliability, owed = 0, notInvoiced = 0 } = page.value ?? {};
  return [
    { words: 'Owed by invoices', value: till.money(owed) },
    { words: 'Came, not invoiced', value: till.money(notInvoiced) },
    {
      words: 'Delivers in',
      value: reliability?.days == null ? '–' : counted(reliability.days, 'day'),
    },
    {
      words: 'Completely',
      value: reliability?.complete == null ? '–' : `${Math.floor(reliability.complete / 10_000)} %`,
    },
  ];
});

/** What is not shown here any more stands among all. */
function findAll(show: OrdersQuery['show']): void {
  Object.assign(store.listed, { show, find: page.value?.record.name ?? '' });
  store.listedPage = 0;
  void goOn('/goods/orders');
}

const items = useSomeOf(() => page.value?.items ?? []);

async function order(): Promise<void> {
  const places = store.orders ?? (await store.loadOrders().then(() => store.orders));
  const here = places?.places.find((place) => place.here) ?? places?.places[0];
  if (!page.value || !here) return;
  busy.value = true;
  try {
    const id = await store.beginOrder({
      supplierId: page.value.id,
      placeId: here.id,
      suggested: true,
      cover: 14,
    });
    await goOn(`/goods/orders/${id}`);
  } catch (error) {
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div v-if="page" class="two">
    <section class="zone" aria-labelledby="supplier-name">
      <header class="head">
        <router-link class="word" to="/goods/suppliers">All suppliers</router-link>
      </header>
      <div class="scroll">
        <SupplierForm v-if="changing" :page="changing" @done="changing = null" @leave="changing = null" />
        <div v-else class="of-page">
          <h1 id="supplier-name" class="title">{{ page.record.name }}</h1>
          <p v-if="!page.record.active" class="why">Not ordered from any more</p>
          <dl class="facts">
            <template v-for="{ words, value } in facts" :key="words">
              <dt>{{ words }}</dt>
              <dd>{{ value }}</dd>
            </template>
          </dl>
          <div class="acts">
            <v-btn @click="changing = page">Change</v-btn>
            <WaitButton v-if="page.record.active" class="go" :loading="busy" @click="order">Order</WaitButton>
          </div>
        </div>
      </div>
    </section>
    <section class="zone" aria-label="Orders, deliveries and items">
      <dl class="page-figures">
        <div v-for="{ words, value } in figures" :key="words">
          <dt class="label">{{ words }}</dt>
          <dd class="num">{{ value }}</dd>
        </div>
      </dl>
      <div class="scroll page-lists">
        <section v-if="page.orders.length > 0">
          <h2 class="label">
            Orders
            <WordButton v-if="page.orders.length === MOST_OF_SUPPLIER" @click="findAll('all')"
              >All of them</WordButton
            >
          </h2>
          <ul>
            <li v-for="one in page.orders" :key="one.id">
              <span
                ><router-link class="word num" :to="`/goods/orders/${one.id}`">{{
                  orderNumber(one.number)
                }}</router-link>
                {{ orderWords(one.state, one.lines) }}
                <span class="soft">{{ till.time(one.at, 'full') }}</span></span
              >
              <span class="num">{{ till.money(one.total) }}</span>
            </li>
          </ul>
        </section>
        <section v-if="page.deliveries.length > 0">
          <h2 class="label">
            Deliveries
            <WordButton v-if="page.deliveries.length === MOST_OF_SUPPLIER" @click="findAll('deliveries')"
              >All of them</WordButton
            >
          </h2>
          <ul>
            <li v-for="one in page.deliveries" :key="one.id">
              <span
                ><router-link class="word num" :to="`/goods/deliveries/${one.id}`">{{
                  deliveryNumber(one.number)
                }}</router-link>
                <span class="soft">{{ till.time(one.at, 'full') }}, {{ one.place }}</span>
                <span v-if="!one.invoiceNumber" class="why">no invoice yet</span></span
              >
              <span class="num">{{ till.money(one.cost) }}</span>
            </li>
          </ul>
        </section>
        <section>
          <h2 class="label">What comes from them</h2>
          <ul v-if="page.items.length > 0">
            <li v-for="item in items.some.value" :key="item.itemId">
              <span
                ><router-link class="word" :to="`/goods/${item.itemId}`">{{ item.name }}</router-link>
                <span class="soft beneath"
                  >{{ item.theirNumber || item.number
                  }}<template v-if="item.pack !== 1000">
                    · packs of {{ quantityWords(item.pack, item.unit) }}</template
                  ></span
                ></span
              >
              <span class="num">{{ item.cost === null ? '' : till.money(item.cost) }}</span>
            </li>
          </ul>
          <p v-else class="soft">Nothing yet: an item's page says from whom it comes.</p>
          <MoreRows :of="items" />
        </section>
      </div>
    </section>
  </div>
  <p v-else class="empty" role="status">Looking it up …</p>
</template>
