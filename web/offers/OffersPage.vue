<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { OfferState } from '../../contract/offers.ts';
import { counted } from '../../core/locale.ts';
import { wordsFit } from '../../core/words.ts';
import ChipChoice from '../look/ChipChoice.vue';
import ListPage from '../look/ListPage.vue';
import { useLook } from '../notices/look.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useOffersStore } from './offersStore.ts';
import { stateWords } from './stateWords.ts';

const store = useOffersStore();
const session = useSessionStore();
const router = useRouter();
void useLook(store.load)();

const STATES: { value: OfferState | 'all'; words: string }[] = [
  { value: 'all', words: 'All' },
  { value: 'live', words: 'In use' },
  { value: 'draft', words: 'Drafts' },
  { value: 'ended', words: 'Ended' },
];
const COLUMNS = [
  { key: 'name', words: 'Offer' },
  { key: 'state', words: 'State', width: '170px' },
  { key: 'used', words: 'Used', right: true, width: '130px' },
];
const find = ref('');
const state = ref<OfferState | 'all'>('all');
const rows = computed(() =>
  (store.offers ?? []).filter(
    (offer) =>
      (state.value === 'all' || offer.state === state.value) &&
      wordsFit(find.value, `${offer.name} ${store.words(offer)}`),
  ),
);
function everything(): void {
  find.value = '';
  state.value = 'all';
}
</script>

<template>
  <ListPage
    :narrowed="find !== '' || state !== 'all'"
    title="Offers"
    :of="['offer', 'offers']"
    :columns="COLUMNS"
    :rows
    :count="store.offers && rows.length"
    :per-page="Math.max(1, rows.length)"
    :busy="store.offers === null"
    :name-of="({ name }) => name"
    @widen="everything"
    @open="({ id }) => router.push(`/offers/${id}`)"
  >
    <template #acts>
      <v-btn v-if="session.may('offers.edit')" class="go" to="/offers/new">Write an offer</v-btn>
    </template>
    <template #filters>
      <div class="find">
        <v-text-field
          v-model="find"
          label="Name, or what it gives"
          data-search
          autocomplete="off"
          clearable
          @click:clear="find = ''"
        />
        <ChipChoice v-model="state" label="Which offers" :options="STATES" />
      </div>
    </template>
    <template #name="{ row }">
      <b>{{ row.name }}</b>
      <span class="under">{{ store.words(row) }}</span>
    </template>
    <template #state="{ row }">
      <span class="state" :class="stateWords(row).toLowerCase()">{{ stateWords(row) }}</span>
    </template>
    <template #used="{ row }">{{ counted(row.used, 'time') }}</template>
    <template #empty>
      <b>No offers yet</b>
      <p>
        An offer applies by its own rules: every third pack free, a bundle at a price, a percentage off for
        members.
      </p>
    </template>
  </ListPage>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
}
.state {
  font-weight: 700;
  border-left: 6px solid var(--soft);
  padding-left: 10px;
}
.state.applies {
  border-color: var(--blue);
}
.state.draft {
  border-color: var(--yellow);
}
@media (max-width: 900px) {
  .find {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
