<script setup lang="ts">
import {
  REPORT_GROUPS,
  REPORT_NAMES,
  REPORTS,
  reportOf,
  type ReportGroup,
} from '../../core/figures/reports.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import FiguresTabs from './FiguresTabs.vue';

/** All reports, by what they are about. */
const session = useSessionStore();
const mayOpen = useMayOpen();
/** Said once for all that say it. */
const GENERAL: string = REPORTS.days.says;
const groups = (Object.keys(REPORT_GROUPS) as ReportGroup[]).map((group) => ({
  words: REPORT_GROUPS[group],
  reports: REPORT_NAMES.map((name) => ({ name, ...reportOf(name) })).filter(
    (report) => report.group === group && (!report.costs || session.may('goods.cost')),
  ),
}));
</script>

<template>
  <section class="zone" aria-labelledby="reports-title">
    <FiguresTabs />
    <div class="scroll">
      <h1 id="reports-title" class="hidden-text">Reports</h1>
      <div class="groups">
        <section v-for="group in groups" :key="group.words" :aria-label="group.words">
          <h2 class="title">{{ group.words }}</h2>
          <p v-if="group.reports.some(({ says }) => says === GENERAL)" class="soft">{{ GENERAL }}</p>
          <ul class="ruled">
            <li v-for="report in group.reports" :key="report.name">
              <router-link class="word in-text" :to="`/figures/reports/${report.name}`">{{
                report.title
              }}</router-link>
              <span v-if="report.says !== GENERAL" class="soft beneath">{{ report.says }}</span>
            </li>
          </ul>
        </section>
        <section v-if="session.may('goods.cost')" aria-label="Stock as of a day">
          <h2 class="title">Also</h2>
          <ul class="ruled">
            <li>
              <router-link class="word in-text" to="/goods/value">What stock is worth</router-link>
              <span class="soft beneath">By category and place at the end of any day, beside the books.</span>
            </li>
            <li v-if="mayOpen('/drawer/shifts')">
              <router-link class="word in-text" to="/drawer/shifts">Shifts</router-link>
              <span class="soft beneath">Over and short over time, with the report of each shift.</span>
            </li>
          </ul>
        </section>
      </div>
    </div>
  </section>
</template>

<style scoped>
.groups {
  columns: 3 340px;
  column-gap: 28px;
  padding: 16px 18px 24px;
}
.groups section {
  break-inside: avoid;
  margin-bottom: 20px;
}
.groups li {
  padding: 6px 0 8px;
  border-bottom: var(--hair);
}
</style>
