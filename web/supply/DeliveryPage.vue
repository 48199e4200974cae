<script setup lang="ts">
import { computed, onUnmounted, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import { useRoute } from 'vue-router';
import type { DeliveryPage as PageOfDelivery } from '../../contract/supply.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { SPREADS } from '../../core/supply/landedCost.ts';
import {
  canGoBack,
  deliveryNumber,
  orderNumber,
  supplierReturnNumber,
} from '../../core/supply/purchaseOrder.ts';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { usePageOf } from '../look/pageOf.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import SendBackForm from './SendBackForm.vue';
import { useSupplyStore } from './supplyStore.ts';

/** A delivery: what came and what it cost, and the supplier's invoice when it comes. */
const store = useSupplyStore();
const till = useTillStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const notices = useNoticeStore();
const route = useRoute();
const panel = useTemplateRef('panel');
/** The delivery as somebody began to note its invoice. */
const invoicing = shallowRef<PageOfDelivery | null>(null);
/** The delivery as somebody began to send goods of it back. */
const goingBack = shallowRef<PageOfDelivery | null>(null);
const number = ref('');
const freight = ref<number | null>(0);
const costs = ref<(number | null)[]>([]);
const typed = reactive({ number, freight, costs });
const { wrong, whole, busy, send } = useFormAnswer(panel);

const load = () => store.loadDelivery(Number(route.params.id));
usePageOf('/goods/orders', async () => {
  [invoicing.value, goingBack.value] = [null, null];
  await load();
});
onUnmounted(store.follow(load));

const page = computed(() => store.delivery);
const facts = computed(() => {
  const now = page.value;
  if (!now) return [];
  return [
    { words: 'Came', value: `${till.time(now.at, 'full')}, ${now.place}` },
    { words: 'Taken in by', value: now.who },
    { words: 'Delivery note', value: now.deliveryNote },
    {
      words: 'Freight',
      value: now.freight > 0 ? `${till.money(now.freight)}, ${SPREADS[now.spreadBy].toLowerCase()}` : '',
    },
    { words: 'Cost', value: till.money(now.cost) },
    {
      words: 'Invoice',
      value: now.invoiceNumber
        ? `${now.invoiceNumber}, ${till.money(now.invoiceTotal ?? 0)}, ${till.time(now.invoicedAt ?? now.at, 'full')}`
        : 'not yet',
    },
  ].filter(({ value }) => value !== '');
});
const total = computed(() =>
  [...costs.value, freight.value].reduce<number>(
    (all, amount) => all + (Number.isFinite(amount ?? 0) ? (amount ?? 0) : 0),
    0,
  ),
);

function begin(): void {
  const now = page.value;
  if (!now) return;
  [number.value, freight.value] = ['', now.freight];
  costs.value = now.lines.map(({ goodsCost }) => goodsCost);
  [wrong.value, whole.value] = [{}, ''];
  invoicing.value = now;
}
async function accept(): Promise<void> {
  const held = invoicing.value;
  if (!held) return;
  const none = (amount: number | null) => (amount === null || Number.isNaN(amount)) && 'Type an amount.';
  const mistakes = {
    freight: none(freight.value),
    ...Object.fromEntries(costs.value.map((amount, at) => [`lines[${at}]`, none(amount)])),
  };
  await send(mistakes, async () => {
    await store.noteInvoice(held.id, {
      version: held.version,
      number: number.value,
      freight: freight.value ?? 0,
      lines: costs.value.map((amount) => amount ?? 0),
    });
    invoicing.value = null;
    notices.say('The invoice is noted; what the goods cost follows it.');
  });
}
</script>

<template>
  <SendBackForm v-if="goingBack" :page="goingBack" @leave="goingBack = null" />
  <div v-else-if="page" class="two">
    <section class="zone" aria-labelledby="delivery-title">
      <header class="head">
        <router-link class="word" to="/goods/orders">All orders</router-link>
        <router-link v-if="page.orderId" class="word num" :to="`/goods/orders/${page.orderId}`">{{
          orderNumber(page.orderNumber ?? 0)
        }}</router-link>
      </header>
      <div class="scroll">
        <FormPanel
          v-if="invoicing"
          ref="panel"
          title="The invoice"
          :done="`Note ${till.money(total)}`"
          :busy
          :wrong="whole || wrong.lines"
          :remembers="`invoice of ${invoicing.id} ${invoicing.version}`"
          :fields="typed"
          @accept="accept"
          @leave="invoicing = null"
        >
          <v-text-field
            v-model="number"
            label="Its number"
            autocomplete="off"
            :error-messages="wrong.number"
          />
          <MoneyField v-model="freight" label="Freight and duty" :wrong="wrong.freight" />
          <MoneyField
            v-for="(line, at) in invoicing.lines"
            :key="line.layerId"
            hide-details="auto"
            :model-value="costs[at] ?? null"
            :label="`${quantityWords(line.quantity, line.unit)} × ${line.name}`"
            :wrong="wrong[`lines[${at}]`]"
            @update:model-value="(amount) => (costs[at] = amount)"
          />
        </FormPanel>
        <div v-else class="of-page">
          <h1 id="delivery-title" class="title">
            <span class="num">{{ deliveryNumber(page.number) }}</span> {{ page.supplier }}
          </h1>
          <dl class="facts">
            <template v-for="{ words, value } in facts" :key="words">
              <dt>{{ words }}</dt>
              <dd>{{ value }}</dd>
            </template>
          </dl>
          <div class="acts">
            <v-btn v-if="mayOpen('/goods/labels')" :to="`/goods/labels?delivery=${page.id}`">Labels</v-btn>
            <v-btn
              v-if="session.may('goods.receive') && page.lines.some((line) => canGoBack(line) > 0)"
              @click="goingBack = page"
              >Send goods back</v-btn
            >
            <v-btn v-if="!page.invoiceNumber && session.may('goods.cost')" class="go" @click="begin"
              >Note the invoice</v-btn
            >
          </div>
          <section v-if="page.returns.length > 0" class="page-lists flat">
            <h2 class="label">What went back</h2>
            <ul>
              <li v-for="one in page.returns" :key="one.id">
                <span
                  ><a class="word num" :href="`/api/supply/returns/${one.id}.pdf`" target="_blank">{{
                    supplierReturnNumber(one.number)
                  }}</a>
                  {{ one.words }}
                  <span class="soft beneath">{{ till.time(one.at, 'full') }}, {{ one.who }}</span>
                  <span v-for="line in one.lines" :key="line.number" class="beneath"
                    >{{ quantityWords(line.quantity, line.unit) }} × {{ line.name }}
                    {{ line.serials.join(', ') }}</span
                  ></span
                ><span class="num">{{ till.money(one.cost) }}</span>
              </li>
            </ul>
          </section>
        </div>
      </div>
    </section>
    <section class="zone" aria-label="What came">
      <div class="scroll">
        <table class="goods-lines">
          <thead>
            <tr>
              <th>Goods</th>
              <th class="right">Came</th>
              <th class="right">Broken</th>
              <th class="right">Went back</th>
              <th class="right">Goods</th>
              <th class="right">Freight</th>
              <th class="right">Together</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in page.lines" :key="line.layerId">
              <td>
                <router-link class="word" :to="`/goods/${line.itemId}`">{{ line.name }}</router-link>
                <span class="soft beneath">{{ line.number }}</span>
              </td>
              <td class="right num">{{ quantityWords(line.quantity, line.unit) }}</td>
              <td class="right num bad">
                {{ line.damaged > 0 ? quantityWords(line.damaged, line.unit) : '' }}
              </td>
              <td class="right num">{{ line.back > 0 ? quantityWords(line.back, line.unit) : '' }}</td>
              <td class="right num">{{ till.money(line.goodsCost) }}</td>
              <td class="right num">{{ line.freight !== 0 ? till.money(line.freight) : '' }}</td>
              <td class="right num">{{ till.money(line.goodsCost + line.freight) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
  <p v-else class="empty" role="status">Looking it up …</p>
</template>
