<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import BigChoice from '../look/BigChoice.vue';
import { lookAgain } from '../net/lookAgain.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ChannelForm from './ChannelForm.vue';
import { useSetupStore } from './setupStore.ts';

/** Where people order beside the shop. */
const { facts } = defineProps<{ facts: SetupFacts }>();
const setup = useSetupStore();
const till = useTillStore();
/** The one that is looked at; 0 is a new one. */
const chosen = ref(facts.channels[0]?.id ?? 0);

onUnmounted(lookAgain(['channels-changed', 'promises-changed'], setup.load));
const options = computed(() => [
  ...facts.channels.map(({ id, name, active, owed, trouble }) => ({
    value: id,
    title: name,
    words: active ? `owes ${till.money(owed)}` : 'takes no orders',
    ill: trouble !== '',
  })),
  { value: 0, title: 'A new channel', words: 'with a key of its own' },
]);
</script>

<template>
  <section class="channels" aria-labelledby="channels-title">
    <h2 id="channels-title" class="title">Orders from elsewhere</h2>
    <p class="soft">
      The shop's web site, or wherever else people order, sends orders with a key of its own. They wait with
      all others, and it is told how they stand.
    </p>
    <BigChoice v-model="chosen" label="Channels" :options />
    <!-- What is typed and not kept yet stays while another one is looked at. -->
    <ChannelForm v-for="one in facts.channels" v-show="one.id === chosen" :key="one.id" :channel="one" />
    <ChannelForm v-show="chosen === 0" :channel="null" />
  </section>
</template>

<style scoped>
.channels {
  display: grid;
  gap: 14px;
}
</style>
