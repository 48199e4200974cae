<script setup lang="ts">
import { ref } from 'vue';
import type { OddFigure } from '../../contract/figures.ts';
import { formatCount } from '../../core/locale.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useWritten } from './written.ts';
import WordButton from '../look/WordButton.vue';

/** What is far from what is usual on such a weekday, in words, with the days that it was put beside. */
defineProps<{ odd: readonly OddFigure[] }>();

const till = useTillStore();
const written = useWritten();
const shown = ref('');
const figure = ({ money }: OddFigure, value: number) => (money ? till.money(value) : formatCount(value));
const usual = (one: OddFigure) =>
  one.usual.low === one.usual.high
    ? figure(one, one.usual.low)
    : `${figure(one, one.usual.low)} to ${figure(one, one.usual.high)}`;
const keyOf = ({ what, place }: OddFigure) => `${what} ${place}`;
</script>

<template>
  <section class="odd" aria-label="Odd">
    <h2 class="label">Odd</h2>
    <ul>
      <li v-for="one in odd" :key="keyOf(one)">
        <span
          ><b>{{ one.what }} at {{ one.place }}: {{ figure(one, one.value) }}</b
          >, usually {{ usual(one) }} on such a weekday.</span
        >
        <WordButton
          class="in-text"
          :aria-expanded="shown === keyOf(one)"
          @click="shown = shown === keyOf(one) ? '' : keyOf(one)"
        >
          The days
        </WordButton>
        <router-link class="word in-text" :to="`/figures/reports/${one.report}?from=${one.day}&to=${one.day}`"
          >Report</router-link
        >
        <p v-if="shown === keyOf(one)" class="soft days">
          <span v-for="like in one.like" :key="like.day"
            >{{ written.shortDay(like.day) }}: {{ figure(one, like.value) }}</span
          >
        </p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.odd {
  padding: 10px 18px;
  border-bottom: var(--rule);
  background: var(--surface);
}
.odd li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding: 3px 0;
}
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  width: 100%;
}
</style>
