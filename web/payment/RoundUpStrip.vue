<script setup lang="ts">
import { computed } from 'vue';
import { keyHint } from '../keys/keyTable.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentStore } from './paymentStore.ts';
import WordButton from '../look/WordButton.vue';

const basket = useBasketStore();
const payment = usePaymentStore();
const till = useTillStore();

/** A card is asked on its terminal; at the till one asks for everything else. */
const asks = computed(() => payment.roundUp !== null && payment.chosen?.kind !== 'card' && payment.left > 0);
</script>

<template>
  <div v-if="basket.basket.roundUp" class="round given">
    <span
      >Rounded up by <b class="num">{{ till.money(basket.basket.roundUp.amount) }}</b><small>{{
        basket.basket.roundUp.fund
      }}</small></span
    >
    <WordButton @click="payment.takeBackRoundUp()">Take back</WordButton>
  </div>
  <div v-else-if="asks && payment.roundUp" class="round">
    <span
      ><b
        >Round up <span class="num">{{ till.money(payment.roundUp.amount) }}</span></b
      ><small>{{ payment.roundUp.fund }}</small></span
    >
    <WordButton :title="keyHint('paying.roundUp')" @click="payment.giveRoundUp(true)">Yes</WordButton>
    <WordButton @click="payment.giveRoundUp(false)">No thanks</WordButton>
  </div>
</template>

<style scoped>
.round {
  display: flex;
  align-items: center;
  gap: 14px;
  background: var(--yellow);
  color: var(--on-yellow);
  border-bottom: var(--group);
  padding: 8px 18px;
}
.round > span {
  flex: 1;
  display: grid;
}
.given {
  background: var(--yellow-wash);
  color: var(--ink);
}
small {
  font-size: 13px;
}
.word {
  font-weight: 700;
  text-decoration: underline;
  min-height: 44px;
}
</style>
