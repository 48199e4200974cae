<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, onUnmounted, ref } from 'vue';
import type { TillPrinter } from '../../contract/printer.ts';
import BigChoice from '../look/BigChoice.vue';
import { lookAgain } from '../net/lookAgain.ts';
import PrinterForm from './PrinterForm.vue';
import { useSetupStore } from './setupStore.ts';

const setup = useSetupStore();
const chosen = ref<number | null>(null);

async function load(): Promise<void> {
  await setup.loadPrinters();
  chosen.value ??= setup.printers[0]?.tillId ?? null;
}
load().catch(() => {});
onUnmounted(lookAgain(['printer-changed', 'printed'], load));

const wordsOf = ({ setup: { kind, host, port }, trouble, waiting }: TillPrinter) => {
  if (trouble) return `${trouble} ${counted(waiting, 'paper waits', 'papers wait')}.`;
  return kind === 'network' ? `at ${host}:${port}` : 'on the screen';
};
const options = computed(() =>
  setup.printers.map((till) => ({
    value: till.tillId,
    title: `Till ${till.number} · ${till.place}`,
    words: wordsOf(till),
    ill: Boolean(till.trouble),
  })),
);
</script>

<template>
  <section class="block" aria-labelledby="printers-title">
    <h2 id="printers-title" class="title">Receipt printers</h2>
    <BigChoice v-model="chosen" label="Tills" :options />
    <!-- What is typed for a till and not kept yet stays while another one is looked at. -->
    <PrinterForm
      v-for="till in setup.printers"
      v-show="till.tillId === chosen"
      :key="till.tillId"
      :till="till"
    />
  </section>
</template>
