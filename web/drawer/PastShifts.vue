<script setup lang="ts">
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import { useAnswer } from '../notices/answer.ts';

const drawer = useDrawerStore();
const till = useTillStore();
const session = useSessionStore();
const shifts = useAnswer(async () => (session.may('drawer.close') ? await drawer.pastShifts() : []), []);
</script>

<template>
  <section v-if="shifts.length > 0" aria-labelledby="past-title">
    <h2 id="past-title" class="label">Closed shifts of this till</h2>
    <table>
      <thead>
        <tr>
          <th scope="col">Shift</th>
          <th scope="col">Closed</th>
          <th scope="col">By</th>
          <th scope="col" class="right">Difference</th>
          <th scope="col" class="right">To the bank</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="shift in shifts" :key="shift.id">
          <td>
            <router-link class="word num" :to="`/drawer/shifts/${shift.id}`">{{ shift.number }}</router-link>
          </td>
          <td>{{ till.time(shift.closedAt, 'full') }}</td>
          <td>{{ shift.closedBy }}</td>
          <td class="right" :class="{ bad: shift.variance < 0 }">
            {{ varianceWords(shift.variance, till.digits) }}
          </td>
          <td class="num right">{{ till.money(shift.banked) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
}
td {
  padding-block: 3px;
}
.word {
  display: inline-grid;
  align-items: center;
  color: var(--ink);
}
</style>
