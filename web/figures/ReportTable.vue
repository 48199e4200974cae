<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { REPORT_PAGE, type ReportRow } from '../../contract/figures.ts';
import {
  columnsFor,
  reportOf,
  valueOf,
  type ReportColumn,
  type ReportName,
} from '../../core/figures/reports.ts';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAskedDays } from './askedDays.ts';
import DaysFields from './DaysFields.vue';
import { useFiguresStore } from './figuresStore.ts';
import { wayDown } from './wayDown.ts';
import { useWritten } from './written.ts';

const { name } = defineProps<{ name: ReportName }>();

/** One report: its rows, the totals of all of them, and the sales or moves behind each. */
const figures = useFiguresStore();
const session = useSessionStore();
const till = useTillStore();
const router = useRouter();
const written = useWritten();
const report = reportOf(name);
const costs = session.may('goods.cost');
const all = columnsFor(report, costs);
const { asked, also, query, complete } = useAskedDays(
  name === 'taxes' ? 'last-quarter' : 'month',
  report.asOf ? 'none' : 'before',
  { find: '', category: 0, supplier: 0, sort: '', without: '' },
);
const columns = computed(() => columnsFor(report, costs, also.without.split(',')));
/** The columns that are shown: at least one. */
const chosen = computed({
  get: () => columns.value.map(({ key }) => key),
  set: (keys) => {
    if (keys.length === 0) return;
    also.without = all
      .filter(({ key }) => !keys.includes(key))
      .map(({ key }) => key)
      .join(',');
  },
});
const page = ref(0);
const answer = computed(() => (figures.report?.name === name ? figures.report : null));
// What the page itself asks for says what is wrong.
void useLook(figures.loadChoices, () => {})();
const { busy, load } = useAskedList(
  () => query.value,
  page,
  async () => {
    if (complete.value) await figures.loadReport(name, `${query.value}&page=${page.value}`);
  },
);
onUnmounted(figures.follow(load));

/** The order that is asked for, or the report's own. */
const order = computed({
  get: () => also.sort || report.sort,
  set: (wanted) => {
    also.sort = wanted === report.sort ? '' : wanted;
  },
});
/**
 * A press on a heading puts most first, another one least first; where rows have an order of their own, a third that.
 */
const orders = (key: string, first: string, second: string) => ({
  key,
  sorts: [first, second, ...(report.sort ? [] : [''])],
});
const rows = computed(() => (answer.value?.rows ?? []).map((row) => ({ ...row, id: row.key })));
const beside = computed(() => answer.value?.beside ?? null);
const heads = computed(() => [
  { ...orders('name', 'name', '-name'), words: report.first },
  ...columns.value.map(({ key, words }) => ({ ...orders(key, key, `-${key}`), words, right: true })),
]);
const of = (column: ReportColumn, row: Pick<ReportRow, 'now' | 'before'>) => ({
  now: written.number(column, valueOf(column, row.now)),
  before: row.before ? written.number(column, valueOf(column, row.before)) : '',
  change:
    row.before && !column.ratio ? written.change(valueOf(column, row.now), valueOf(column, row.before)) : '',
});
const any = (words: string, all: readonly { id: number; name: string }[] = []) => [
  { value: 0, title: words },
  ...all.map(({ id, name: title }) => ({ value: id, title })),
];
function open(row: ReportRow): void {
  const to = wayDown(name, report.rows, row.key, asked);
  if (to) void router.push(to);
}
const filters: readonly string[] = report.filters ?? [];
</script>

<template>
  <ListPage
    v-model:page="page"
    v-model:sort="order"
    :narrowed="also.find !== '' || also.category !== 0 || also.supplier !== 0"
    :title="report.title"
    :of="['row', 'rows']"
    :columns="heads"
    :rows="rows"
    :count="answer?.count ?? null"
    :per-page="REPORT_PAGE"
    :busy="busy"
    :name-of="(row) => written.name(report.rows, row.name)"
    @open="open"
    @widen="Object.assign(also, { find: '', category: 0, supplier: 0 })"
  >
    <template #acts>
      <v-btn to="/figures/reports">All reports</v-btn>
      <v-btn :href="`/api/figures/reports/${name}.pdf?${query}`" target="_blank">PDF</v-btn>
      <v-btn :href="`/api/figures/reports/${name}.csv?${query}`">CSV</v-btn>
    </template>
    <template #filters>
      <p class="soft says">{{ report.says }}</p>
      <div class="fields">
        <DaysFields v-model="asked" :beside="!report.asOf" />
        <v-text-field
          v-model="also.find"
          :label="`Words in ${report.first.toLowerCase()}`"
          data-search
          autocomplete="off"
          clearable
          @click:clear="also.find = ''"
        />
        <v-select
          v-if="filters.includes('category')"
          v-model="also.category"
          label="Category"
          :items="any('All categories', figures.choices?.categories)"
        />
        <v-select
          v-if="filters.includes('supplier')"
          v-model="also.supplier"
          label="Supplier"
          :items="any('All suppliers', figures.choices?.suppliers)"
        />
        <v-select
          v-model="chosen"
          label="Columns"
          multiple
          :items="all.map(({ key, words }) => ({ value: key, title: words }))"
        >
          <template #selection="{ index }">
            <span v-if="index === 0">{{
              chosen.length === all.length ? 'All' : `${chosen.length} of ${all.length}`
            }}</span>
          </template>
        </v-select>
      </div>
      <dl v-if="answer" class="totals" aria-label="Together">
        <div v-for="column in columns" :key="column.key">
          <dt class="label">{{ column.words }}</dt>
          <dd class="num">{{ of(column, answer.totals).now }}</dd>
          <dd v-if="beside" class="soft num">
            {{ of(column, answer.totals).before }} {{ of(column, answer.totals).change }}
          </dd>
        </div>
      </dl>
      <p v-if="beside" class="soft">
        Beneath each figure that of {{ till.calendarDay(beside.from) }} to {{ till.calendarDay(beside.to) }}.
      </p>
      <p v-for="lack in answer?.lacks ?? []" :key="lack.words" class="bad">
        {{ lack.words }} <router-link class="word in-text" :to="lack.to">{{ lack.where }}</router-link>
      </p>
    </template>
    <template #name="{ row }">
      {{ written.name(report.rows, row.name) }}
      <span v-if="row.more" class="soft beneath">{{ written.more(row.more) }}</span>
    </template>
    <template v-for="column in columns" :key="column.key" #[column.key]="{ row }">
      <span class="num">{{ of(column, row).now }}</span>
      <span v-if="row.before" class="soft beneath num">{{ of(column, row).before }}</span>
    </template>
    <template #empty>
      <b>Nothing in these days</b>
      <p>{{ report.says }}</p>
    </template>
  </ListPage>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(176px, 1fr));
  gap: 10px;
}
.totals {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
}
.totals dd.num:not(.soft) {
  font-size: 20px;
  font-weight: 650;
}
</style>
