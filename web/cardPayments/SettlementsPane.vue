<script setup lang="ts">
import { ref, shallowRef } from 'vue';
import { SETTLEMENTS_PAGE, type SettlementRow, type TerminalRow } from '../../contract/cardPayments.ts';
import { counted } from '../../core/locale.ts';
import { problemWords } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCardPaymentsStore } from './cardPaymentsStore.ts';

/** What each terminal holds that the bank has not taken over yet, and what it has. */
const emit = defineEmits<{ settled: [] }>();

const cards = useCardPaymentsStore();
const till = useTillStore();
const notices = useNoticeStore();
const terminals = shallowRef<TerminalRow[] | null>(null);
const [settled, showSettled] = shown<{ rows: SettlementRow[]; more: boolean }>({ rows: [], more: false });
const busy = ref(false);
/** The terminal that is to be settled, once somebody says so again: it cannot be undone. */
const asking = ref<number | null>(null);

async function after(before: readonly SettlementRow[]) {
  const found = await cards.settlements(before.at(-1)?.id ?? 0);
  return { rows: [...before, ...found], more: found.length === SETTLEMENTS_PAGE };
}
const load = useLook(async () => {
  terminals.value = await cards.terminals();
  await showSettled(after([]));
});
const loadEarlier = useLook(() => showSettled(after(settled.value.rows)));
void load();

async function settle({ id, name }: TerminalRow): Promise<void> {
  if (asking.value !== id) {
    asking.value = id;
    return;
  }
  asking.value = null;
  busy.value = true;
  try {
    const { count, gross, fees } = await cards.settle(id);
    notices.say(
      count === 0
        ? `${name} has nothing to settle.`
        : `${name} settled: ${counted(count, 'payment')}, ${till.money(gross)} less ${till.money(fees)} fees.`,
    );
    emit('settled');
    await load();
  } catch (error) {
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <aside aria-labelledby="settle-title">
    <header class="head"><h2 id="settle-title" class="title">Settlements</h2></header>
    <div class="side">
      <div v-for="terminal in terminals" :key="terminal.id" class="terminal">
        <b>{{ terminal.name }}</b>
        <span class="num">{{ till.money(terminal.unsettled) }}</span>
        <v-btn data-money :disabled="busy || terminal.unsettled === 0" @click="settle(terminal)">{{
          asking === terminal.id ? 'Yes, settle now' : 'Settle'
        }}</v-btn>
      </div>
      <p v-if="terminals?.length === 0" class="soft">No terminal is paired. Pair one in Setup.</p>
      <ol>
        <li v-for="one in settled.rows" :key="one.id">
          <span
            ><b class="num">{{ one.batch }}</b
            ><small
              >{{ till.time(one.at, 'full') }} · {{ one.terminal }} ·
              {{ counted(one.count, 'payment') }}</small
            ><small v-if="one.unknown > 0" class="bad">{{ one.unknown }} of them no till knows</small></span
          >
          <span class="num right"
            >{{ till.money(one.gross) }}<small>fees {{ till.money(one.fees) }}</small></span
          >
        </li>
      </ol>
      <div v-if="settled.more" class="acts"><v-btn @click="loadEarlier()">Earlier ones</v-btn></div>
    </div>
  </aside>
</template>

<style scoped>
small {
  display: block;
  color: var(--soft);
}
.side {
  padding: 18px;
  display: grid;
  gap: 12px;
  align-content: start;
}
.terminal {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 14px;
  align-items: center;
  border: var(--group);
  background: var(--surface);
  padding: 10px 14px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 10px 0;
  border-bottom: var(--hair);
}
</style>
