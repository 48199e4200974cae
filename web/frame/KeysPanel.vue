<script setup lang="ts">
import { onMounted, useTemplateRef } from 'vue';
import { useSessionStore } from '../staff/sessionStore.ts';

defineEmits<{ close: [] }>();
const session = useSessionStore();

const KEYS: [string, string][] = [
  ['/', 'Entry field'],
  ['3*', 'Quantity first, then scan or type'],
  ['↑ ↓', 'Choose a line, or a found item'],
  ['+ −', 'Quantity of the chosen line'],
  ['Enter', 'Type the quantity of the chosen line'],
  ['Del', 'Remove the chosen line'],
  ['I D P N G', 'Item, discount, price, note, gift receipt of the line that ↑ ↓ chose'],
  ['Space', 'Pick the chosen line together with others'],
  ['F2', 'Add what is suggested, or use the reward'],
  ['F4', 'Customer on the sale'],
  ['F6', 'Take goods back; there S swaps them'],
  ['F8', 'Put the basket on hold'],

  ['F9', 'Next step: take payment, accept, sign'],
  ['Alt 1–9', 'While paying: choose a means of payment; ↑ ↓ too'],
  ['÷', 'While paying: split evenly'],
  ['Esc', 'One step back; calls a card terminal off'],
  ['?', 'These keys'],
];
const panel = useTemplateRef('panel');
onMounted(() => panel.value?.focus());
</script>

<template>
  <section ref="panel" class="keys" tabindex="-1" role="dialog" aria-label="Keys">
    <header class="head">
      <h2 class="title">Keys</h2>
      <v-btn v-if="session.person" @click="session.signOutEverywhere()">Sign out everywhere</v-btn>
      <v-btn @click="$emit('close')">Close <kbd>Esc</kbd></v-btn>
    </header>
    <dl>
      <template v-for="[key, what] in KEYS" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
.keys {
  position: absolute;
  z-index: 20;
  left: 76px;
  bottom: 0;
  width: 440px;
  background: var(--surface);
  border: var(--rule);
}

dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  padding: 12px 18px 18px;
  row-gap: 9px;
  align-items: center;
}
</style>
