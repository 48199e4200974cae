<script setup lang="ts">
import { formatTenths } from '../../core/locale.ts';
import { useThrottleFn, watchImmediate } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { formatQuantity } from '../../core/quantity.ts';
import MoneyChart from '../look/MoneyChart.vue';
import { useSessionStore } from '../staff/sessionStore.ts';
import FiguresTabs from './FiguresTabs.vue';
import { useFiguresStore } from './figuresStore.ts';
import OddList from './OddList.vue';
import { useWritten } from './written.ts';
import WordButton from '../look/WordButton.vue';

/** What the shop did so far today, against the same weekday before at the same time of day. */
/** Sales come one after another: so often the page asks anew at most. */
const AT_MOST_EVERY_MS = 3000;

const figures = useFiguresStore();
const till = useTillStore();
const session = useSessionStore();
const route = useRoute();
const router = useRouter();
const written = useWritten();
const place = ref(Number(route.query.place) || 0);
const asTable = ref(false);
const load = useLook(() => figures.loadToday(place.value));
// What the page itself asks for says what is wrong.
void useLook(figures.loadChoices, () => {})();
watchImmediate(place, (now) => {
  void router.replace({ query: now ? { place: now } : {} });
  void load();
});
onUnmounted(figures.follow(useThrottleFn(load, AT_MOST_EVERY_MS, true)));

const today = computed(() => figures.today);
const places = computed(() => [
  { value: 0, title: 'All places' },
  ...(figures.choices?.places ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const per = (of: number | null | undefined, by: number | null | undefined) =>
  by ? Math.round((of ?? 0) / by) : null;
const margin = computed(() => {
  const { sold, cost } = today.value?.now ?? {};
  return cost === undefined ? null : (sold ?? 0) - (cost ?? 0);
});
const cards = computed(() => {
  const found = today.value;
  if (!found) return [];
  const { now, before } = found;
  return [
    {
      words: 'Sales',
      now: written.number({ kind: 'count' }, now.count ?? 0),
      before: written.number({ kind: 'count' }, before.count ?? 0),
    },
    {
      words: 'Each sale',
      now: written.number({ kind: 'money' }, per(now.sold, now.count)),
      before: written.number({ kind: 'money' }, per(before.sold, before.count)),
    },
    {
      words: 'Units per sale',
      now: unitsPer(now.quantity, now.count),
      before: unitsPer(before.quantity, before.count),
    },
    { words: 'Returns', now: written.number({ kind: 'money' }, now.returned ?? 0), before: '' },
    ...(margin.value === null ? [] : [{ words: 'Margin', now: till.money(margin.value), before: '' }]),
  ];
});
function unitsPer(quantity: number | null | undefined, count: number | null | undefined): string {
  return count ? formatTenths((quantity ?? 0) / 1000 / count) : '–';
}
const verdict = computed(() => {
  const found = today.value;
  if (!found) return '';
  const { sold: before } = found.before;
  if (!before)
    return `Nothing to put it beside: a week ago nothing was sold until ${till.timeOfDay(found.time)}.`;
  const change = written.change(found.now.sold ?? 0, before);
  return `${change} against a week ago at ${till.timeOfDay(found.time)} (${till.money(before)})`;
});
const hourWords = (hour: number) => written.name('hour', `${String(hour).padStart(2, '0')}:00`);
const series = computed(() => {
  const hours = today.value?.hours ?? [];
  return [
    { name: 'Today', data: hours.map(({ hour, now }) => ({ x: hourWords(hour), y: now })) },
    { name: 'A week ago', data: hours.map(({ hour, before }) => ({ x: hourWords(hour), y: before })) },
  ];
});
</script>

<template>
  <section class="zone" aria-labelledby="today-title">
    <FiguresTabs />
    <div v-if="today" class="scroll">
      <header class="head now">
        <h1 id="today-title" class="title">{{ written.day(today.day) }}, {{ till.timeOfDay(today.time) }}</h1>
        <v-btn to="/figures/compare?days=yesterday&compare=weekdays">Yesterday</v-btn>
        <v-select v-model="place" class="place" label="Place" :items="places" />
      </header>
      <div class="first">
        <div class="taken">
          <p class="label">Sold today, without tax</p>
          <router-link
            class="huge num"
            :to="`/figures/reports/hours?days=today${place ? `&place=${place}` : ''}`"
            >{{ till.money(today.now.sold ?? 0) }}</router-link
          >
          <p class="soft">{{ verdict }}</p>
          <p v-if="today.usual" class="soft">
            Usual for the whole day: {{ till.money(today.usual.low) }} to {{ till.money(today.usual.high) }}
          </p>
        </div>
        <dl class="cards">
          <div v-for="card in cards" :key="card.words">
            <dt class="label">{{ card.words }}</dt>
            <dd class="num">{{ card.now }}</dd>
            <dd v-if="card.before" class="soft num">{{ card.before }} then</dd>
          </div>
        </dl>
      </div>
      <p v-for="lack in today.lacks" :key="lack.words" class="bad lack">
        {{ lack.words }} <router-link class="word in-text" :to="lack.to">{{ lack.where }}</router-link>
      </p>
      <OddList v-if="today.odd.length > 0" :odd="today.odd" />
      <div class="parts">
        <section aria-label="By hour" class="wide">
          <h2 class="label">
            By hour
            <WordButton class="in-text" @click="asTable = !asTable">
              {{ asTable ? 'As a chart' : 'As a table' }}
            </WordButton>
          </h2>
          <table v-if="asTable" class="goods-lines">
            <thead>
              <tr>
                <th>Hour</th>
                <th class="right">Today</th>
                <th class="right">A week ago</th>
                <th class="right">Usual</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="hour in today.hours" :key="hour.hour">
                <td>{{ hourWords(hour.hour) }}</td>
                <td class="right num">{{ till.money(hour.now) }}</td>
                <td class="right num">{{ till.money(hour.before) }}</td>
                <td class="right num">
                  {{ hour.usual ? `${till.money(hour.usual.low)} to ${till.money(hour.usual.high)}` : '–' }}
                </td>
              </tr>
            </tbody>
          </table>
          <MoneyChart
            legend
            v-else
            type="bar"
            :height="230"
            :series="series"
            :colors="['primary', 'hairline']"
            :xaxis="{ type: 'category', labels: { rotate: 0 } }"
            :more="{
              plotOptions: { bar: { columnWidth: '70%' } },
            }"
          />
        </section>
        <section aria-label="Best items" class="page-lists">
          <h2 class="label">
            <router-link class="word in-text" to="/figures/reports/items?days=today">Best items</router-link>
          </h2>
          <ul>
            <li v-for="item in today.items" :key="item.id">
              <router-link class="word in-text" :to="`/goods/${item.id}`">{{ item.name }}</router-link>
              <span class="num">{{ formatQuantity(item.quantity) }} · {{ till.money(item.amount) }}</span>
            </li>
            <li v-if="today.items.length === 0" class="soft">Nothing sold yet.</li>
          </ul>
        </section>
        <section aria-label="Paid with" class="page-lists">
          <h2 class="label">
            <router-link class="word in-text" to="/figures/reports/means?days=today">Paid with</router-link>
          </h2>
          <ul>
            <li v-for="mean in today.means" :key="mean.name">
              <span>{{ mean.name }}</span><span class="num">{{ till.money(mean.amount) }}</span>
            </li>
            <li>
              <span class="soft">Customers</span
              ><span class="soft"
                >{{ today.customers.new }} new, {{ today.customers.known }} back again,
                {{ today.customers.none }} not named</span
              >
            </li>
          </ul>
        </section>
        <section aria-label="Drawers" class="page-lists">
          <h2 class="label">Drawers</h2>
          <ul>
            <li v-for="drawer in today.drawers" :key="drawer.till">
              <span>Till {{ drawer.till }}, {{ drawer.place }}</span>
              <span>{{
                drawer.open ? `open since ${till.time(drawer.since)}, ${drawer.by}` : 'closed'
              }}</span>
            </li>
          </ul>
        </section>
        <section aria-label="Waits" class="page-lists">
          <h2 class="label">Waits</h2>
          <ul>
            <li v-for="one in today.waits" :key="one.words">
              <router-link class="word in-text" :to="one.to">{{ one.count }} {{ one.words }}</router-link>
            </li>
            <li v-if="today.waits.length === 0" class="soft">Nothing waits.</li>
          </ul>
        </section>
        <section v-if="session.may('goods.edit')" aria-label="Runs out" class="page-lists">
          <h2 class="label">Runs out</h2>
          <ul>
            <li v-for="item in today.runsOut" :key="item.id">
              <router-link class="word in-text" :to="`/goods/${item.id}`">{{ item.name }}</router-link>
              <span class="num"
                >{{ formatQuantity(item.quantity) }} left of {{ formatQuantity(item.point) }}</span
              >
            </li>
            <li v-if="today.runsOut.length === 0" class="soft">Nothing is below its reorder point.</li>
          </ul>
        </section>
      </div>
    </div>
    <p v-else class="empty" role="status">Adding it up …</p>
  </section>
</template>

<style scoped>
/* The label of a choice stands on its frame. */
.now {
  padding-block: 11px 6px;
}
.place {
  max-width: 240px;
}
.now h1 {
  margin-right: auto;
}
.first {
  display: grid;
  grid-template-columns: minmax(330px, 2fr) 3fr;
  background: var(--surface);
  border-bottom: var(--rule);
}
.taken {
  padding: 12px 18px 14px;
  border-right: var(--rule);
}
.huge {
  font-size: 48px;
  font-weight: 700;
  line-height: 1.15;
  color: var(--ink);
  text-decoration: none;
}
.cards {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 36px;
  padding: 14px 18px;
  align-content: center;
}
.cards dd.num:not(.soft) {
  font-size: 24px;
  font-weight: 600;
}
.lack {
  padding: 10px 18px;
}
.parts {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px 28px;
  padding: 12px 18px 24px;
}
.wide {
  grid-column: 1 / -1;
}
.page-lists {
  padding: 0;
}
</style>
