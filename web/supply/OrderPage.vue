<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import equal from 'fast-deep-equal';
import { computed, onUnmounted, reactive, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { Asked } from '../../contract/goods.ts';
import type { OrderLineView, OrderPage as PageOfOrder, OrderableItem } from '../../contract/supply.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { goodsCost } from '../../core/supply/landedCost.ts';
import { deliveryNumber, orderNumber, orderWords, stillToCome } from '../../core/supply/purchaseOrder.ts';
import DateField from '../look/DateField.vue';
import LookUp from '../look/LookUp.vue';
import MoneyField from '../look/MoneyField.vue';
import QuantityField from '../look/QuantityField.vue';
import TypedBefore from '../look/TypedBefore.vue';
import { usePageOf } from '../look/pageOf.ts';
import { useRememberedInTurn } from '../look/remembered.ts';
import { problemWords } from '../net/problem.ts';
import { lookFirst } from '../notices/follow.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScannedGoods } from '../sale/scannedGoods.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import DeliveryForm from './DeliveryForm.vue';
import { useSupplyStore } from './supplyStore.ts';
import WordButton from '../look/WordButton.vue';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

/** One order to a supplier: what is on it, whether it went out, and what came of it. */
const store = useSupplyStore();
const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const goOn = useWayOn();
const busy = ref(false);
/** Somebody takes the delivery in: the order as they began. */
const receiving = shallowRef<PageOfOrder | null>(null);
/** Lines as somebody changes them; nothing while nobody does. */
const lines = shallowRef<OrderLineView[] | null>(null);
const expectedOn = ref('');
const words = ref('');
/** The order as it was when the change began: what another one makes of it since is not overwritten. */
const began = shallowRef<PageOfOrder | null>(null);
const { remembered, begin } = useRememberedInTurn();

interface Typed {
  lines: OrderLineView[];
  expectedOn: string;
  words: string;
  began: PageOfOrder;
}
/** What somebody has changed of it; nothing where nobody has. */
const typed = computed<Typed | null>({
  get() {
    if (!lines.value || !began.value) return null;
    const now = { lines: lines.value, expectedOn: expectedOn.value, words: words.value };
    const { lines: of, expectedOn: on, words: said } = began.value;
    return equal(now, { lines: of, expectedOn: on ?? '', words: said })
      ? null
      : { ...now, began: began.value };
  },
  set(given) {
    if (!given) return;
    [lines.value, expectedOn.value, words.value] = [given.lines, given.expectedOn, given.words];
    began.value = given.began;
  },
});

const load = () => store.loadOrder(Number(route.params.id));
usePageOf('/goods/orders', async () => {
  receiving.value = null;
  lines.value = null;
  await load();
  const title = () => (order.value ? orderNumber(order.value.number) : '');
  begin(`order ${String(route.params.id)}`, title, reactive({ typed }));
});
onUnmounted(store.follow(load));

const order = computed(() => store.order);
const may = computed(() => session.may('goods.order') && order.value?.state !== 'closed');
const linesShown = computed(() => lines.value ?? order.value?.lines ?? []);
const total = computed(() =>
  linesShown.value.reduce(
    (all, { quantity, unitCost }) =>
      all +
      (Number.isFinite(quantity) && Number.isFinite(unitCost ?? 0) ? goodsCost(quantity, unitCost ?? 0) : 0),
    0,
  ),
);
const facts = computed(() =>
  order.value
    ? [
        { words: 'For', value: order.value.place },
        { words: 'Expected', value: order.value.expectedOn ? till.calendarDay(order.value.expectedOn) : '' },
        { words: 'Sent', value: order.value.sentAt ? till.time(order.value.sentAt, 'full') : '' },
        { words: 'Made by', value: order.value.madeBy },
        { words: 'Note', value: order.value.words },
      ].filter(({ value }) => value !== '')
    : [],
);

function change(): OrderLineView[] {
  if (!lines.value && order.value) {
    expectedOn.value = order.value.expectedOn ?? '';
    words.value = order.value.words;
    lines.value = order.value.lines;
    began.value = order.value;
  }
  return lines.value ?? [];
}
function put(itemId: number, part: Partial<OrderLineView>): void {
  lines.value = change().map((line) => (line.itemId === itemId ? { ...line, ...part } : line));
}
function add(item: OrderableItem): void {
  const had = change().find(({ itemId }) => itemId === item.itemId);
  if (had) put(item.itemId, { quantity: had.quantity + item.pack });
  else lines.value = [...change(), { ...item, quantity: item.pack, received: 0, reason: '' }];
}
const drop = (itemId: number) => (lines.value = change().filter((line) => line.itemId !== itemId));

const ofOrder = async (asked: Asked) => (order.value ? store.findItems(order.value.id, asked) : []);
const search = (find: string) => ofOrder({ find });
const of = (item: OrderableItem) => ({
  key: item.itemId,
  name: item.name,
  beneath: item.theirNumber || item.number,
  figures: `${quantityWords(item.available, item.unit)} here`,
});
useScannedGoods(
  (code) => ofOrder({ code }),
  add,
  () => may.value && receiving.value === null,
);

async function attempt(work: () => Promise<unknown>): Promise<boolean> {
  busy.value = true;
  try {
    await work();
    return true;
  } catch (error) {
    notices.failed(problemWords(error));
    return false;
  } finally {
    busy.value = false;
  }
}
/** Takes over what another one has changed meanwhile, but where it was changed here as well. */
function look(): void {
  const [before, now, mine] = [began.value, order.value, lines.value];
  if (!before || !now || !mine) return;
  const of = ({ lines: all }: PageOfOrder, id: number) => all.find(({ itemId }) => itemId === id);
  const touched = (line: OrderLineView) => !equal(line, of(before, line.itemId));
  const stay = mine.filter((line) => touched(line) || of(now, line.itemId));
  lines.value = [
    ...stay.map((line) => (touched(line) ? line : (of(now, line.itemId) ?? line))),
    ...now.lines.filter(({ itemId }) => !of(before, itemId) && !stay.some((line) => line.itemId === itemId)),
  ];
  if (expectedOn.value === (before.expectedOn ?? '')) expectedOn.value = now.expectedOn ?? '';
  if (words.value === before.words) words.value = now.words;
  began.value = now;
}
/** Keeps what was changed, where anything was. */
async function keep(): Promise<boolean> {
  const [held, wanted] = [began.value, lines.value];
  if (!held || !wanted) return true;
  const bad = wanted.find(({ quantity, unitCost }) => !(quantity > 0) || Number.isNaN(unitCost));
  if (bad) {
    notices.failed(`${bad.name}: how many, and for how much?`);
    return false;
  }
  const changed = {
    version: held.version,
    expectedOn: expectedOn.value,
    words: words.value,
    lines: wanted.map(({ itemId, quantity, unitCost, reason }) => ({ itemId, quantity, unitCost, reason })),
  };
  const kept = await attempt(() =>
    store.saveOrder(held.id, changed).catch(lookFirst(() => load().then(look))),
  );
  if (kept) lines.value = null;
  return kept;
}
async function send(mail: boolean): Promise<void> {
  if (!(await keep()) || !order.value) return;
  const held = order.value;
  if (await attempt(() => store.sendOrder(held, mail)))
    notices.say(mail ? `The order goes to ${held.email}.` : `${orderNumber(held.number)} is noted as sent.`);
}
async function close(): Promise<void> {
  const held = order.value;
  if (!held) return;
  const draft = held.state === 'draft';
  if (await attempt(() => store.closeOrder(held))) {
    lines.value = null;
    if (draft) await goOn({ path: '/goods/orders', replace: true });
  }
}
async function receive(): Promise<void> {
  if (await keep()) receiving.value = order.value;
}
async function came({ id, number }: { id: number; number: number }): Promise<void> {
  receiving.value = null;
  notices.say(`Delivery ${deliveryNumber(number)} is in.`, {
    word: 'Print labels',
    do: () => void router.push({ path: '/goods/labels', query: { delivery: String(id) } }),
  });
  await load().catch(() => {});
}
</script>

<template>
  <DeliveryForm v-if="receiving" :order="receiving" @done="came" @leave="receiving = null" />
  <div v-else-if="order" class="two">
    <section class="zone" aria-labelledby="order-title">
      <header class="head"><router-link class="word" to="/goods/orders">All orders</router-link></header>
      <div class="scroll">
        <div class="of-page">
          <h1 id="order-title" class="title">
            <span class="num">{{ orderNumber(order.number) }}</span> {{ order.supplier }}
          </h1>
          <p>
            <b>{{ orderWords(order.state, order.lines) }}</b>
          </p>
          <TypedBefore v-if="remembered && may" :of="remembered" />
          <template v-if="lines">
            <DateField v-model="expectedOn" label="Expected" />
            <v-textarea v-model="words" label="Note for the supplier" rows="2" auto-grow hide-details />
          </template>
          <dl v-else class="facts">
            <template v-for="{ words: what, value } in facts" :key="what">
              <dt>{{ what }}</dt>
              <dd>{{ value }}</dd>
            </template>
          </dl>
          <div v-if="lines" class="acts">
            <v-btn @click="lines = null">Leave it as it was</v-btn>
            <WaitButton class="go" :loading="busy" @click="keep">Keep</WaitButton>
          </div>
          <div v-else class="acts">
            <v-btn v-if="may" @click="change">Change</v-btn>
            <v-btn
              v-if="session.may('goods.order')"
              :href="`/api/supply/orders/${order.id}.pdf`"
              target="_blank"
              >PDF</v-btn
            >
            <WaitButton v-if="may" :loading="busy" @click="close">{{
              order.state === 'draft' ? 'Throw away' : 'Expect no more'
            }}</WaitButton>
          </div>
          <div v-if="order.state !== 'closed'" class="acts">
            <WaitButton
              v-if="may && order.email"
              :class="{ go: order.state === 'draft' }"
              :loading="busy"
              @click="send(true)"
              >Mail it</WaitButton
            >
            <WaitButton
              v-if="may && order.state === 'draft'"
              :class="{ go: !order.email }"
              :loading="busy"
              @click="send(false)"
              >It was sent</WaitButton
            >
            <WaitButton
              v-if="session.may('goods.receive') && order.lines.length > 0"
              :class="{ go: order.state === 'sent' }"
              :loading="busy"
              @click="receive"
              >Take a delivery in</WaitButton
            >
          </div>
          <section v-if="order.deliveries.length > 0" class="page-lists flat">
            <h2 class="label">What came</h2>
            <ul>
              <li v-for="one in order.deliveries" :key="one.id">
                <span
                  ><router-link class="word num" :to="`/goods/deliveries/${one.id}`">{{
                    deliveryNumber(one.number)
                  }}</router-link>
                  <span class="soft">{{ till.time(one.at, 'full') }}</span></span
                ><span class="num">{{ till.money(one.cost) }}</span>
              </li>
            </ul>
          </section>
        </div>
      </div>
    </section>
    <section class="zone" aria-label="What is ordered">
      <header v-if="may" class="adding">
        <LookUp label="Add: name, number, or scan the code" :search :of @take="add" />
      </header>
      <div class="scroll">
        <table v-if="linesShown.length > 0" class="goods-lines">
          <thead>
            <tr>
              <th>Goods</th>
              <th class="right">Came</th>
              <th class="right">Quantity</th>
              <th class="right">Each</th>
              <th class="right">Together</th>
              <th v-if="lines"></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in linesShown" :key="line.itemId">
              <td>
                <b>{{ line.name }}</b>
                <span class="soft beneath">{{ line.theirNumber || line.number }}</span>
                <span v-if="line.reason" class="soft beneath">{{ line.reason }}</span>
              </td>
              <td class="right num">
                <span :class="{ bad: order.state === 'closed' && stillToCome(line) > 0 }">{{
                  line.received > 0 ? quantityWords(line.received, 'each') : ''
                }}</span>
              </td>
              <td class="right num">
                <QuantityField
                  v-if="lines"
                  bare
                  :model-value="line.quantity"
                  :label="`Quantity of ${line.name}`"
                  :decimals="line.decimals"
                  @update:model-value="(quantity) => put(line.itemId, { quantity: quantity ?? Number.NaN })"
                /><template v-else>{{ quantityWords(line.quantity, line.unit) }}</template>
              </td>
              <td class="right num">
                <MoneyField
                  v-if="lines"
                  bare
                  optional
                  :model-value="line.unitCost"
                  :label="`Each of ${line.name}`"
                  @update:model-value="(unitCost) => put(line.itemId, { unitCost })"
                /><template v-else>{{ line.unitCost === null ? '' : till.money(line.unitCost) }}</template>
              </td>
              <td class="right num">
                {{
                  line.unitCost !== null && line.quantity > 0 && Number.isFinite(line.unitCost)
                    ? till.money(goodsCost(line.quantity, line.unitCost))
                    : ''
                }}
              </td>
              <td v-if="lines">
                <WordButton v-if="line.received === 0" @click="drop(line.itemId)"> Take off </WordButton>
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <td colspan="4">{{ counted(linesShown.length, 'line') }}</td>
              <td class="right num">
                <b>{{ till.money(total) }}</b>
              </td>
              <td v-if="lines"></td>
            </tr>
          </tfoot>
        </table>
        <p v-else class="empty">
          <b>Nothing is on it yet</b><span>Type or scan what is wanted. Nothing was suggested.</span>
        </p>
      </div>
    </section>
  </div>
  <p v-else class="empty" role="status">Looking it up …</p>
</template>

<style scoped>
.adding {
  padding: 10px 18px;
  border-bottom: var(--rule);
}
</style>
