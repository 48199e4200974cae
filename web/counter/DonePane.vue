<script setup lang="ts">
import { computed, onUnmounted, watchEffect } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import { useJournalStore } from '../journal/journalStore.ts';
import SendReceipt from '../journal/SendReceipt.vue';
import PointsOfSale from '../people/PointsOfSale.vue';
import PaperView from '../journal/PaperView.vue';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { usePrinterStore } from '../printer/printerStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import StepButton from '../look/StepButton.vue';

const journal = useJournalStore();
const basket = useBasketStore();
const till = useTillStore();
/** As it is stored; one that was practised is not. */
const [sale, showSale, putSale] = shown<JournalSale | null>(null);
const printer = usePrinterStore();

const cashOnly = computed(() => {
  const { tenders = [] } = basket.finished ?? {};
  return tenders.length < 2 && tenders.every(({ name }) => name === cashName.value);
});
const cashName = computed(() => till.facts?.payment.types.find(({ kind }) => kind === 'cash')?.name);
const givenBack = computed(() => (basket.finished?.total ?? 0) < 0);
const figure = computed(() => {
  if (givenBack.value) return -(basket.finished?.total ?? 0);
  const { change = 0, total = 0, donation = 0 } = basket.finished ?? {};
  return change > 0 || cashOnly.value ? change : total + donation;
});

const look = useLook(
  (id: string) => showSale(journal.saleOf(id)),
  () => putSale(null),
);
async function load(): Promise<void> {
  if (basket.finished) await look(basket.finished.id);
}
watchEffect(() => void load());
onUnmounted(lookAgain((event) => event.kind === 'printed' && event.saleId === basket.finished?.id, load));
</script>

<template>
  <div v-if="basket.finished" class="change" role="status">
    <span>{{ givenBack ? 'Given back' : basket.finished.change > 0 || cashOnly ? 'Change' : 'Paid' }}</span>
    <span
      class="num big"
      :class="{ long: till.money(figure).length > 7 }"
      :data-test="givenBack ? 'given-back' : basket.finished.change > 0 || cashOnly ? 'change' : 'paid'"
      >{{ till.money(figure) }}</span
    >
    <span v-if="cashOnly && !givenBack" class="sub">
      <span class="num">{{ till.money(basket.finished.handed) }}</span> handed over ·
      <span class="num">{{ till.money(basket.finished.total + basket.finished.donation) }}</span> to pay
    </span>
    <span v-for="(tender, at) in cashOnly && !givenBack ? [] : basket.finished.tenders" :key="at" class="sub">
      {{ tender.name }} <span class="num">{{ till.money(Math.abs(tender.handed)) }}</span>
      <template v-if="tender.tip > 0"
        >and <span class="num">{{ till.money(tender.tip) }}</span> tip</template
      >
    </span>
    <span v-if="basket.finished.donation > 0" class="sub">
      <span class="num">{{ till.money(basket.finished.donation) }}</span> given
    </span>
  </div>
  <div class="out">
    <b>Receipt {{ basket.finished?.number }}</b>
    <span v-if="sale?.printedAt">printed</span>
    <span v-else-if="sale && sale.sent.length > 0">goes to {{ sale.sent.at(-1)?.recipient }}</span>
    <span v-else-if="sale?.receiptCustomer?.by === 'none'">not wanted</span>
    <span v-else-if="printer.trouble" class="bad">Not printed: {{ printer.trouble }} It is tried again.</span>
    <span v-else class="soft">printing …</span>
    <router-link v-if="basket.finished" class="word" :to="`/journal/${basket.finished.id}`"
      >Open in the journal</router-link
    >
  </div>
  <PointsOfSale
    v-if="sale"
    :sale-id="sale.id"
    :points="sale.points"
    :may-join="sale.mayJoin"
    @joined="load"
  />
  <SendReceipt v-if="sale" :sale="sale" @sent="load" />
  <div class="paper scroll" tabindex="0" role="region" aria-label="Receipt">
    <PaperView v-if="sale" :paper="sale.paper" />
  </div>
  <StepButton of="counter.next" @click="basket.nextSale()">Next sale</StepButton>
</template>

<style scoped>
.change {
  background: var(--band);
  color: var(--on-band);
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
  color: var(--band-soft);
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
