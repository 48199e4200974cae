<script setup lang="ts">
import { computed } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import type { Nudge } from '../../core/nudges/nudge.ts';
import { usePointsStore } from '../people/pointsStore.ts';
import { usePointsOffStore } from '../people/pointsOffStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketOffersStore } from '../sale/basketOffersStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import WordButton from '../look/WordButton.vue';

const basket = useBasketStore();
const offers = useBasketOffersStore();
const till = useTillStore();
const points = usePointsStore();
const pointsOff = usePointsOffStore();
const work = useBasketWorkStore();

const nudges = computed(() => (basket.lines.length > 0 ? basket.nudges : []));
/** The first suggestion that one key follows. */
const first = computed(() => nudges.value.find(({ act }) => act !== null));
const rewards = computed(() => (basket.priced?.offers ?? []).filter(({ points }) => points > 0));
const codes = computed(() =>
  (basket.basket.codes ?? []).map(({ code, offerId }) => ({
    code,
    offer: basket.priced?.offers.find(({ id }) => id === offerId),
  })),
);

const WORDS = { add: 'Add', reward: 'Use', customer: 'Find' } as const;
const actWord = ({ act }: Nudge) => (act ? WORDS[act.kind] : '');
</script>

<template>
  <!-- First what stands with the prices: what is suggested comes a moment later and must move nothing. -->
  <ul
    v-if="codes.length > 0 || rewards.length > 0 || pointsOff.offered"
    class="given"
    aria-label="Codes, rewards and points"
  >
    <li v-for="one in codes" :key="one.code">
      <b class="num">{{ one.code }}</b>
      <span class="num">{{ one.offer ? till.money(0 - one.offer.amount) : 'nothing off' }}</span>
      <WordButton @click="offers.dropCode(one.code)">Take off</WordButton>
    </li>
    <li v-for="one in rewards" :key="one.id">
      <b>{{ one.name }}, {{ points.words(one.points) }}</b>
      <span class="num">{{ till.money(0 - one.amount) }}</span>
      <WordButton @click="offers.dropReward(one.id)">Take off</WordButton>
    </li>
    <li v-if="pointsOff.paid">
      <b>{{ points.words(pointsOff.paid.points) }}</b>
      <span class="num">{{ till.money(0 - pointsOff.paid.amount) }}</span>
      <span class="acts">
        <WordButton @click="work.begin('points-off')">Change</WordButton>
        <WordButton @click="pointsOff.use(0)">Take off</WordButton>
      </span>
    </li>
    <li v-else-if="pointsOff.offered">
      <span>{{ pointsOff.rateWords }}</span>
      <span />
      <WordButton @click="work.begin('points-off')">
        Pay with {{ points.word }} <KeyHint v-if="!first" of="counter.follow" />
      </WordButton>
    </li>
  </ul>
  <ul v-if="nudges.length > 0" class="nudges" aria-label="Worth saying">
    <li v-for="nudge in nudges" :key="nudge.offerId" :title="nudge.gives">
      <span class="what">
        <b>{{ nudge.words }}</b>
        <span>{{ nudge.adds ? `${nudge.offer} · ${nudge.adds}` : nudge.offer }}</span>
      </span>
      <span v-if="nudge.saving > 0" class="num saving">{{ till.money(0 - nudge.saving) }}</span>
      <span v-else />
      <button v-if="nudge.act" type="button" @click="offers.follow(nudge)">
        {{ actWord(nudge) }} <KeyHint v-if="nudge === first" of="counter.follow" />
      </button>
    </li>
  </ul>
</template>

<style scoped>
.given {
  border-bottom: var(--group);
  background: var(--surface);
}
.acts {
  display: flex;
  gap: 12px;
}
.given li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 12px;
  align-items: center;
  padding: 0 18px;
  min-height: 44px;
}

.nudges {
  flex: 0 1 auto;
  min-height: 62px;
  overflow-y: auto;
  background: var(--yellow);
  color: var(--on-yellow);
  border-bottom: var(--rule);
}
.nudges li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: center;
  padding: 6px 18px;
  min-height: 52px;
}
.nudges li + li {
  border-top: 1px solid color-mix(in srgb, var(--on-yellow) 30%, transparent);
}
.what b,
.what span {
  display: block;
  line-height: 1.25;
}
.what b {
  font-size: 15px;
  display: -webkit-box;
  -webkit-line-clamp: 2;
  -webkit-box-orient: vertical;
  overflow: hidden;
}
.what span {
  font-size: 13.5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.saving {
  font-weight: 600;
  font-size: 17px;
}
.nudges button {
  min-height: 44px;
  padding: 0 8px;
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 3px;
}
</style>
