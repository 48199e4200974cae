<script setup lang="ts">
import { computed } from 'vue';
import { AGES, type Age, type ByAge } from '../../core/people/accountAge.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What is owed by how long it is overdue; what is overdue stands out. */
const { ages } = defineProps<{ ages: ByAge }>();

const till = useTillStore();
const parts = computed(() =>
  (Object.keys(AGES) as Age[]).map((age) => ({
    age,
    words: AGES[age],
    amount: ages[age],
    bad: age !== 'notDue' && ages[age] > 0,
  })),
);
</script>

<template>
  <dl class="ages" aria-label="By how long it is overdue">
    <div v-for="{ age, words, amount, bad } in parts" :key="age">
      <dt class="soft">{{ words }}</dt>
      <dd class="num" :class="{ bad }">{{ till.money(amount) }}</dd>
    </div>
  </dl>
</template>

<style scoped>
.ages {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  border-top: var(--group);
  border-bottom: var(--hair);
}
.ages > div {
  padding: 6px 8px 6px 0;
}
dt {
  font-size: 14px;
}
dd {
  font-size: 17px;
  font-weight: 600;
}
</style>
