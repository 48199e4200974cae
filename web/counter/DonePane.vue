<script setup lang="ts">
import { onUnmounted, ref, watchEffect } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import PaperView from '../journal/PaperView.vue';
import { read } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useBasketStore } from './basketStore.ts';

const basket = useBasketStore();
const till = useTillStore();
const sale = ref<JournalSale | null>(null);
const printer = ref('');

async function load(): Promise<void> {
  const id = basket.finished?.id;
  if (!id) return;
  const found = await read<JournalSale>(`/journal/sales/${id}`).catch(() => null);
  if (basket.finished?.id === id) sale.value = found;
}
watchEffect(() => void load());
const stop = hear((event) => {
  if (event.kind === 'printed' && event.saleId === basket.finished?.id) void load();
  if (event.kind === 'printer-failed' && event.tillId === till.facts?.till.id) printer.value = event.message;
});
onUnmounted(stop);
</script>

<template>
  <div v-if="basket.finished" class="change" role="status">
    <span>Change</span>
    <span
      class="num big"
      :class="{ long: till.money(basket.finished.change).length > 7 }"
      data-test="change"
      >{{ till.money(basket.finished.change) }}</span
    >
    <span class="sub">
      <span class="num">{{ till.money(basket.finished.handed) }}</span> handed over ·
      <span class="num">{{ till.money(basket.finished.total) }}</span> to pay
    </span>
  </div>
  <div class="out">
    <b>Receipt {{ basket.finished?.number }}</b>
    <span v-if="sale?.printedAt">printed</span>
    <span v-else-if="printer" class="bad">Not printed: {{ printer }} It is tried again.</span>
    <span v-else class="soft">printing …</span>
    <router-link v-if="basket.finished" class="word" :to="`/journal/${basket.finished.id}`"
      >Open in the journal</router-link
    >
  </div>
  <div class="paper scroll" tabindex="0" role="region" aria-label="Receipt">
    <PaperView v-if="sale" :paper="sale.paper" />
  </div>
  <button type="button" class="next-step" @click="basket.nextSale()">
    <span>Next sale</span><kbd>F9</kbd>
  </button>
</template>

<style scoped>
.change {
  background: #15171c;
  color: #fff;
  padding: 18px;
  display: grid;
  gap: 6px;
  font-size: 19px;
  font-weight: 700;
}
.big {
  font-size: 76px;
  line-height: 1;
  font-weight: 600;
  letter-spacing: -0.03em;
  text-align: right;
}
.big.long {
  font-size: 46px;
}
.sub {
  font-size: 14px;
  font-weight: 400;
  text-align: right;
  color: #d8d8d8;
}
.out {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: center;
  padding: 4px 18px;
  border-bottom: var(--group);
  background: var(--surface);
  min-height: 52px;
}
.out .word {
  margin-left: auto;
  display: grid;
  align-items: center;
}
.paper {
  flex: 1;
  padding: 16px 24px;
}
</style>
