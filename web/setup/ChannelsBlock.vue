<script setup lang="ts">
import { onUnmounted, ref } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { hear } from '../net/houseEvents.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ChannelForm from './ChannelForm.vue';
import { useSetupStore } from './setupStore.ts';

/** Where people order beside the shop. */
const { facts } = defineProps<{ facts: SetupFacts }>();
const setup = useSetupStore();
const till = useTillStore();
/** The one that is looked at; 0 is a new one. */
const chosen = ref(facts.channels[0]?.id ?? 0);

onUnmounted(
  hear(({ kind }) => {
    if (kind === 'channels-changed' || kind === 'promises-changed') void setup.load().catch(() => {});
  }),
);
</script>

<template>
  <section class="channels" aria-labelledby="channels-title">
    <h2 id="channels-title" class="title">Orders from elsewhere</h2>
    <p class="soft">
      The shop's web site, or wherever else people order, sends orders with a key of its own. They wait with
      all others, and it is told how they stand.
    </p>
    <div class="choose" role="group" aria-label="Channels">
      <button
        v-for="one in facts.channels"
        :key="one.id"
        type="button"
        :aria-pressed="one.id === chosen"
        :class="{ on: one.id === chosen, ill: one.trouble }"
        @click="chosen = one.id"
      >
        <b>{{ one.name }}</b>
        <span>{{ one.active ? `owes ${till.money(one.owed)}` : 'takes no orders' }}</span>
      </button>
      <button type="button" :aria-pressed="chosen === 0" :class="{ on: chosen === 0 }" @click="chosen = 0">
        <b>A new channel</b>
        <span>with a key of its own</span>
      </button>
    </div>
    <!-- What is typed and not kept yet stays while another one is looked at. -->
    <ChannelForm v-for="one in facts.channels" v-show="one.id === chosen" :key="one.id" :channel="one" />
    <ChannelForm v-show="chosen === 0" :channel="null" @made="chosen = facts.channels.at(-1)?.id ?? 0" />
  </section>
</template>

<style scoped>
.channels {
  display: grid;
  gap: 14px;
}
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.choose button {
  border: var(--group);
  padding: 10px 14px;
  text-align: left;
  background: var(--surface);
  color: var(--ink);
  flex: 1 1 220px;
}
.choose b,
.choose span {
  display: block;
}
.choose .on {
  background: var(--blue);
  color: var(--on-blue);
}
.choose .ill:not(.on) span {
  color: var(--red);
}
</style>
