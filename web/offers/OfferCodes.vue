<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { watchImmediate } from '@vueuse/core';
import { reactive } from 'vue';
import { shown } from '../net/shown.ts';
import type { KeptOffer, OfferCode } from '../../contract/offers.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useLook } from '../notices/look.ts';
import CountField from '../look/CountField.vue';
import { useOffersStore } from './offersStore.ts';
import WordButton from '../look/WordButton.vue';

/** The codes that open an offer. */
const { offer } = defineProps<{ offer: KeptOffer }>();

const offers = useOffersStore();
const { wrong, attempt } = useAttempt();
/** Nothing before they are known. */
const [codes, showCodes, putCodes] = shown<OfferCode[] | null>(null);
const fresh = reactive({ code: '', count: 20 as number | null });
const SHOWN = 12;

const load = useLook(() => showCodes(offers.codes(offer.id)));
watchImmediate(
  () => offer.id,
  () => {
    putCodes(null);
    void load();
  },
);

async function addOne(): Promise<void> {
  if (
    await attempt(
      offers.addCodes(offer.id, { code: fresh.code, count: 0 }),
      `${fresh.code.toUpperCase()} opens it.`,
    )
  )
    fresh.code = '';
  await load();
}

async function addSeries(): Promise<void> {
  await attempt(
    offers.addCodes(offer.id, { code: '', count: fresh.count ?? 0 }),
    `${counted(fresh.count ?? 0, 'code was', 'codes were')} made. Each opens it once.`,
  );
  await load();
}

async function withdraw(code: string): Promise<void> {
  await attempt(offers.withdrawCode(code), `${code} opens nothing any more.`);
  await load();
}
</script>

<template>
  <section class="codes" aria-labelledby="codes-title">
    <h2 id="codes-title" class="label">Codes</h2>
    <form class="group" novalidate @submit.prevent="addOne">
      <v-text-field
        v-model="fresh.code"
        label="A code for everybody"
        maxlength="40"
        :error-messages="wrong.code"
      />
      <v-btn type="submit">Add this code</v-btn>
    </form>
    <form class="group" novalidate @submit.prevent="addSeries">
      <CountField v-model="fresh.count" label="Codes that open it once" :wrong="wrong.count" />
      <v-btn type="submit">Make a series</v-btn>
    </form>
    <ul v-if="codes && codes.length > 0">
      <li v-for="one in codes.slice(0, SHOWN)" :key="one.code">
        <b class="num">{{ one.code }}</b>
        <span>{{ one.single ? 'once' : 'any number of times' }}</span>
        <span class="num">{{ one.used }} used</span>
        <WordButton @click="withdraw(one.code)">Withdraw</WordButton>
      </li>
    </ul>
    <p v-if="codes && codes.length > 0">
      <a :href="`/api/offers/${offer.id}/codes.csv`" class="word">All {{ codes.length }} as CSV</a>
    </p>
    <p v-else-if="codes" class="soft">No code opens it yet.</p>
  </section>
</template>

<style scoped>
.codes {
  display: grid;
  gap: 12px;
  border-top: var(--group);
  padding-top: 14px;
}
li {
  display: grid;
  grid-template-columns: 200px 1fr 90px auto;
  gap: 12px;
  align-items: center;
  min-height: 44px;
  border-top: var(--hair);
}
</style>
