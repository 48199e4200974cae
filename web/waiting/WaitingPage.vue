<script setup lang="ts">
import { watchImmediate, whenever } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { counted } from '../../core/locale.ts';
import { PROMISE_STATES } from '../../core/promises/state.ts';
import { wordsFit } from '../../core/words.ts';
import type { PromiseRow } from '../../contract/promises.ts';
import type { HeldBasket } from '../../contract/waiting.ts';
import { useAskedList } from '../look/askedList.ts';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import { useFirstFound } from '../look/firstFound.ts';
import ListColumn from '../look/ListColumn.vue';
import { problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import HeldDetail from './HeldDetail.vue';
import PromiseDetail from './PromiseDetail.vue';
import { useOrderStore } from './orderStore.ts';
import { usePromiseStore } from './promiseStore.ts';
import { useWaitingStore } from './waitingStore.ts';
import WordButton from '../look/WordButton.vue';
import { useAnswer } from '../notices/answer.ts';

const waiting = useWaitingStore();
const promises = usePromiseStore();
const orders = useOrderStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();

const SHOWN = [
  { value: 'open' as const, words: 'All that waits' },
  { value: 'attention' as const, words: 'Wants attention' },
  { value: 'pick' as const, words: 'To pick' },
  { value: 'all' as const, words: 'Over as well' },
];

void useLook(waiting.load)();
const more = useLook(promises.more);
const asked = useAskedList(() => JSON.stringify(promises.filter), ref(0), promises.load);

const places = useAnswer(async () => {
  if (promises.filter.show !== 'pick') return [];
  const { places: all } = await orders.factsOf([]);
  return all.map(({ id, name }) => ({ value: id, words: name }));
}, []);
/** Baskets on hold that have every word that is looked for. */
const held = computed(() => {
  if (promises.filter.show === 'attention' || promises.filter.show === 'pick' || narrowed.value) return [];
  return waiting.held.filter(({ name, number, note, basket }) => {
    const words = [name, number, note, ...basket.lines.map((line) => line.name)].join(' ');
    return wordsFit(promises.filter.find, words);
  });
});
const narrowing = ref(false);
const narrowed = computed(() => {
  const { from, to, placedAt } = promises.filter;
  return narrowing.value || from !== '' || to !== '' || placedAt !== '';
});
const elsewhere = computed(() =>
  (promises.page?.elsewhere ?? []).map(({ value, name }) => ({ value, words: name })),
);
function showAll(): void {
  promises.filter.find = '';
  widen();
}
function widen(): void {
  Object.assign(promises.filter, { from: '', to: '', placedAt: '' });
  narrowing.value = false;
}
const promised = computed(() => promises.page?.rows ?? []);
const rows = computed(() => [...held.value, ...promised.value]);

const chosenId = computed(() => String(route.params.id ?? ''));
const chosenHeld = computed(() => waiting.held.find(({ id }) => id === chosenId.value));
/** What can be done is done with what the list marks: the promise before is out of sight until this one is there. */
const looked = computed(() => (promises.looked?.id === chosenId.value ? promises.looked : null));
// What is not there sends back to the list.
const open = useLook(promises.look, (error) => {
  notices.failed(problemWords(error));
  return router.replace('/waiting');
});
// What is on hold is there already; a promise is asked for, once it is known that it is none of those.
watchImmediate([chosenId, () => waiting.known], ([id, known]) => {
  if (!known) return;
  waiting.lookedAt = chosenHeld.value ? id : '';
  void open(chosenHeld.value || !id ? null : id);
});
onUnmounted(() => (waiting.lookedAt = ''));

const choose = ({ id }: { id: string }) => router.replace(`/waiting/${id}`);
/** Whether all that waits is known. */
const known = computed(() => waiting.known && promises.page !== null);
/** Where nothing was looked at, it is the first: nobody's hand is on another one. */
whenever(
  () => known.value && route.path === '/waiting' && rows.value[0],
  (first) => void choose(first),
  { immediate: true },
);
const chooseFirst = useFirstFound(
  () => promises.filter.find,
  asked,
  () => {
    const [first] = rows.value;
    if (first && promises.filter.find.trim()) void choose(first);
  },
);

/** What a promise wants, in a few words. */
function wants(row: PromiseRow): string {
  if (row.overdueDays > 0) return `${counted(row.overdueDays, 'day')} late`;
  return row.stage ? `${PROMISE_STATES[row.state]}, ${row.stage}` : PROMISE_STATES[row.state];
}
const tone = (row: PromiseRow): string =>
  row.overdueDays > 0 || row.state === 'short' || row.state === 'refused'
    ? 'bad'
    : ['asked', 'paid', 'ready', 'delivered'].includes(row.state)
      ? 'why'
      : 'soft';
/** What comes next of a promise, and when. */
function whatNext({ next, order, relay }: PromiseRow): string {
  if (order?.collect) {
    const { place, day, time } = order.collect;
    return `${place}, ${till.calendarDay(day)}, ${till.timeOfDay(time)}`;
  }
  if (relay) return `${relay.partner}, ${till.calendarDay(relay.day)}`;
  if (order) return `to ${order.recipient}`;
  return next ? `${till.money(next.amount)} on ${till.calendarDay(next.day)}` : '';
}
const countWords = computed(() => counted(held.value.length + (promises.page?.count ?? 0), 'waits', 'wait'));
const parts = computed<{ words: string; rows: (HeldBasket | PromiseRow)[] }[]>(() => [
  { words: 'On hold', rows: held.value },
  { words: 'Layaways, orders and relays', rows: promised.value },
]);
const onHold = (row: HeldBasket | PromiseRow): row is HeldBasket => 'heldAt' in row;
</script>

<template>
  <div class="two">
    <ListColumn
      :narrowed="promises.filter.find !== '' || narrowed"
      @widen="showAll"
      title="Waiting"
      :counted="countWords"
      :known
      :parts
      :open="chosenId"
      :more="promised.length < (promises.page?.count ?? 0) ? 'More' : ''"
      @open="choose"
      :pass="choose"
      @more="more"
    >
      <template #find>
        <v-text-field
          v-model="promises.filter.find"
          label="Number, customer, goods"
          placeholder="L-0001, O-0001, mila, violin"
          clearable
          @keydown.enter.prevent="chooseFirst"
          @click:clear="promises.filter.find = ''"
        />
        <ChipChoice
          :model-value="promises.filter.show"
          label="What is listed"
          :options="SHOWN"
          @update:model-value="promises.filter.show = $event ?? 'open'"
        />
        <WordButton v-if="!narrowed" @click="narrowing = true"> By day, channel or partner </WordButton>
        <div v-else class="narrow">
          <DateField v-model="promises.filter.from" label="Made from" />
          <DateField v-model="promises.filter.to" label="Until" />
          <ChipChoice
            v-if="elsewhere.length > 0"
            :model-value="promises.filter.placedAt"
            label="Where it was ordered"
            :options="[{ value: '', words: 'Anywhere' }, ...elsewhere]"
            @update:model-value="promises.filter.placedAt = $event ?? ''"
          />
          <WordButton @click="widen">Any day, anywhere</WordButton>
        </div>
        <ChipChoice
          v-if="promises.filter.show === 'pick'"
          :model-value="promises.filter.placeId ?? till.facts?.till.placeId ?? null"
          label="At which place"
          :options="places"
          @update:model-value="promises.filter.placeId = $event"
        />
      </template>
      <template #row="{ row }">
        <template v-if="onHold(row)">
          <span class="what">
            <b>{{ row.name || row.number }}</b>
            <span class="soft"
              >{{ row.basket.lines[0]?.name
              }}{{ row.basket.lines.length > 1 ? ` and ${row.basket.lines.length - 1} more` : '' }}</span
            >
            <span class="soft"
              >{{ till.time(row.heldAt, 'full') }} · {{ row.heldBy }}, till {{ row.heldOn }}</span
            >
            <span v-if="row.forTill" class="why">for till {{ row.forTill }}</span>
          </span>
          <span class="num amount">{{ till.money(row.total) }}</span>
        </template>
        <template v-else>
          <span class="what">
            <span
              ><b>{{ row.customer }}</b
              >{{ ' ' }}
              <span class="num soft">{{
                row.placedAt ? `${row.number} · ${row.placedAt.reference}` : row.number
              }}</span></span
            >
            <span class="soft goods">{{ row.goods }}</span>
            <span :class="tone(row)"
              >{{ wants(row) }}<template v-if="whatNext(row)"> · {{ whatNext(row) }}</template></span
            >
          </span>
          <span class="num amount">{{ till.money(Math.max(0, row.rest - row.held)) }}</span>
        </template>
      </template>
      <template #empty>
        <b>Nothing on hold</b>
        <p>
          Put a basket on hold at the Counter with F8 and serve the next person, or set it aside for a
          customer with F7, or order it with F3; it waits here for any till.
        </p>
      </template>
    </ListColumn>
    <section class="zone" aria-label="What waits">
      <HeldDetail v-if="chosenHeld" :key="chosenHeld.id" :held="chosenHeld" />
      <PromiseDetail v-else-if="looked" :key="looked.id" :view="looked" />
      <p v-else-if="rows.length > 0" class="empty">Choose something to see what is in it.</p>
    </section>
  </div>
</template>

<style scoped>
/* Two days beside each other, all else over the whole width. */
.narrow {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.narrow > :not(.v-input) {
  grid-column: 1 / -1;
  justify-self: start;
}
.goods {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 100%;
}
</style>
