<script setup lang="ts">
import { mdiAlert, mdiCashRegister } from '@mdi/js';
import { computed, onUnmounted } from 'vue';
import type { PrintedPaper, SettleJob } from '../../contract/printer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import PaperView from '../journal/PaperView.vue';
import { problemWords } from '../net/problem.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePrinterStore } from './printerStore.ts';

const till = useTillStore();
const printer = usePrinterStore();
const notices = useNoticeStore();
/** What was printed; nothing before that is known. */
const [papers, showPapers] = shown<PrintedPaper[] | null>(null);
const network = computed(() => printer.facts?.setup.kind === 'network');
const where = computed(() => {
  const { host, port } = printer.facts?.setup ?? {};
  return network.value ? `Receipts of this till come out of the printer at ${host}:${port}.` : '';
});

const load = useLook(() => showPapers(printer.papers()));
void load();
printer.look();
onUnmounted(lookAgain((event) => event.kind === 'printed' && event.tillId === till.facts?.till.id, load));

async function settle(id: number, as: SettleJob['as']): Promise<void> {
  try {
    await printer.settle(id, as);
  } catch (error) {
    notices.failed(problemWords(error));
    printer.look();
  }
}
</script>

<template>
  <div class="printer">
    <header class="head">
      <h1 class="title">Printer of till {{ till.facts?.till.number }}</h1>
      <span class="soft">{{
        where || 'This stand-in shows what a receipt printer would print, newest first.'
      }}</span>
    </header>
    <section v-if="printer.trouble" class="trouble" role="alert">
      <v-icon :icon="mdiAlert" />
      <b>{{ printer.trouble }}</b>
      <span>It is tried again by itself: nothing is lost.</span>
    </section>
    <section v-if="printer.doubtful.length > 0" class="open" aria-labelledby="doubt-title">
      <h2 id="doubt-title">Did it come out?</h2>
      <p class="soft">
        The printer fell silent while these were printed. Only you can see whether they are there.
      </p>
      <ul>
        <li v-for="paper in printer.doubtful" :key="paper.id">
          <b>{{ paper.words }}</b>
          <span class="soft">asked for at {{ till.time(paper.askedAt) }}</span>
          <v-btn @click="settle(paper.id, 'printed')">It came out</v-btn>
          <v-btn class="go" @click="settle(paper.id, 'again')">Print it again</v-btn>
        </li>
      </ul>
    </section>
    <section
      v-if="printer.trouble && printer.waiting.length > 0"
      class="open"
      aria-labelledby="waiting-title"
    >
      <h2 id="waiting-title">Waiting for the printer</h2>
      <ul>
        <li v-for="paper in printer.waiting" :key="paper.id">
          <b>{{ paper.words }}</b>
          <span class="soft">asked for at {{ till.time(paper.askedAt) }}</span>
          <v-btn v-if="paper.state === 'waiting'" class="stop" @click="settle(paper.id, 'dropped')"
            >Do not print it</v-btn
          >
        </li>
      </ul>
    </section>
    <div v-if="papers && (!network || papers.length > 0)" class="scroll roll">
      <p v-if="network" class="soft wide">Printed here before this till had a printer:</p>
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
    <div v-else-if="papers && printer.count === 0" class="empty">
      <b>All is printed</b>
      <p>What the printer cannot print shows here.</p>
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
.trouble {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 14px 22px;
  background: var(--red);
  color: var(--surface);
}
.open {
  background: var(--surface);
  border-bottom: var(--group);
  padding: 14px 22px;
}
.open h2 {
  font-size: 19px;
  font-weight: 700;
}
.open li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
  border-top: var(--hair);
}
.open li .soft {
  flex: 1;
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
.wide {
  flex-basis: 100%;
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
