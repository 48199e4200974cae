<script setup lang="ts">
import { dayLater } from '../../core/day.ts';
import DateField from '../look/DateField.vue';
import { formatCount } from '../../core/locale.ts';
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { ShiftHistory } from '../../contract/drawer.ts';
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { formatRate } from '../../core/rate.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useJournalStore } from '../journal/journalStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import { historyQuery } from './historyQuery.ts';
import VarianceChart from './VarianceChart.vue';

const DAYS_BACK = 30;

const drawer = useDrawerStore();
const journal = useJournalStore();
const till = useTillStore();
const choice = ref({
  from: dayLater(till.today(), { days: -DAYS_BACK }),
  to: '',
  tillId: null as number | null,
  staffId: null as number | null,
});
const [history, showHistory] = shown<ShiftHistory | null>(null);
const query = computed(() => historyQuery(choice.value));
const MOVES = { in: 'Cash in', out: 'Cash out', drop: 'Safe drop' } as const;

void useLook(journal.findChoices)();
const look = useLook((asked: string) => showHistory(drawer.history(asked)));
watchDebounced(query, (now) => void look(now), { debounce: 150, immediate: true });
</script>

<template>
  <div class="shifts scroll">
    <header class="head">
      <h1 class="title">Shifts</h1>
      <div class="acts">
        <v-btn :href="`/api/drawer/history.csv?${query}`">CSV</v-btn>
        <v-btn :href="`/api/drawer/history.pdf?${query}`" target="_blank">PDF</v-btn>
        <v-btn class="go" to="/drawer">To the drawer</v-btn>
      </div>
    </header>
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
    </div>
    <template v-if="history && history.rows.length > 0">
      <dl class="sums">
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
      <VarianceChart :rows="history.rows" />
      <table>
        <thead>
          <tr>
            <th scope="col">Shift</th>
            <th scope="col">Closed</th>
            <th scope="col">By</th>
            <th scope="col" class="right">Sales</th>
            <th scope="col" class="right">Taken</th>
            <th scope="col" class="right">Refunded</th>
            <th scope="col" class="right">Voids</th>
            <th scope="col" class="right">No sale</th>
            <th scope="col" class="right">Over or short</th>
            <th scope="col" class="right">Explained</th>
            <th scope="col" class="right">To the bank</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in history.rows" :key="row.id">
            <td>
              <router-link class="word num" :to="`/drawer/shifts/${row.id}`"
                >Till {{ row.till }}, {{ row.number }}</router-link
              >
            </td>
            <td>{{ till.time(row.closedAt, 'full') }}</td>
            <td>{{ row.closedBy }}</td>
            <td class="num right">{{ row.sales }}</td>
            <td class="num right">{{ till.money(row.taken) }}</td>
            <td class="num right">{{ row.refunded === 0 ? '' : till.money(-row.refunded) }}</td>
            <td class="num right">{{ row.voids || '' }}</td>
            <td class="num right">{{ row.openings || '' }}</td>
            <td class="right" :class="{ bad: row.variance < 0 }">
              {{ varianceWords(row.variance, till.digits) }}
            </td>
            <td class="num right">{{ row.explained === 0 ? '' : till.money(row.explained) }}</td>
            <td class="num right">{{ till.money(row.banked) }}</td>
          </tr>
        </tbody>
      </table>
      <div class="groups">
        <section>
          <h2 class="label">Paid with</h2>
          <ul>
            <li v-for="one in history.tenders" :key="one.name">
              <span>{{ one.name }}, {{ one.count === 1 ? 'one payment' : `${one.count} payments` }}</span
              ><span class="num">{{ till.money(one.amount) }}</span>
            </li>
          </ul>
        </section>
        <section>
          <h2 class="label">Tax</h2>
          <ul>
            <li v-for="one in history.taxes" :key="one.name">
              <span>{{ one.name }} {{ formatRate(one.rate) }} on {{ till.money(one.base) }}</span
              ><span class="num">{{ till.money(one.tax) }}</span>
            </li>
          </ul>
        </section>
        <section>
          <h2 class="label">Reductions by reason and person</h2>
          <ul>
            <li v-for="(one, at) in history.reductions" :key="at">
              <span>{{ one.count }} × {{ one.reason }}, {{ one.person }}</span
              ><span class="num">{{ till.money(one.amount) }}</span>
            </li>
          </ul>
        </section>
        <section v-if="history.moves.length > 0">
          <h2 class="label">Cash in, out and safe drops</h2>
          <ul>
            <li v-for="(one, at) in history.moves" :key="at">
              <span>{{ one.count }} × {{ MOVES[one.kind] }}: {{ one.reason }}</span
              ><span class="num">{{ till.money(one.amount) }}</span>
            </li>
          </ul>
        </section>
      </div>
    </template>
    <div v-else-if="history" class="empty">
      <b>No shift was closed then</b>
      <p>Choose other days, another till or another person.</p>
    </div>
  </div>
</template>

<style scoped>
.shifts {
  background: var(--surface);
  /* The chart is drawn at the width that it finds: a bar that comes afterwards must not take of it. */
  scrollbar-gutter: stable;
}
.choices {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 12px;
  padding: 14px 18px;
  border-bottom: var(--group);
}
.sums {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  border-bottom: var(--group);
}
.sums > div {
  padding: 10px 18px;
  border-right: var(--hair);
}
.sums dt {
  font-size: 13px;
  color: var(--soft);
}
.sums dd {
  font-size: 20px;
  font-weight: 600;
}
th {
  padding: 8px;
  border-bottom: var(--group);
}
td {
  padding: 4px 8px;
  white-space: nowrap;
}
th:first-child,
td:first-child {
  padding-left: 18px;
}
td .word {
  display: inline-grid;
  align-items: center;
  color: var(--ink);
}
.groups {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 22px;
  padding: 22px 18px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: var(--hair);
}
@media (max-width: 1100px) {
  th,
  td {
    padding-inline: 5px;
    font-size: 14px;
  }
}
@media (max-width: 900px) {
  .choices,
  .groups {
    grid-template-columns: 1fr 1fr;
  }
  .sums {
    grid-template-columns: repeat(3, 1fr);
  }
}
</style>
