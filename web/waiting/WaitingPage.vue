<script setup lang="ts">
import { watchDebounced, watchImmediate } from '@vueuse/core';
import { computed, onMounted, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { counted } from '../../core/locale.ts';
import { PROMISE_STATES } from '../../core/promises/state.ts';
import { wordsOf } from '../../core/words.ts';
import type { PromiseRow } from '../../contract/promises.ts';
import type { HeldBasket } from '../../contract/waiting.ts';
import { useKeys } from '../keys/useKeys.ts';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import HeldDetail from './HeldDetail.vue';
import PromiseDetail from './PromiseDetail.vue';
import { useOrderStore } from './orderStore.ts';
import { usePromiseStore } from './promiseStore.ts';
import { useWaitingStore } from './waitingStore.ts';
import WordButton from '../look/WordButton.vue';
import RowButton from '../look/RowButton.vue';
import { useAnswer } from '../notices/answer.ts';

const waiting = useWaitingStore();
const promises = usePromiseStore();
const orders = useOrderStore();
const till = useTillStore();
const route = useRoute();
const router = useRouter();

const SHOWN = [
  { value: 'open' as const, words: 'All that waits' },
  { value: 'attention' as const, words: 'Wants attention' },
  { value: 'pick' as const, words: 'To pick' },
  { value: 'all' as const, words: 'Over as well' },
];

const lookAll = useLook(() => Promise.all([waiting.load(), promises.load()]));
const lookFor = useLook(() => promises.load());
const more = useLook(promises.more);
const open = useLook(promises.look);

onMounted(async () => {
  waiting.looking = true;
  await lookAll();
  if (!waiting.chosenId && !chosenId.value) choose(rows.value[0]?.id);
});
onUnmounted(() => (waiting.looking = false));
watchDebounced(
  () => JSON.stringify(promises.filter),
  () => void lookFor(),
  { debounce: 120 },
);

const places = useAnswer(async () => {
  if (promises.filter.show !== 'pick') return [];
  const { places: all } = await orders.factsOf([]);
  return all.map(({ id, name }) => ({ value: id, words: name }));
}, []);
/** Baskets on hold that have every word that is looked for. */
const held = computed(() => {
  if (promises.filter.show === 'attention' || promises.filter.show === 'pick' || narrowed.value) return [];
  const looked = wordsOf(promises.filter.find);
  return waiting.held.filter((one) => {
    const { name, number, note, basket } = one;
    const words = wordsOf([name, number, note, ...basket.lines.map((line) => line.name)].join(' '));
    return looked.every((begin) => words.some((word) => word.startsWith(begin)));
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
const rows = computed<(HeldBasket | PromiseRow)[]>(() => [...held.value, ...promised.value]);

const chosenId = computed(() => String(route.params.id ?? ''));
const chosenHeld = computed(() => waiting.held.find(({ id }) => id === waiting.chosenId));
watchImmediate(chosenId, async (id) => {
  const isHeld = waiting.held.some((one) => one.id === id);
  if (isHeld) waiting.chosenId = id;
  await open(isHeld || !id ? null : id);
  if (promises.looked) waiting.chosenId = '';
});

function choose(id: string | undefined): void {
  if (!id) return;
  if (waiting.held.some((one) => one.id === id)) {
    waiting.chosenId = id;
    void promises.look(null);
  }
  void router.replace(`/waiting/${id}`);
}

function move(by: 1 | -1): void {
  const at = rows.value.findIndex(({ id }) => id === (chosenHeld.value?.id ?? promises.looked?.id));
  choose(rows.value[Math.min(rows.value.length - 1, Math.max(0, at + by))]?.id);
}
useKeys('waiting', { move: (_event, nth) => move(nth === 0 ? -1 : 1) });

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
const countWords = computed(() => {
  const count = held.value.length + (promises.page?.count ?? 0);
  return counted(count, 'waits', 'wait');
});
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="waiting-title">
      <header class="head">
        <h1 id="waiting-title" class="title">Waiting</h1>
        <span class="soft">{{ countWords }}</span>
      </header>
      <div class="find">
        <v-text-field
          v-model="promises.filter.find"
          label="Number, customer, goods"
          placeholder="L-0001, O-0001, mila, violin"
          clearable
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
      </div>
      <div v-if="rows.length > 0" class="scroll rows">
        <section v-if="held.length > 0">
          <h2 class="label part">On hold</h2>
          <ol>
            <li v-for="one in held" :key="one.id">
              <RowButton :on="one.id === chosenHeld?.id" @click="choose(one.id)">
                <span class="what">
                  <b>{{ one.name || one.number }}</b>
                  <span class="soft"
                    >{{ one.basket.lines[0]?.name
                    }}{{
                      one.basket.lines.length > 1 ? ` and ${one.basket.lines.length - 1} more` : ''
                    }}</span
                  >
                  <span class="soft"
                    >{{ till.time(one.heldAt, 'full') }} · {{ one.heldBy }}, till {{ one.heldOn }}</span
                  >
                  <span v-if="one.forTill" class="why">for till {{ one.forTill }}</span>
                </span>
                <span class="num amount">{{ till.money(one.total) }}</span>
              </RowButton>
            </li>
          </ol>
        </section>
        <section v-if="promised.length > 0">
          <h2 class="label part">Layaways, orders and relays</h2>
          <ol>
            <li v-for="row in promised" :key="row.id">
              <RowButton :on="row.id === promises.looked?.id && !chosenHeld" @click="choose(row.id)">
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
              </RowButton>
            </li>
          </ol>
          <v-btn v-if="promised.length < (promises.page?.count ?? 0)" class="more" @click="more">More</v-btn>
        </section>
      </div>
      <div v-else-if="promises.filter.find || narrowed" class="empty">
        <b>Nothing fits</b>
        <v-btn @click="showAll">Show everything</v-btn>
      </div>
      <div v-else class="empty">
        <b>Nothing on hold</b>
        <p>
          Put a basket on hold at the Counter with F8 and serve the next person, or set it aside for a
          customer with F7, or order it with F3; it waits here for any till.
        </p>
      </div>
    </section>
    <section class="zone" aria-label="What waits">
      <HeldDetail v-if="chosenHeld" :key="chosenHeld.id" :held="chosenHeld" />
      <PromiseDetail v-else-if="promises.looked" :key="promises.looked.id" :view="promises.looked" />
      <p v-else-if="rows.length > 0" class="empty">Choose something to see what is in it.</p>
    </section>
  </div>
</template>

<style scoped>
.find {
  display: grid;
  gap: 10px;
  padding: 12px 18px;
  border-bottom: var(--group);
}
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
.rows {
  flex: 1;
}
.part {
  position: sticky;
  top: 0;
  padding: 6px 18px;
  background: var(--paper);
  border-bottom: var(--hair);
}
.goods {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  max-width: 100%;
}
.more {
  margin: 12px 18px;
} /* The heading of its part stays in sight. */
.list-row {
  scroll-margin-top: 40px;
}
</style>
