<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, onMounted, onUnmounted, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { PricedBasket } from '../../core/offers/price.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { formatRate } from '../../core/rate.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useWaitingStore } from './waitingStore.ts';

const waiting = useWaitingStore();
const basket = useBasketStore();
const till = useTillStore();
const router = useRouter();

onMounted(async () => {
  waiting.looking = true;
  await waiting.load();
  if (!chosen.value) waiting.chosenId = waiting.held[0]?.id ?? '';
});
onUnmounted(() => (waiting.looking = false));
const chosen = computed(() => waiting.held.find(({ id }) => id === waiting.chosenId));
const full = computed(() => basket.lines.length > 0);
/** What it would come to on this till now: offers, prices and taxes may have changed since it was held. */
const priced = shallowRef<PricedBasket | null>(null);
watchImmediate(chosen, async (held) => {
  priced.value = null;
  if (!held) return;
  const { priced: found } = await catalogue.look(held.basket);
  if (chosen.value?.id === held.id) priced.value = found;
});
const netOf = (id: string) => priced.value?.lines.find((line) => line.id === id);

async function takeUp(): Promise<void> {
  if (!chosen.value || full.value) return;
  if (await waiting.takeUp(chosen.value)) await router.push('/counter');
}

function move(by: 1 | -1): void {
  const at = waiting.held.findIndex(({ id }) => id === chosen.value?.id);
  waiting.chosenId = waiting.held[Math.min(waiting.held.length - 1, Math.max(0, at + by))]?.id ?? '';
}

useKeys(
  'waiting',
  { move: (_event, nth) => move(nth === 0 ? -1 : 1), takeUp },
  {
    // What is being typed is not disturbed.
    when: () => !(document.activeElement instanceof HTMLInputElement && document.activeElement.value),
  },
);
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="waiting-title">
      <header class="head">
        <h1 id="waiting-title" class="title">Waiting</h1>
        <span class="soft"
          >{{ waiting.held.length }} {{ waiting.held.length === 1 ? 'basket' : 'baskets' }}</span
        >
      </header>
      <ol v-if="waiting.held.length > 0" class="scroll">
        <li v-for="held in waiting.held" :key="held.id">
          <button
            type="button"
            class="row"
            :class="{ on: held.id === chosen?.id }"
            :aria-current="held.id === chosen?.id || undefined"
            @click="waiting.chosenId = held.id"
          >
            <span class="what">
              <b>{{ held.name || held.number }}</b>
              <span class="soft"
                >{{ held.basket.lines[0]?.name
                }}{{ held.basket.lines.length > 1 ? ` and ${held.basket.lines.length - 1} more` : '' }}</span
              >
              <span class="soft"
                >{{ till.time(held.heldAt, 'full') }} · {{ held.heldBy }}, till {{ held.heldOn }}</span
              >
              <span v-if="held.forTill" class="why">for till {{ held.forTill }}</span>
            </span>
            <span class="num amount">{{ till.money(held.total) }}</span>
          </button>
        </li>
      </ol>
      <div v-else class="empty">
        <b>Nothing on hold</b>
        <p>
          Put a basket on hold at the Counter with F8 and serve the next person; it waits here for any till.
        </p>
      </div>
    </section>
    <section class="zone" aria-label="Held basket">
      <template v-if="chosen">
        <header class="head">
          <h2 class="title">
            {{ chosen.name || 'Held basket' }} <span class="num soft">{{ chosen.number }}</span>
          </h2>
          <span class="num title">{{ till.money(chosen.total) }}</span>
        </header>
        <div class="scroll preview">
          <p v-if="chosen.basket.customer">
            <b>{{ chosen.basket.customer.name }}</b>
          </p>
          <p v-if="chosen.note" class="note">{{ chosen.note }}</p>
          <p v-if="chosen.basket.note" class="note">{{ chosen.basket.note }}</p>
          <table>
            <tbody>
              <tr v-for="line in chosen.basket.lines" :key="line.id">
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
                <td>
                  {{ tax.name }} {{ formatRate(tax.rate) }} {{ priced.taxMode === 'inside' ? 'in it' : '' }}
                </td>
                <td class="num right">{{ till.money(tax.tax) }}</td>
              </tr>
              <tr>
                <td></td>
                <td><b>Total</b></td>
                <td class="num right">
                  <b>{{ till.money(priced.total) }}</b>
                </td>
              </tr>
              <tr v-if="priced.total !== chosen.total">
                <td></td>
                <td colspan="2" class="soft">
                  It was {{ till.money(chosen.total) }} when it was held: prices, offers or taxes are not the
                  same any more.
                </td>
              </tr>
            </tfoot>
          </table>
        </div>
        <footer class="foot">
          <p v-if="full" class="soft">
            This till is ringing up something else: put it on hold first (F8 at the Counter), or finish it.
          </p>
          <v-btn class="go" height="56" :disabled="full" :loading="waiting.busy" @click="takeUp"
            >Take up on this till <KeyHint of="waiting.takeUp"
          /></v-btn>
        </footer>
      </template>
      <p v-else-if="waiting.held.length > 0" class="empty">Choose a basket to see what is in it.</p>
    </section>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  flex: 1;
}
.row {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  width: 100%;
  padding: 11px 18px;
  border-bottom: var(--hair);
}
.row.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.what {
  min-width: 0;
  display: grid;
  justify-items: start;
}
.what b {
  font-size: 17px;
}
.what > span {
  font-size: 14px;
}
.amount {
  font-size: 18px;
  font-weight: 600;
}
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
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 9px 12px 9px 0;
  border-bottom: var(--hair);
  font-size: 17px;
}
td.right {
  padding-right: 0;
  text-align: right;
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
