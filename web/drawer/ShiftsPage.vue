<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { ShiftHistory, ShiftRow } from '../../contract/drawer.ts';
import { dayLater } from '../../core/day.ts';
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { formatCount } from '../../core/locale.ts';
import { useJournalStore } from '../journal/journalStore.ts';
import { useAskedList } from '../look/askedList.ts';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import ListPage from '../look/ListPage.vue';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import { historyQuery } from './historyQuery.ts';
import ShiftsTogether from './ShiftsTogether.vue';

const DAYS_BACK = 30;
const PER_PAGE = 100;
const VIEWS = [
  { value: 'each', words: 'Each' },
  { value: 'together', words: 'Together' },
] as const;
const COLUMNS = [
  { key: 'number', words: 'Shift' },
  { key: 'sales', words: 'Sales', right: true, width: '76px' },
  { key: 'taken', words: 'Taken', right: true, width: '120px' },
  { key: 'refunded', words: 'Refunded', right: true, width: '110px' },
  { key: 'voids', words: 'Voids', right: true, width: '76px' },
  { key: 'openings', words: 'No sale', right: true, width: '86px' },
  { key: 'variance', words: 'Over or short', right: true, width: '140px' },
  { key: 'banked', words: 'To the bank', right: true, width: '120px' },
];

/** Shifts that were closed, one by one or together. */
const drawer = useDrawerStore();
const journal = useJournalStore();
const till = useTillStore();
const router = useRouter();
const choice = ref({
  from: dayLater(till.today(), { days: -DAYS_BACK }),
  to: '',
  tillId: null as number | null,
  staffId: null as number | null,
});
const view = ref<(typeof VIEWS)[number]['value']>('each');
const page = ref(0);
const [history, showHistory] = shown<ShiftHistory | null>(null);
const query = computed(() => historyQuery(choice.value));
/** All shifts of the days are there: their pages are turned here. */
const rows = computed(
  () => history.value?.rows.slice(page.value * PER_PAGE, (page.value + 1) * PER_PAGE) ?? [],
);

void useLook(journal.findChoices)();
const { busy } = useAskedList(
  () => query.value,
  ref(0),
  async () => void (await showHistory(drawer.history(query.value))),
);
watch(query, () => (page.value = 0));
const nameOf = ({ till: at, number }: ShiftRow) => `Till ${at}, ${number}`;
</script>

<template>
  <ListPage
    v-model:page="page"
    title="Shifts"
    :of="['shift', 'shifts']"
    :columns="COLUMNS"
    :rows
    :count="history?.rows.length ?? null"
    :per-page="PER_PAGE"
    :busy
    :name-of="nameOf"
    @open="({ id }) => router.push(`/drawer/shifts/${id}`)"
  >
    <template #acts>
      <v-btn :href="`/api/drawer/history.csv?${query}`">CSV</v-btn>
      <v-btn :href="`/api/drawer/history.pdf?${query}`" target="_blank">PDF</v-btn>
      <v-btn class="go" to="/drawer">To the drawer</v-btn>
    </template>
    <template #filters>
      <div class="choices">
        <DateField v-model="choice.from" label="From" />
        <DateField v-model="choice.to" label="Until" />
        <v-select
          v-model="choice.tillId"
          :items="journal.choices.tills"
          item-title="name"
          item-value="id"
          label="Till"
          clearable
        />
        <v-select
          v-model="choice.staffId"
          :items="journal.choices.staff"
          item-title="name"
          item-value="id"
          label="Person"
          clearable
        />
        <ChipChoice v-model="view" label="How shifts are shown" :options="VIEWS" />
      </div>
      <dl v-if="history" class="sums">
        <div>
          <dt>Sales</dt>
          <dd class="num">{{ formatCount(history.sums.sales) }}</dd>
        </div>
        <div>
          <dt>Taken</dt>
          <dd class="num">{{ till.money(history.sums.taken) }}</dd>
        </div>
        <div>
          <dt>Refunded</dt>
          <dd class="num">{{ till.money(-history.sums.refunded) }}</dd>
        </div>
        <div>
          <dt>Voids</dt>
          <dd class="num">{{ history.sums.voids }}</dd>
        </div>
        <div>
          <dt>Reductions</dt>
          <dd class="num">{{ till.money(history.sums.discounts) }}</dd>
        </div>
        <div>
          <dt>Opened without a sale</dt>
          <dd class="num">{{ history.sums.openings }}</dd>
        </div>
        <div>
          <dt>Over and short</dt>
          <dd class="num" :class="{ bad: history.sums.variance < 0 }">
            {{ till.money(history.sums.variance) }}
          </dd>
        </div>
      </dl>
    </template>
    <template v-if="view === 'together' && history && history.rows.length > 0" #instead>
      <ShiftsTogether :history />
    </template>
    <template #number="{ row }">
      <b>{{ nameOf(row) }}</b>
      <span class="soft under">{{ till.time(row.closedAt, 'full') }}, {{ row.closedBy }}</span>
    </template>
    <template #taken="{ row }">{{ till.money(row.taken) }}</template>
    <template #refunded="{ row }">{{ row.refunded === 0 ? '' : till.money(-row.refunded) }}</template>
    <template #voids="{ row }">{{ row.voids || '' }}</template>
    <template #openings="{ row }">{{ row.openings || '' }}</template>
    <template #variance="{ row }">
      <span :class="{ bad: row.variance < 0 }">{{ varianceWords(row.variance, till.digits) }}</span>
      <span v-if="row.explained !== 0" class="soft under">{{ till.money(row.explained) }} explained</span>
    </template>
    <template #banked="{ row }">{{ till.money(row.banked) }}</template>
    <template #empty>
      <b>No shift was closed then</b>
      <p>Choose other days, another till or another person.</p>
    </template>
  </ListPage>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr)) auto;
  gap: 12px;
  align-items: center;
}
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
}
.sums dt {
  font-size: 13px;
  color: var(--soft);
}
.sums dd {
  font-size: 20px;
  font-weight: 600;
}
@media (max-width: 1100px) {
  .choices {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
