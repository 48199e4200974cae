<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { REPORTS, type ReportName } from '../../core/figures/reports.ts';
import ReportsPage from './ReportsPage.vue';
import ReportTable from './ReportTable.vue';

/** The report that the address names; all of them where it names none. */
const route = useRoute();
const isReport = (name: string): name is ReportName => Object.hasOwn(REPORTS, name);
const name = computed(() => {
  const asked = String(route.params.name);
  return isReport(asked) ? asked : null;
});
</script>

<template>
  <ReportTable v-if="name" :key="name" :name="name" />
  <ReportsPage v-else />
</template>
