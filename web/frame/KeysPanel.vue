<script setup lang="ts">
import { onMounted, useTemplateRef } from 'vue';
import { useSessionStore } from '../staff/sessionStore.ts';
import { allKeys, KEYS, type KeyPlace, type Place } from '../keys/keyTable.ts';
import KeyHint from '../keys/KeyHint.vue';
import { placesNow, useKeys } from '../keys/useKeys.ts';

const emit = defineEmits<{ close: [] }>();
const session = useSessionStore();

/** What acts now stands above what acts elsewhere. */
const here = placesNow();
const rest = (Object.keys(KEYS) as Place[]).filter((place) => !here.includes(place));
const parts: readonly KeyPlace[] = [...here, ...rest].map((place) => KEYS[place]);

const panel = useTemplateRef('panel');
onMounted(() => panel.value?.focus());
useKeys('everywhere', { hideKeys: () => emit('close') });
</script>

<template>
  <section ref="panel" class="keys" tabindex="-1" role="dialog" aria-label="Keys">
    <header class="head">
      <h2 class="title">Keys</h2>
      <v-btn v-if="session.person" @click="session.signOutEverywhere()">Sign out everywhere</v-btn>
      <v-btn @click="emit('close')">Close <KeyHint of="everywhere.hideKeys" /></v-btn>
    </header>
    <div class="parts">
      <template v-for="({ words, uses }, at) in parts" :key="words">
        <h3 class="label">{{ at === here.length ? 'Elsewhere: ' : '' }}{{ words }}</h3>
        <dl>
          <template v-for="use in uses" :key="use.words">
            <dt>
              <kbd v-for="key in allKeys(use)" :key>{{ key }}</kbd>
            </dt>
            <dd>{{ use.words.replaceAll('`', '') }}</dd>
          </template>
        </dl>
      </template>
    </div>
  </section>
</template>

<style scoped>
.keys {
  position: absolute;
  z-index: 20;
  left: 76px;
  bottom: 0;
  width: 520px;
  max-height: 100%;
  display: flex;
  flex-direction: column;
  background: var(--surface);
  border: var(--rule);
}
.parts {
  overflow-y: auto;
  padding: 12px 18px 18px;
  display: grid;
  gap: 6px;
}
.label {
  padding-top: 8px;
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  row-gap: 7px;
  align-items: baseline;
}
dt {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
</style>
