<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { useAttempt } from '../notices/attempt.ts';
import PlaceForm from './PlaceForm.vue';
import { useSetupStore } from './setupStore.ts';
import WordButton from '../look/WordButton.vue';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { wrong: placeWrong, attempt: attemptPlace } = useAttempt();
const { wrong: tillWrong, attempt: attemptTill } = useAttempt();
const place = reactive({ name: '', kind: 'shop' as 'shop' | 'stock' });
const newTill = reactive({ number: '', placeId: null as number | null });
/** The place whose address and hours are being changed. */
const changed = ref<number | null>(null);
const sellingPlaces = computed(() =>
  facts.places.filter(({ kind }) => kind === 'shop').map(({ id, name }) => ({ value: id, title: name })),
);

async function addPlace(): Promise<void> {
  if (await attemptPlace(setup.addPlace({ ...place }), `${place.name} is added.`)) place.name = '';
}

async function addTill(): Promise<void> {
  const wanted = { number: Number(newTill.number), placeId: newTill.placeId ?? 0 };
  if (await attemptTill(setup.addTill(wanted), `Till ${newTill.number} is added.`)) newTill.number = '';
}
</script>

<template>
  <section class="block" aria-labelledby="places-title">
    <h2 id="places-title" class="title">Places and tills</h2>
    <ul class="list">
      <li v-for="one in facts.places" :key="one.id">
        <b>{{ one.name }}</b> <span class="soft">{{ one.kind === 'shop' ? 'sells' : 'stock only' }}</span>
        <span>{{
          facts.tills
            .filter(({ place: at }) => at === one.name)
            .map(({ number }) => `Till ${number}`)
            .join(', ')
        }}</span>
        <span class="soft">{{ [one.street, one.postcode, one.city].filter(Boolean).join(' ') }}</span>
        <WordButton
          v-if="changed !== one.id"
          :aria-label="`Address and hours of ${one.name}`"
          @click="changed = one.id"
        >
          Address and hours
        </WordButton>
        <PlaceForm v-else class="whole" :place="one" @done="changed = null" />
      </li>
    </ul>
    <form class="adding" novalidate @submit.prevent="addPlace">
      <v-text-field v-model="place.name" label="Name of a new place" :error-messages="placeWrong.name" />
      <v-select
        v-model="place.kind"
        :items="[
          { value: 'shop', title: 'sells' },
          { value: 'stock', title: 'stock only' },
        ]"
        label="Kind"
      />
      <v-btn class="go" type="submit">Add place</v-btn>
    </form>
    <form class="adding" novalidate @submit.prevent="addTill">
      <v-text-field
        v-model="newTill.number"
        label="Number of a new till"
        inputmode="numeric"
        :error-messages="tillWrong.number"
      />
      <v-select
        v-model="newTill.placeId"
        :items="sellingPlaces"
        label="Place"
        :error-messages="tillWrong.placeId"
      />
      <v-btn class="go" type="submit">Add till</v-btn>
    </form>
  </section>
</template>

<style scoped>
.list li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 14px;
  padding: 9px 0;
  border-top: var(--hair);
}
.whole {
  flex-basis: 100%;
}
</style>
