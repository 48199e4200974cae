<script setup lang="ts">
import { watchDebounced } from '@vueuse/core';
import { computed, onMounted, onUnmounted, ref } from 'vue';
import MoreRows from '../look/MoreRows.vue';
import ProgressBar from '../look/ProgressBar.vue';
import { useSomeOf } from '../look/someOf.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAskedDays } from './askedDays.ts';
import DaysFields from './DaysFields.vue';
import FiguresTabs from './FiguresTabs.vue';
import { useFiguresStore } from './figuresStore.ts';

/** Whether reports say what the books, the journal, the shift reports and stock say. */
const figures = useFiguresStore();
const till = useTillStore();
const { asked, query, complete } = useAskedDays('month', 'none', {});
const comparing = ref(true);
const checking = ref(false);
/** What was found for these days; nothing of those before. */
const ties = computed(() => (comparing.value ? null : figures.ties));
const off = computed(() => (ties.value ?? []).filter(({ left, right }) => left.amount !== right.amount));
const differences = computed(() => figures.checked?.differences ?? []);
const listed = useSomeOf(() => differences.value);
const through = computed(() => figures.checked !== null && figures.checked.done === figures.checked.of);

// What the page itself asks for says what is wrong.
void useLook(figures.loadChoices, () => {})();
const compare = useLook(() => figures.loadTies(query.value));
watchDebounced(
  query,
  async () => {
    if (!complete.value) return;
    comparing.value = true;
    await compare();
    comparing.value = false;
  },
  { debounce: 150, immediate: true },
);

let here = true;
const lookAll = useLook(() => figures.loadChecks(() => here));
async function check(): Promise<void> {
  checking.value = true;
  await lookAll();
  checking.value = false;
}
onMounted(check);
onUnmounted(() => (here = false));
</script>

<template>
  <section class="zone" aria-labelledby="ties-title">
    <FiguresTabs />
    <div class="scroll">
      <h1 id="ties-title" class="hidden-text">Does it tie?</h1>
      <div class="fields"><DaysFields v-model="asked" :beside="false" :parts="false" /></div>
      <p v-if="off.length + differences.length > 0" class="verdict bad" role="status">
        <b>{{ off.length + differences.length }} do not tie.</b> Keep a backup, and tell whoever looks after
        the system.
      </p>
      <p v-else-if="!ties" class="verdict" role="status">Looking …</p>
      <p v-else-if="through" class="verdict" role="status">
        <b>It ties.</b> {{ ties.length }} figures were found on two ways each, and
        {{ figures.checked?.of }} checks of all that is kept found no difference.
      </p>
      <p v-else class="verdict" role="status">
        <b>These days tie.</b> {{ ties.length }} figures were found on two ways each. All that is kept
        {{ checking ? 'is being checked …' : 'could not be checked.' }}
      </p>
      <div v-if="!through" class="checks">
        <ProgressBar
          v-if="figures.checked"
          :done="figures.checked.done"
          :of="figures.checked.of"
          label="Checks that are done"
        >
          {{ figures.checked.done }} of {{ figures.checked.of }} checks
        </ProgressBar>
        <v-btn v-if="!checking" @click="check">Check again</v-btn>
      </div>
      <table v-if="ties" class="goods-lines">
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
          <tr v-for="{ what, left, right, to } in ties" :key="what">
            <td>
              <router-link class="word in-text" :to="`${to}?from=${asked.from}&to=${asked.to}`">{{
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
          <tr v-for="{ check, what, kept, recomputed } in listed.some.value" :key="`${check} ${what}`">
            <td>{{ what }}</td>
            <td class="right num">{{ kept }}</td>
            <td class="right num">{{ recomputed }}</td>
            <td>{{ check }}</td>
            <td class="bad">No</td>
          </tr>
        </tbody>
      </table>
      <MoreRows :of="listed" />
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
.checks {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px;
  padding: 10px 18px;
}
</style>
