<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAskedDays } from './askedDays.ts';
import DaysFields from './DaysFields.vue';
import FiguresTabs from './FiguresTabs.vue';
import { useFiguresStore } from './figuresStore.ts';

/** Whether reports say what the books, the journal, the shift reports and stock say. */
const figures = useFiguresStore();
const till = useTillStore();
const notices = useNoticeStore();
const { asked, query, complete } = useAskedDays('month', 'none', {});
const busy = ref(false);
const found = computed(() => figures.tied);
const off = computed(() =>
  (found.value?.ties ?? []).filter(({ left, right }) => left.amount !== right.amount),
);
void figures.loadChoices();
watchDebounced(
  query,
  async () => {
    if (!complete.value) return;
    busy.value = true;
    await figures.loadTies(query.value).catch((error: unknown) => notices.failed(problemWords(error)));
    busy.value = false;
  },
  { debounce: 150, immediate: true },
);
</script>

<template>
  <section class="zone" aria-labelledby="ties-title">
    <FiguresTabs />
    <div class="scroll">
      <h1 id="ties-title" class="hidden-text">Does it tie?</h1>
      <div class="fields"><DaysFields v-model="asked" :beside="false" :parts="false" /></div>
      <p v-if="busy || !found" class="verdict" role="status">Looking …</p>
      <p v-else-if="off.length === 0 && found.differences.length === 0" class="verdict" role="status">
        <b>It ties.</b> {{ found.ties.length }} figures were found on two ways each, and
        {{ found.checks }} checks of all that is kept found no difference.
      </p>
      <p v-else class="verdict bad" role="status">
        <b>{{ off.length + found.differences.length }} do not tie.</b> Keep a backup, and tell whoever looks
        after the system.
      </p>
      <table v-if="found" class="goods-lines">
        <thead>
          <tr>
            <th>Figure</th>
            <th class="right">In the report</th>
            <th class="right">On the other way</th>
            <th>Which is</th>
            <th>Ties</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ what, left, right, to } in found.ties" :key="what">
            <td>
              <router-link class="word" :to="`${to}?from=${asked.from}&to=${asked.to}`">{{
                what
              }}</router-link>
            </td>
            <td class="right num">{{ till.money(left.amount) }}</td>
            <td class="right num">{{ till.money(right.amount) }}</td>
            <td>{{ right.words }}</td>
            <td :class="{ bad: left.amount !== right.amount }">
              {{ left.amount === right.amount ? 'Yes' : `Off by ${till.money(left.amount - right.amount)}` }}
            </td>
          </tr>
          <tr v-for="{ check, what, kept, recomputed } in found.differences" :key="`${check} ${what}`">
            <td>{{ what }}</td>
            <td class="right num">{{ kept }}</td>
            <td class="right num">{{ recomputed }}</td>
            <td>{{ check }}</td>
            <td class="bad">No</td>
          </tr>
        </tbody>
      </table>
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
}
.verdict {
  padding: 16px 18px;
  font-size: 20px;
  border-bottom: var(--rule);
}
.word {
  padding: 0;
  min-height: 0;
}
</style>
