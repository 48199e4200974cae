<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { columnsFor, reportOf, valueOf, type ReportName } from '../../core/figures/reports.ts';
import { useLook } from '../notices/look.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAskedDays } from './askedDays.ts';
import DaysFields from './DaysFields.vue';
import FiguresTabs from './FiguresTabs.vue';
import { useFiguresStore } from './figuresStore.ts';
import WeekPicture from './WeekPicture.vue';
import { useWritten } from './written.ts';
import MoneyChart from '../look/MoneyChart.vue';
import WordButton from '../look/WordButton.vue';

/** Any days beside others, by what they are made of, and the trend with what is usual behind it. */
const BY: readonly ReportName[] = [
  'places',
  'tills',
  'people',
  'categories',
  'suppliers',
  'groups',
  'hours',
  'weekdays',
];

const figures = useFiguresStore();
const session = useSessionStore();
const till = useTillStore();
const written = useWritten();
const { asked, also, query, said, complete } = useAskedDays('month', 'weekdays', { by: 'categories' });
const by = computed((): ReportName => BY.find((name) => name === also.by) ?? 'categories');
const asTable = ref(false);
// What the page itself asks for says what is wrong.
void useLook(figures.loadChoices, () => {})();
const look = useLook(() =>
  Promise.all([figures.loadTrend(query.value), figures.loadReport(by.value, query.value)]),
);
watchDebounced(
  () => query.value,
  () => {
    if (complete.value) void look();
  },
  { debounce: 150, immediate: true },
);
const report = computed(() => reportOf(by.value));
const answer = computed(() => (figures.report?.name === by.value ? figures.report : null));
const columns = computed(() => columnsFor(report.value, session.may('goods.cost')));
const days = computed(() => figures.trend?.days ?? []);
const SERIES = computed(() => {
  const at = (day: string) => new Date(`${day}T12:00Z`).getTime();
  return [
    {
      name: 'Usual',
      type: 'rangeArea' as const,
      data: days.value.map(({ day, usual }) => ({
        x: at(day),
        y: usual ? ([usual.low, usual.high] as const) : null,
      })),
    },
    {
      name: 'Sold',
      type: 'line' as const,
      data: days.value.map(({ day, sold }) => ({ x: at(day), y: sold })),
    },
    ...(asked.compare === 'none'
      ? []
      : [
          {
            name: 'Beside',
            type: 'line' as const,
            data: days.value.map(({ day, before }) => ({ x: at(day), y: before })),
          },
        ]),
  ];
});
const more = {
  stroke: { width: [0, 3, 2], curve: 'straight', dashArray: [0, 0, 5] },
  fill: { opacity: [0.55, 1, 1] },
  markers: { size: 0 },
};
const byItems = BY.map((value) => ({ value, title: reportOf(value).title }));
const deeper = computed(
  () =>
    `/figures/reports/${by.value}?${new URLSearchParams(Object.entries(said.value).filter(([key]) => key !== 'by')).toString()}`,
);
</script>

<template>
  <section class="zone" aria-labelledby="compare-title">
    <FiguresTabs />
    <div class="scroll">
      <h1 id="compare-title" class="hidden-text">Compare</h1>
      <div class="fields">
        <DaysFields v-model="asked" />
        <v-select v-model="also.by" label="By" :items="byItems" />
      </div>
      <p v-if="!answer || !figures.trend" class="empty" role="status">Adding it up …</p>
      <dl v-if="answer && figures.trend" class="page-figures" aria-label="Together">
        <div v-for="column in columns" :key="column.key">
          <dt class="label">{{ column.words }}</dt>
          <dd class="num">{{ written.number(column, valueOf(column, answer.totals.now)) }}</dd>
          <dd v-if="answer.totals.before" class="soft small num">
            {{ written.number(column, valueOf(column, answer.totals.before)) }}
            {{
              column.ratio
                ? ''
                : written.change(valueOf(column, answer.totals.now), valueOf(column, answer.totals.before))
            }}
          </dd>
        </div>
      </dl>
      <div v-if="answer && figures.trend" class="body">
        <section aria-label="Trend">
          <h2 class="label">
            Sold by day, without tax
            <WordButton class="in-text" @click="asTable = !asTable">
              {{ asTable ? 'As a chart' : 'As a table' }}
            </WordButton>
          </h2>
          <table v-if="asTable" class="goods-lines">
            <thead>
              <tr>
                <th>Day</th>
                <th class="right">Sold</th>
                <th class="right">Beside</th>
                <th class="right">Usual</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="day in days" :key="day.day">
                <td>{{ written.day(day.day) }}</td>
                <td class="right num">{{ till.money(day.sold) }}</td>
                <td class="right num">{{ day.before === null ? '–' : till.money(day.before) }}</td>
                <td class="right num">
                  {{ day.usual ? `${till.money(day.usual.low)} to ${till.money(day.usual.high)}` : '–' }}
                </td>
              </tr>
            </tbody>
          </table>
          <MoneyChart
            legend
            v-else-if="days.length > 1"
            type="rangeArea"
            :height="250"
            :series="SERIES"
            :colors="['hairline', 'primary', 'ink']"
            of-days
            :more="more"
          />
          <p class="soft">
            The band is the middle half of up to twelve like weekdays before, where there are at least eight.
          </p>
        </section>
        <WeekPicture :week="figures.trend.week" />
        <section :aria-label="report.title">
          <h2 class="label">
            {{ report.title }} <router-link class="word in-text" :to="deeper">The whole report</router-link>
          </h2>
          <table class="goods-lines">
            <thead>
              <tr>
                <th>{{ report.first }}</th>
                <th class="right">Sold</th>
                <th class="right">Beside</th>
                <th class="right">Change</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in answer.rows" :key="row.key">
                <td>{{ written.name(report.rows, row.name) }}</td>
                <td class="right num">{{ till.money(row.now.sold ?? 0) }}</td>
                <td class="right num">{{ row.before ? till.money(row.before.sold ?? 0) : '–' }}</td>
                <td class="right num">
                  {{ row.before ? written.change(row.now.sold ?? 0, row.before.sold ?? 0) : '' }}
                </td>
              </tr>
            </tbody>
          </table>
        </section>
      </div>
    </div>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(176px, 1fr));
  gap: 10px;
  padding: 14px 18px;
  background: var(--surface);
  border-bottom: var(--rule);
}
.body {
  display: grid;
  gap: 18px;
  padding: 12px 18px 24px;
}
.page-figures .small {
  font-size: 15px;
  font-weight: 400;
}
</style>
