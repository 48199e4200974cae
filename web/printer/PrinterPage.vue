<script setup lang="ts">
import { mdiCashRegister } from '@mdi/js';
import { onUnmounted, ref } from 'vue';
import type { Paper } from '../../core/journal/paper.ts';
import PaperView from '../journal/PaperView.vue';
import { read } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { useTillStore } from '../setup/tillStore.ts';

interface PrintedPaper {
  id: number;
  openedDrawer: boolean;
  paper: Paper;
}

const till = useTillStore();
const papers = ref<PrintedPaper[]>([]);

async function load(): Promise<void> {
  papers.value = await read<PrintedPaper[]>('/printer/papers').catch(() => papers.value);
}
void load();
onUnmounted(
  hear((event) => {
    if (event.kind === 'connected' || (event.kind === 'printed' && event.tillId === till.facts?.till.id))
      void load();
  }),
);
</script>

<template>
  <div class="printer">
    <header class="head">
      <h1 class="title">Printer of till {{ till.facts?.till.number }}</h1>
      <span class="soft">This stand-in shows what a receipt printer would print, newest first.</span>
    </header>
    <div class="scroll roll">
      <figure v-for="printed in papers" :key="printed.id">
        <figcaption>
          <span class="num">No. {{ printed.id }}</span>
          <span v-if="printed.openedDrawer"><v-icon :icon="mdiCashRegister" size="18" /> drawer opened</span>
        </figcaption>
        <PaperView :paper="printed.paper" />
      </figure>
      <div v-if="papers.length === 0" class="empty">
        <b>Nothing printed yet</b>
        <p>Receipts come out here when a sale is paid.</p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.printer {
  display: flex;
  flex-direction: column;
}
.head {
  background: var(--surface);
}
.roll {
  flex: 1;
  padding: 22px;
  display: flex;
  flex-wrap: wrap;
  gap: 22px;
  align-content: start;
  align-items: start;
}
figure {
  width: 340px;
}
figcaption {
  display: flex;
  justify-content: space-between;
  padding: 4px 0;
  font-size: 14px;
}
.empty {
  flex: 1;
}
</style>
