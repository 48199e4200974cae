<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DateField from '../look/DateField.vue';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useStockValueStore } from './stockValueStore.ts';

/** What stock is worth by category and place, now or at the end of any day, beside what the books said. */
const store = useStockValueStore();
const till = useTillStore();
const route = useRoute();
const router = useRouter();
const day = ref(typeof route.query.day === 'string' ? route.query.day : '');
const found = computed(() => store.value);
const csv = computed(() => `/api/goods/value.csv?day=${day.value}`);
const look = useLook(store.load);
watchImmediate(day, async (asked) => {
  await router.replace({ query: asked ? { day: asked } : {} });
  await look(asked);
});
</script>

<template>
  <section class="zone" aria-labelledby="value-title">
    <header class="head">
      <h1 id="value-title" class="title">What stock is worth</h1>
      <div class="acts">
        <v-btn to="/goods">All goods</v-btn>
        <v-btn :href="csv">CSV</v-btn>
      </div>
    </header>
    <div v-if="found" class="scroll">
      <div class="asked"><DateField v-model="day" label="At the end of (empty: now)" /></div>
      <dl class="page-figures">
        <div>
          <dt class="label">Worth</dt>
          <dd class="num">{{ till.money(found.value) }}</dd>
        </div>
        <div>
          <dt class="label">In the books</dt>
          <dd class="num" :class="{ bad: found.books !== found.value }">{{ till.money(found.books) }}</dd>
        </div>
      </dl>
      <table v-if="found.categories.length > 0" class="goods-lines">
        <thead>
          <tr>
            <th>Category</th>
            <th v-for="place in found.places" :key="place.id" class="right">{{ place.name }}</th>
            <th class="right">Together</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="category in found.categories" :key="category.name">
            <td>{{ category.name }}</td>
            <td v-for="(value, at) in category.values" :key="at" class="right num">
              {{ value === 0 ? '' : till.money(value) }}
            </td>
            <td class="right num">
              <b>{{ till.money(category.value) }}</b>
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <td>Together</td>
            <td v-for="place in found.places" :key="place.id" class="right num">
              <b>{{ till.money(place.value) }}</b>
            </td>
            <td class="right num">
              <b>{{ till.money(found.value) }}</b>
            </td>
          </tr>
        </tfoot>
      </table>
      <p v-else class="empty">
        <b>Nothing lay there then</b><span>What is delivered, or was here before, has a value.</span>
      </p>
    </div>
    <p v-else class="empty" role="status">Adding it up …</p>
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  gap: 12px;
}
.asked {
  padding: 14px 18px;
  background: var(--surface);
}
.asked > * {
  max-width: 284px;
}
</style>
