<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed } from 'vue';
import type { HeldBasket } from '../../contract/waiting.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { formatRate } from '../../core/rate.ts';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { shown } from '../net/shown.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useWaitingStore } from './waitingStore.ts';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

const { held } = defineProps<{ held: HeldBasket }>();

const waiting = useWaitingStore();
const basket = useBasketStore();
const till = useTillStore();
const goOn = useWayOn();
const full = computed(() => basket.lines.length > 0);
/** What it would come to on this till now: offers, prices and taxes may have changed since it was held. */
const [priced, showPriced, putPriced] = shown<PricedBasket | null>(null);
watchImmediate(
  () => held,
  (one) => {
    putPriced(null);
    return showPriced(catalogue.look(one.basket).then(({ priced: found }) => found));
  },
);
const netOf = (id: string) => priced.value?.lines.find((line) => line.id === id);

async function takeUp(): Promise<void> {
  if (full.value) return;
  if (await waiting.takeUp(held)) await goOn('/counter');
}

useKeys(
  'waiting',
  { takeUp },
  {
    // What is being typed is not disturbed.
    when: () => !(document.activeElement instanceof HTMLInputElement && document.activeElement.value),
  },
);
</script>

<template>
  <header class="head">
    <h2 class="title">
      {{ held.name || 'Held basket' }} <span class="num soft">{{ held.number }}</span>
    </h2>
    <span class="num title">{{ till.money(held.total) }}</span>
  </header>
  <div class="scroll preview">
    <p v-if="held.basket.customer">
      <b>{{ held.basket.customer.name }}</b>
    </p>
    <p v-if="held.note" class="note">{{ held.note }}</p>
    <p v-if="held.basket.note" class="note">{{ held.basket.note }}</p>
    <table>
      <tbody>
        <tr v-for="line in held.basket.lines" :key="line.id">
          <td class="num">
            {{ formatQuantity(line.quantity) }}{{ line.unit === 'each' ? '' : ` ${line.unit}` }}
          </td>
          <td>
            {{ line.name }}
            <span v-if="line.note" class="soft why">{{ line.note }}</span>
            <span v-for="(record, at) in netOf(line.id)?.records" :key="at" class="soft why">
              {{ record.why }} <span class="num">{{ till.money(record.amount) }}</span>
            </span>
          </td>
          <td class="num right">{{ netOf(line.id) ? till.money(netOf(line.id)?.net ?? 0) : '' }}</td>
        </tr>
      </tbody>
      <tfoot v-if="priced">
        <tr v-for="tax in priced.taxes" :key="tax.rateId">
          <td></td>
          <td>{{ tax.name }} {{ formatRate(tax.rate) }} {{ priced.taxMode === 'inside' ? 'in it' : '' }}</td>
          <td class="num right">{{ till.money(tax.tax) }}</td>
        </tr>
        <tr>
          <td></td>
          <td><b>Total</b></td>
          <td class="num right">
            <b>{{ till.money(priced.total) }}</b>
          </td>
        </tr>
        <tr v-if="priced.total !== held.total">
          <td></td>
          <td colspan="2" class="soft">
            It was {{ till.money(held.total) }} when it was held: prices, offers or taxes are not the same any
            more.
          </td>
        </tr>
      </tfoot>
    </table>
  </div>
  <footer class="foot">
    <p v-if="full" class="soft">
      This till is ringing up something else: put it on hold first (F8 at the Counter), or finish it.
    </p>
    <WaitButton class="go" height="56" :disabled="full" :loading="waiting.busy" @click="takeUp"
      >Take up on this till <KeyHint of="waiting.takeUp"
    /></WaitButton>
  </footer>
</template>

<style scoped>
.preview {
  flex: 1;
  padding: 18px 22px;
}
.note {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 14px;
  margin-bottom: 14px;
}
td {
  font-size: 17px;
}
.foot {
  display: flex;
  gap: 16px;
  align-items: center;
  padding: 14px 22px;
  border-top: var(--rule);
  background: var(--surface);
}
.foot .go {
  margin-left: auto;
}
</style>
