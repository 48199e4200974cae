<script setup lang="ts">
import { computed } from 'vue';
import { useKeys } from '../keys/useKeys.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import OwedBand from './OwedBand.vue';
import TakenList from './TakenList.vue';
import TerminalWait from './TerminalWait.vue';
import { usePaymentStore } from './paymentStore.ts';
import { useRefundStore, type RefundWay } from './refundStore.ts';
import StepButton from '../look/StepButton.vue';
import RowButton from '../look/RowButton.vue';

const basket = useBasketStore();
const payment = usePaymentStore();
const refund = useRefundStore();
const till = useTillStore();
const countersigns = useCountersignStore();
void payment.load().catch(() => {});
void refund.load();

const left = computed(() => refund.plan?.amount ?? 0 - basket.total);
const ways = computed<{ way: RefundWay; words: string; why: string }[]>(() => [
  { way: 'planned', words: 'The way it was paid', why: '' },
  {
    way: 'cash',
    words: 'All in cash',
    why: (refund.plan?.creditOnly ?? 0) > 0 ? 'Not for goods without a receipt' : '',
  },
  {
    way: 'store-credit',
    words: 'All as store credit',
    why: basket.basket.customer ? '' : 'Needs a customer: Esc, F4',
  },
  ...(refund.plan?.account
    ? [{ way: 'account' as const, words: `Onto the account of ${refund.plan.account}`, why: '' }]
    : []),
]);

useKeys(
  'refunding',
  {
    give: () => refund.give(),
    choose: ({ target }, nth) => {
      const chosen = ways.value[nth];
      if (!chosen || chosen.why || (target instanceof HTMLInputElement && target.value)) return false;
      refund.way = chosen.way;
    },
  },
  { when: () => !payment.open && !countersigns.asking },
);
</script>

<template>
  <OwedBand words="To give back" :amount="till.money(left)" />
  <TakenList />
  <TerminalWait v-if="payment.open" :tender="payment.open" />
  <template v-else>
    <div class="ways scroll" role="group" aria-label="How the money goes back">
      <RowButton
        v-for="({ way, words, why }, at) in ways"
        :key="way"
        picks
        :on="way === refund.way"
        :disabled="why !== ''"
        @click="refund.way = way"
      >
        <kbd>{{ at + 1 }}</kbd><b class="what">{{ words }}</b
        ><span class="soft">{{ why }}</span>
      </RowButton>
      <ul aria-label="Parts">
        <li v-for="(part, at) in refund.parts" :key="at">
          <span>{{ part.name }}</span><b class="num">{{ till.money(part.amount) }}</b>
        </li>
      </ul>
      <p v-if="(refund.plan?.creditOnly ?? 0) > 0" class="soft hint">
        {{ till.money(refund.plan?.creditOnly ?? 0) }} comes back without a receipt and becomes store credit.
      </p>
    </div>
    <StepButton of="refunding.give" :disabled="refund.busy" @click="refund.give()">{{
      refund.busy ? 'Giving back …' : 'Give it back'
    }}</StepButton>
  </template>
  <StepButton
    of="counter.back"
    beside
    :disabled="refund.busy || payment.open !== null"
    @click="basket.backToBasket()"
    >Back to basket</StepButton
  >
</template>

<style scoped>
.ways {
  flex: 1;
  background: var(--surface);
  align-content: start;
}
.ways .soft {
  font-size: 13px;
}
ul {
  padding: 10px 18px;
}
li {
  display: flex;
  justify-content: space-between;
  padding: 8px 0;
  border-bottom: var(--hair);
  font-size: 17px;
}
.hint {
  padding: 0 18px;
}
</style>
