<script setup lang="ts">
import { computed, reactive } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { WEEKDAYS, formatTenths } from '../../core/locale.ts';
import { WHOLE, parseFactor } from '../../core/rate.ts';
import { pointsMoreWords } from '../../core/people/loyalty.ts';
import DateField from '../look/DateField.vue';
import TypedBefore from '../look/TypedBefore.vue';
import { useRemembered } from '../look/remembered.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useSetupStore } from './setupStore.ts';
import WordButton from '../look/WordButton.vue';

/** When and for whom purchases give more points. */
const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { wrong, attempt } = useAttempt();
const NONE = {
  name: '',
  times: '2',
  groupId: null as number | null,
  categoryId: null as number | null,
  weekdays: [] as number[],
  from: '',
  to: '',
};
const form = reactive({ ...NONE });
const remembered = useRemembered('more points', () => 'More points', form);
const DAYS = WEEKDAYS.map((title, at) => ({ value: at + 1, title }));
const named = (list: readonly { id: number; name: string }[], all: string) => [
  { value: null, title: all },
  ...list.map(({ id, name }) => ({ value: id, title: name })),
];
const groups = computed(() => named(facts.groups, 'everybody'));
const categories = computed(() => named(facts.categories, 'everything'));

async function add(): Promise<void> {
  const factor = parseFactor(form.times);
  if (factor === null) {
    wrong.value = { times: `A number, for example 2 or ${formatTenths(1.5)}.` };
    return;
  }
  const { name } = form;
  const times = Math.round((factor * 100) / WHOLE);
  if (await attempt(setup.addPointsMore({ ...form, times }), `${name} gives more points.`))
    Object.assign(form, NONE, { weekdays: [] });
}
</script>

<template>
  <section class="block" aria-labelledby="more-points-title">
    <h2 id="more-points-title" class="title">More points</h2>
    <p class="soft">For a group, for some goods, on some days. Where several fit, the most counts.</p>
    <ul v-if="facts.pointsMore.length > 0">
      <li v-for="one in facts.pointsMore" :key="one.id">
        <span
          ><b>{{ one.name }}</b> <span class="soft">{{ pointsMoreWords(one) }}</span></span
        >
        <WordButton @click="attempt(setup.endPointsMore(one.id), `${one.name} gives no more.`)">
          End it
        </WordButton>
      </li>
    </ul>
    <TypedBefore :of="remembered" />
    <form class="adding" novalidate @submit.prevent="add">
      <v-text-field v-model="form.name" label="Name" maxlength="60" :error-messages="wrong.name" />
      <v-text-field
        v-model="form.times"
        label="How many times"
        inputmode="decimal"
        :error-messages="wrong.times"
      />
      <v-select v-model="form.groupId" label="For whom" :items="groups" :error-messages="wrong.groupId" />
      <v-select
        v-model="form.categoryId"
        label="On what"
        :items="categories"
        :error-messages="wrong.categoryId"
      />
      <v-select v-model="form.weekdays" label="Days (empty: all)" :items="DAYS" multiple />
      <DateField v-model="form.from" label="From" :wrong="wrong.from" />
      <DateField v-model="form.to" label="Until" :wrong="wrong.to" />
      <v-btn class="go" type="submit">Add it</v-btn>
    </form>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  align-items: center;
  border-bottom: var(--hair);
}
.adding {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 10px;
  align-items: start;
  margin-top: 10px;
}
</style>
