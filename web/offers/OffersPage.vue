<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import type { KeptOffer } from '../../contract/offers.ts';
import { useLook } from '../notices/look.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useOffersStore } from './offersStore.ts';
import { stateWords } from './stateWords.ts';

const offers = useOffersStore();
const session = useSessionStore();
void useLook(offers.load)();

const usedWords = ({ used }: KeptOffer) => counted(used, 'time');
</script>

<template>
  <div class="offers scroll">
    <header class="head">
      <h1 class="title">Offers</h1>
      <v-btn v-if="session.may('offers.edit')" class="go" to="/offers/new">Write an offer</v-btn>
    </header>
    <p v-if="offers.offers?.length === 0" class="empty">
      <b>No offers yet</b>
      An offer applies by its own rules: every third pack free, a bundle at a price, a percentage off for
      members.
    </p>
    <ul v-else>
      <li v-for="offer in offers.offers ?? []" :key="offer.id">
        <router-link :to="`/offers/${offer.id}`" class="row">
          <span class="state" :class="stateWords(offer).toLowerCase()">{{ stateWords(offer) }}</span>
          <span class="what">
            <b>{{ offer.name }}</b>
            <span>{{ offers.words(offer) }}</span>
          </span>
          <span class="num right">{{ usedWords(offer) }}</span>
        </router-link>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) 110px;
  gap: 18px;
  align-items: center;
  padding: 10px 22px;
  min-height: 64px;
  border-bottom: var(--hair);
  background: var(--surface);
  color: var(--ink);
  text-decoration: none;
}
.row:hover,
.row:focus-visible {
  background: var(--blue-wash);
}
.state {
  font-weight: 700;
  font-size: 14px;
  border-left: 6px solid var(--soft);
  padding-left: 10px;
}
.state.applies {
  border-color: var(--blue);
}
.state.draft {
  border-color: var(--yellow);
}
.what b {
  display: block;
  font-size: 17px;
}
.what span {
  font-size: 14.5px;
}
</style>
