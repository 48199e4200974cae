<script setup lang="ts">
import TimeField from '../look/TimeField.vue';
import DateField from '../look/DateField.vue';
import { RETURN_WAY_WORDS } from '../../contract/returns.ts';
import { RETURN_WAYS } from '../../core/journal/returns.ts';
import { computed } from 'vue';
import CountField from '../look/CountField.vue';
import MoneyField from '../look/MoneyField.vue';
import type { EditableOffer } from './newOffer.ts';
import { useOffersStore } from './offersStore.ts';
import ChipButton from '../look/ChipButton.vue';

/** When, where, for whom and how often an offer applies. */
const offer = defineModel<EditableOffer>({ required: true });
defineProps<{ wrong: Readonly<Record<string, string>> }>();

const offers = useOffersStore();
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const NEEDS = [
  { value: 'nothing', title: 'by itself' },
  { value: 'code', title: 'only with a code' },
  { value: 'points', title: 'as a reward that costs points' },
];

/** A day that is not set is none. */
const day = (which: 'from' | 'to') =>
  computed({
    get: () => offer.value.conditions[which] ?? '',
    set: (text: string) => (offer.value.conditions[which] = text || null),
  });
const from = day('from');
const to = day('to');

const timed = computed({
  get: () => offer.value.conditions.hours !== null,
  set: (on: boolean) => (offer.value.conditions.hours = on ? { from: '09:00', to: '12:00' } : null),
});

function toggleDay(weekday: number): void {
  const { weekdays } = offer.value.conditions;
  const at = weekdays.indexOf(weekday);
  if (at < 0) weekdays.push(weekday);
  else weekdays.splice(at, 1);
}

const ON_RETURN = RETURN_WAYS.map((value) => ({ value, title: RETURN_WAY_WORDS[value] }));

function chooseNeeds(needs: EditableOffer['needs']): void {
  offer.value.needs = needs;
  offer.value.points = needs === 'points' ? 100 : 0;
}
</script>

<template>
  <div class="group">
    <v-select :model-value="offer.needs" :items="NEEDS" label="Applies" @update:model-value="chooseNeeds" />
    <CountField v-if="offer.needs === 'points'" v-model="offer.points" label="Points" :wrong="wrong.points" />
    <v-checkbox
      v-model="offer.combines"
      label="On top of other offers"
      hide-details
      title="Else a unit that it reduces takes part in no other offer"
    />
    <v-select v-model="offer.onReturn" :items="ON_RETURN" class="wide" label="When goods come back, refund" />
  </div>
  <div class="group">
    <DateField v-model="from" label="From" :wrong="wrong['conditions.from']" />
    <DateField v-model="to" label="Until" :wrong="wrong['conditions.to']" />
  </div>
  <div class="times">
    <div class="days" role="group" aria-label="Only on these days">
      <ChipButton
        v-for="(word, at) in DAYS"
        :key="word"
        :on="offer.conditions.weekdays.includes(at + 1)"
        @click="toggleDay(at + 1)"
      >
        {{ word }}
      </ChipButton>
    </div>
    <v-checkbox v-model="timed" label="Only at some hours" hide-details />
    <template v-if="offer.conditions.hours">
      <TimeField v-model="offer.conditions.hours.from" label="From" :wrong="wrong['conditions.hours.from']" />
      <TimeField v-model="offer.conditions.hours.to" label="To" :wrong="wrong['conditions.hours.to']" />
    </template>
  </div>
  <div class="group">
    <v-select
      v-model="offer.conditions.groups"
      :items="offers.groups"
      label="Only members of"
      placeholder="Everybody"
      persistent-placeholder
      multiple
    />
    <v-select
      v-model="offer.conditions.placeIds"
      :items="offers.places.map(({ id, name }) => ({ value: id, title: name }))"
      label="Only at"
      placeholder="All places"
      persistent-placeholder
      multiple
    />
    <MoneyField
      v-model="offer.conditions.minimum"
      label="These goods come to at least"
      :wrong="wrong['conditions.minimum']"
    />
  </div>
  <div class="group">
    <CountField
      v-model="offer.limits.perSale"
      optional
      label="Times in a sale"
      :wrong="wrong['limits.perSale']"
    />
    <CountField
      v-model="offer.limits.perCustomer"
      optional
      label="Times for a customer"
      :wrong="wrong['limits.perCustomer']"
    />
    <CountField v-model="offer.limits.total" optional label="Times in all" :wrong="wrong['limits.total']" />
  </div>
</template>

<style scoped>
.times {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: center;
}
.times .v-text-field {
  flex: 0 1 150px;
}
.days {
  display: flex;
  gap: 4px;
}
.days .chip {
  min-width: 50px;
  min-height: 44px;
  justify-content: center;
}
</style>
