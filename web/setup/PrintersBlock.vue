<script setup lang="ts">
import { onUnmounted, ref } from 'vue';
import type { TillPrinter } from '../../contract/printer.ts';
import { hear } from '../net/houseEvents.ts';
import PrinterForm from './PrinterForm.vue';
import { useSetupStore } from './setupStore.ts';

const setup = useSetupStore();
const tills = ref<TillPrinter[]>([]);
const chosen = ref<number | null>(null);

async function load(): Promise<void> {
  tills.value = await setup.printers().catch(() => tills.value);
  chosen.value ??= tills.value[0]?.tillId ?? null;
}
void load();
onUnmounted(
  hear(({ kind }) => {
    if (kind === 'connected' || kind === 'printer-changed' || kind === 'printed') void load();
  }),
);

const wordsOf = ({ setup: { kind, host, port }, trouble, waiting }: TillPrinter) => {
  if (trouble) return `${trouble} ${waiting === 1 ? '1 paper waits.' : `${waiting} papers wait.`}`;
  return kind === 'network' ? `at ${host}:${port}` : 'on the screen';
};
</script>

<template>
  <section class="block" aria-labelledby="printers-title">
    <h2 id="printers-title" class="title">Receipt printers</h2>
    <div class="tills" role="group" aria-label="Tills">
      <button
        v-for="till in tills"
        :key="till.tillId"
        type="button"
        :aria-pressed="till.tillId === chosen"
        :class="{ on: till.tillId === chosen, ill: till.trouble }"
        @click="chosen = till.tillId"
      >
        <b>Till {{ till.number }} · {{ till.place }}</b>
        <span>{{ wordsOf(till) }}</span>
      </button>
    </div>
    <!-- What is typed for a till and not kept yet stays while another one is looked at. -->
    <PrinterForm
      v-for="till in tills"
      v-show="till.tillId === chosen"
      :key="till.tillId"
      :till="till"
      @kept="load"
    />
  </section>
</template>

<style scoped>
.tills {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.tills button {
  border: var(--group);
  padding: 10px 14px;
  text-align: left;
  background: var(--surface);
  color: var(--ink);
  flex: 1 1 220px;
}
.tills b,
.tills span {
  display: block;
}
.tills .on {
  background: var(--blue);
  color: var(--on-blue);
}
.tills .ill:not(.on) span {
  color: var(--red);
}
</style>
