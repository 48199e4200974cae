<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue';
import { houseNow } from '../shop/houseClock.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ChipButton from './ChipButton.vue';
import type { Remembered } from './remembered.ts';

/** What was typed into a form before and not kept; it is put back where somebody wants it. */
const { of } = defineProps<{ of: Remembered }>();
const till = useTillStore();

/** By the server's clock, as all times are; today's needs no date. */
function when(at: string): string {
  const now = houseNow();
  const then = new Date(now.getTime() - (Date.now() - Date.parse(at)));
  const today = till.day(then) === till.day(now);
  return `${today ? 'at' : 'on'} ${till.time(then.toISOString(), today ? 'time' : 'full')}`;
}

const band = useTemplateRef('band');
/** The hand goes on in the form. */
async function then(act: () => void): Promise<void> {
  const form = band.value?.closest('form, section');
  act();
  await nextTick();
  form?.querySelector<HTMLElement>('input:not([type="checkbox"])')?.focus();
}
</script>

<template>
  <div v-if="of.before.value" ref="band" class="before" role="group" aria-label="Typed before">
    <p>Typed here {{ when(of.before.value.at) }}, and not kept.</p>
    <ChipButton @click="then(of.putBack)">Put it back</ChipButton>
    <ChipButton @click="then(of.letGo)">Let it go</ChipButton>
  </div>
</template>

<style scoped>
.before {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 10px 12px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
}
p {
  flex: 1 1 18em;
}
</style>
