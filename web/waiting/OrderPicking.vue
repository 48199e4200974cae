<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { OrderStep } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import { canBeSent, overProblem, takeOutProblem, toFind, toPick } from '../../core/promises/may.ts';
import type { PromiseLine } from '../../core/promises/promised.ts';
import { WAYS } from '../../core/promises/ways.ts';
import { formatQuantity, ONE, parseQuantity } from '../../core/quantity.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import HowManyField from '../look/HowManyField.vue';
import { useOrderStore } from './orderStore.ts';
import { usePromiseStore } from './promiseStore.ts';
import WordButton from '../look/WordButton.vue';

/** The goods of an order: where they are picked, what is short, and what goes from a place to another. */
const { view } = defineProps<{ view: PromiseView }>();
const orders = useOrderStore();
const promises = usePromiseStore();
const till = useTillStore();
const { attempt } = useAttempt();

const open = computed(() => overProblem(view) === null);
const collectAt = computed(() => view.handover?.collect?.placeId ?? null);
const found = reactive<Record<number, string>>({});
/** The line for which another place is looked for. */
const elsewhere = ref<number | null>(null);
const shown = (line: PromiseLine): string => found[line.position] ?? formatQuantity(toPick(line));
const step = (body: OrderStep, done: string) => attempt(orders.takeStep(view.id, body), done);

async function pick(line: PromiseLine): Promise<void> {
  const quantity = parseQuantity(shown(line) || '0', line.decimals);
  if (quantity === null) return;
  const all = quantity === toPick(line);
  await step(
    { what: 'pick', position: line.position, found: quantity },
    all ? 'Picked.' : 'What is missing is noted as short.',
  );
  Reflect.deleteProperty(found, line.position);
}
async function lookElsewhere(line: PromiseLine): Promise<void> {
  elsewhere.value = elsewhere.value === line.position ? null : line.position;
  // What there is of another line is not offered for this one.
  orders.forget();
  if (elsewhere.value !== null) await orders.load([line.itemId]);
}
const others = (line: PromiseLine) =>
  (orders.facts?.stock[0]?.sources ?? []).filter(
    ({ placeId, available }) => placeId !== line.order?.placeId && available >= toPick(line),
  );
async function pickAt(line: PromiseLine, placeId: number): Promise<void> {
  if (await step({ what: 'source', position: line.position, placeId }, 'It is picked there.'))
    elsewhere.value = null;
}
/** Places where something is to be picked, and what they are called. */
const placesOf = (lines: readonly PromiseLine[]): [number, string][] => [
  ...new Map(lines.map(({ order }) => [order?.placeId ?? 0, order?.place ?? ''])).entries(),
];
const pickers = computed(() => placesOf(view.lines.filter((line) => toFind(line) > 0)));
/** Places where something lies picked that is collected elsewhere. */
const senders = computed(() => placesOf(view.lines.filter((line) => canBeSent(line, collectAt.value))));
const onTheWay = computed(() => view.lines.some(({ order }) => order?.sent));

/** How far a line is, in words. */
function progress(line: PromiseLine): string {
  const { order, handed, quantity } = line;
  if (!order) return '';
  if (handed >= quantity) return order.way === 'ship' ? 'shipped' : 'handed over';
  const gone = handed > 0 ? `${formatQuantity(handed)} handed over, ` : '';
  if (order.sent) return `${gone}on the way from ${order.place}`;
  if (order.short > 0) return `${gone}${formatQuantity(order.short)} short at ${order.place}`;
  return gone + (order.picked >= quantity ? `lies at ${order.place}` : `to be picked at ${order.place}`);
}
</script>

<template>
  <table>
    <caption class="label">
      Goods
    </caption>
    <tbody>
      <template v-for="line in view.lines" :key="line.position">
        <tr>
          <td class="num">{{ line.quantity === ONE ? '' : formatQuantity(line.quantity) }}</td>
          <td>
            {{ line.name }} <span v-if="line.serial" class="num soft">No. {{ line.serial }}</span>
            <span v-if="line.order" class="soft how" :class="{ bad: line.order.short > 0 }"
              >{{ WAYS[line.order.way] }}, {{ progress(line) }}</span
            >
            <span v-for="(record, at) in line.records" :key="at" class="soft how">
              {{ record.why }} <span class="num">{{ till.money(record.amount) }}</span>
            </span>
            <span v-if="line.note" class="soft how">{{ line.note }}</span>
            <div v-if="open" class="picks">
              <template v-if="toPick(line) > 0 && !line.order?.sent">
                <HowManyField
                  :label="`How many of ${line.name} were found`"
                  :model-value="shown(line)"
                  @update:model-value="(typed) => (found[line.position] = typed)"
                  @keydown.enter.prevent="pick(line)"
                />
                <v-btn size="small" @click="pick(line)">Picked</v-btn>
                <WordButton :aria-expanded="elsewhere === line.position" @click="lookElsewhere(line)">
                  Elsewhere
                </WordButton>
              </template>
              <WordButton
                v-if="view.lines.length > 1 && takeOutProblem(view, view.lines, line.position) === null"
                @click="attempt(promises.takeOut(view.id, line.position), 'Taken out: it can be sold again.')"
              >
                Take out
              </WordButton>
            </div>
          </td>
          <td class="num right">{{ till.money(line.net + line.tax) }}</td>
        </tr>
        <tr v-if="elsewhere === line.position">
          <td></td>
          <td colspan="2">
            <span v-if="others(line).length === 0" class="soft">No other place has them.</span>
            <v-btn
              v-for="one in others(line)"
              :key="one.placeId"
              size="small"
              class="there"
              @click="pickAt(line, one.placeId)"
              >At {{ one.place }}, {{ formatQuantity(one.available) }} there</v-btn
            >
          </td>
        </tr>
      </template>
      <tr>
        <td></td>
        <td><b>Total with tax</b></td>
        <td class="num right">
          <b>{{ till.money(view.total) }}</b>
        </td>
      </tr>
    </tbody>
  </table>
  <div v-if="open && (pickers.length > 0 || senders.length > 0 || onTheWay)" class="moves">
    <v-btn
      v-for="[placeId, place] in pickers"
      :key="placeId"
      @click="step({ what: 'pick', placeId }, `All is picked at ${place}.`)"
      >All picked at {{ place }}</v-btn
    >
    <v-btn
      v-for="[placeId, place] in senders"
      :key="placeId"
      @click="step({ what: 'send', placeId }, `It is on its way from ${place}.`)"
      >Send from {{ place }} to {{ view.handover?.collect?.place }}</v-btn
    >
    <v-btn v-if="onTheWay" @click="step({ what: 'arrived' }, 'It is here, and set aside.')"
      >It has arrived at {{ view.handover?.collect?.place }}</v-btn
    >
  </div>
</template>

<style scoped>
.how {
  display: block;
}
.picks {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin-top: 4px;
}
.how-many {
  width: 56px;
}
.there {
  margin-right: 8px;
}
.moves {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
