<script setup lang="ts">
import { computed } from 'vue';
import type { Trend } from '../../contract/figures.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useWritten } from './written.ts';

/** When the shop is busy: what was sold by weekday and hour. The darker, the more; each field says its figure, too. */
const { week } = defineProps<{ week: Trend['week'] }>();

const till = useTillStore();
const written = useWritten();
const WEEKDAYS = [0, 1, 2, 3, 4, 5, 6];
const hours = computed(() => [...new Set(week.map(({ hour }) => hour))].toSorted((a, b) => a - b));
const most = computed(() => Math.max(1, ...week.map(({ sold }) => sold)));
const soldAt = (weekday: number, hour: number) =>
  week.find((one) => one.weekday === weekday && one.hour === hour)?.sold ?? 0;
const shade = (sold: number) => `${Math.round((Math.max(0, sold) / most.value) * 55)}%`;
</script>

<template>
  <section v-if="hours.length > 0" aria-label="When it is busy">
    <h2 class="label">When it is busy: sold by weekday and hour</h2>
    <table class="week">
      <thead>
        <tr>
          <th></th>
          <th v-for="hour in hours" :key="hour" class="num">{{ hour }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="weekday in WEEKDAYS" :key="weekday">
          <th scope="row">{{ written.shortWeekday(weekday) }}</th>
          <td
            v-for="hour in hours"
            :key="hour"
            class="num"
            :style="{ '--shade': shade(soldAt(weekday, hour)) }"
          >
            {{
              soldAt(weekday, hour) === 0 ? '' : till.money(soldAt(weekday, hour)).replace(/[.,]\d\d$/, '')
            }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.week th {
  padding: 2px 8px;
  font-weight: 600;
  text-align: right;
  border: 0;
}
.week th[scope='row'] {
  text-align: left;
}
.week td {
  padding: 5px 8px;
  text-align: right;
  border: 1px solid var(--surface);
  background: color-mix(in srgb, var(--blue) var(--shade), var(--surface));
}
</style>
