<script setup lang="ts">
import { computed } from 'vue';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import { useShortagesStore } from './shortagesStore.ts';
import { useAnswer } from '../notices/answer.ts';

const drawer = useDrawerStore();
const shortages = useShortagesStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const till = useTillStore();
/** Read again whenever another drawer is looked at, or one is closed. */
const seen = computed(() => [drawer.state?.till.id, drawer.state?.shift?.id]);
const mayClose = computed(() => session.may('drawer.close-any'));
const tills = useAnswer(async () => {
  void seen.value;
  return mayClose.value ? await drawer.desk() : [];
}, []);
</script>

<template>
  <nav v-if="mayClose" class="desk" aria-label="Drawers">
    <button
      v-for="one in tills"
      :key="one.tillId"
      type="button"
      :class="{ on: one.tillId === drawer.state?.till.id }"
      :aria-pressed="one.tillId === drawer.state?.till.id"
      :disabled="!one.shift && one.tillId !== till.facts?.till.id"
      @click="drawer.countAtDesk(one.tillId)"
    >
      <b>Till {{ one.number }}</b>
      <span>{{ one.shift ? `open, ${one.shift.openedBy}` : 'closed' }}</span>
    </button>
    <router-link v-if="mayOpen('/drawer/shifts')" class="word" to="/drawer/shifts"
      >All shifts{{ shortages.count > 0 ? `, ${shortages.count} short and not explained` : '' }}</router-link
    >
  </nav>
</template>

<style scoped>
.desk {
  display: flex;
  min-height: 52px;
  border-bottom: var(--rule);
  background: var(--paper);
}
.desk button {
  display: grid;
  padding: 8px 18px;
  min-height: 52px;
  border-right: 1px solid var(--ink);
  font-size: 14px;
}
.desk button:disabled {
  color: var(--soft);
}
.desk .on {
  background: var(--blue-wash);
  box-shadow: inset 0 -4px 0 var(--blue);
}
.desk .word {
  margin-left: auto;
  padding: 0 18px;
  display: grid;
  align-items: center;
}
</style>
