<script setup lang="ts">
import { formatTenths } from '../../core/locale.ts';
import { computed, reactive } from 'vue';
import DateField from '../look/DateField.vue';
import type { SetupFacts, TaxCategory } from '../../contract/setup.ts';
import { ratesOn, type DatedRate } from '../../core/pricing/taxRates.ts';
import { formatRate, parseRate } from '../../core/rate.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSetupStore } from './setupStore.ts';
import WordButton from '../look/WordButton.vue';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const { wrong: categoryWrong, attempt: attemptCategory } = useAttempt();
const category = reactive({ name: '' });
const rate = reactive({ taxCategoryId: facts.taxCategories[0]?.id ?? 0, name: '', percent: '', from: '' });

const inForce = computed(
  () =>
    new Set(
      Object.values(
        ratesOn(
          facts.taxCategories.flatMap(({ rates }) => rates),
          facts.today,
        ),
      )
        .flat()
        .map(({ id }) => id),
    ),
);
const BEGINNING = '0001-01-01';

function when({ id, from, rate: parts }: DatedRate): string {
  if (from > facts.today)
    return parts === 0
      ? `ends at midnight, ${till.calendarDay(from)}`
      : `from midnight, ${till.calendarDay(from)}`;
  if (inForce.value.has(id))
    return from === BEGINNING ? 'in force' : `in force since ${till.calendarDay(from)}`;
  return 'over';
}

async function addCategory(): Promise<void> {
  const { name } = category;
  if (await attemptCategory(setup.addTaxCategory(name), `${name} is added, without a rate so far.`))
    category.name = '';
}

async function addRate(): Promise<void> {
  const parts = parseRate(rate.percent);
  if (parts === null) {
    wrong.value = { rate: `Type a rate in per cent, for example ${formatTenths(7.5)}.` };
    return;
  }
  const { taxCategoryId, name, from } = rate;
  const words = `${name} is ${formatRate(parts)} from ${till.calendarDay(from)} on.`;
  if (await attempt(setup.addTaxRate({ taxCategoryId, name, rate: parts, from }), words))
    Object.assign(rate, { name: '', percent: '', from: '' });
}

/** Begins the form with a tax that is there, to change its rate. */
function changeRate({ id }: TaxCategory, { name }: DatedRate): void {
  Object.assign(rate, { taxCategoryId: id, name });
}
</script>

<template>
  <section class="block" aria-labelledby="taxes-title">
    <h2 id="taxes-title" class="title">Taxes</h2>
    <p class="soft">A rate changes at midnight. What was sold before keeps the rate of its day.</p>
    <table>
      <tbody v-for="one in facts.taxCategories" :key="one.id">
        <tr>
          <th scope="rowgroup" colspan="4">{{ one.name }}</th>
        </tr>
        <tr v-for="held in one.rates" :key="held.id" :class="{ soft: when(held) === 'over' }">
          <td>{{ held.name }}</td>
          <td class="num">{{ formatRate(held.rate) }}</td>
          <td>{{ when(held) }}</td>
          <td>
            <WordButton
              v-if="held.from > facts.today"
              @click="attempt(setup.dropTaxRate(held.id), `${held.name} stays as it is.`)"
            >
              Take back
            </WordButton>
            <WordButton v-else-if="when(held) !== 'over'" @click="changeRate(one, held)">
              Change the rate
            </WordButton>
          </td>
        </tr>
        <tr v-if="one.rates.length === 0">
          <td colspan="4" class="soft">No tax is due.</td>
        </tr>
      </tbody>
    </table>
    <form class="adding" novalidate @submit.prevent="addRate">
      <v-select
        v-model="rate.taxCategoryId"
        :items="facts.taxCategories"
        item-title="name"
        item-value="id"
        label="Category"
        :error-messages="wrong.taxCategoryId"
      />
      <v-text-field v-model="rate.name" label="Name of the tax" maxlength="60" :error-messages="wrong.name" />
      <v-text-field
        v-model="rate.percent"
        label="Rate in %"
        inputmode="decimal"
        :error-messages="wrong.rate"
      />
      <DateField v-model="rate.from" label="From which day on" :wrong="wrong.from" />
      <v-btn class="go" type="submit">Set the rate</v-btn>
    </form>
    <form class="adding" novalidate @submit.prevent="addCategory">
      <v-text-field
        v-model="category.name"
        label="Name of a new tax category"
        maxlength="60"
        :error-messages="categoryWrong.name"
      />
      <v-btn class="go" type="submit">Add category</v-btn>
    </form>
  </section>
</template>

<style scoped>
td {
  padding-block: 4px;
  height: 46px;
}
td:nth-child(4) {
  text-align: right;
}
</style>
