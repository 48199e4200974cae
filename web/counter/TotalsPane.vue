<script setup lang="ts">
import { computed } from 'vue';
import { sum } from '../../core/money.ts';
import { sizeWords } from '../../core/pricing/discount.ts';
import { formatRate } from '../../core/rate.ts';
import CustomerOnSale from '../people/CustomerOnSale.vue';
import { useDrawerStore } from '../drawer/drawerStore.ts';
import NudgeList from './NudgeList.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import KeyHint from '../keys/KeyHint.vue';
import WordButton from '../look/WordButton.vue';
import StepButton from '../look/StepButton.vue';

const { closed } = defineProps<{ closed: boolean }>();
defineEmits<{ next: [] }>();

const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const drawer = useDrawerStore();
/** What is in the drawer, where it is more than should be and nobody waits. */
const dropWanted = computed(() => {
  const above = till.facts?.shop.dropAbove ?? 0;
  const expected = drawer.state?.shift ? (drawer.state.expected ?? 0) : 0;
  return above > 0 && expected > above && basket.lines.length === 0 ? expected : 0;
});
/** Discounts on the whole basket, each as one. */
const onBasket = computed(() =>
  (basket.basket.discounts ?? [])
    .filter(({ lineIds }) => lineIds === null)
    .map(({ id, reason, size }) => ({
      id,
      words: `${reason}, ${sizeWords(size, till.digits)} on the basket`,
      amount: sum(
        (basket.priced?.lines ?? [])
          .flatMap(({ records }) => records)
          .map((record) => (record.discountId === id ? record.amount : 0)),
      ),
    })),
);
const evenSwap = computed(() => basket.total === 0 && basket.lines.some(({ quantity }) => quantity < 0));
const allPaid = computed(
  () => basket.total === 0 && basket.lines.some(({ promised }) => promised?.part === 'used'),
);
const nextWords = computed(() => {
  if (closed) return 'Open the drawer';
  if (basket.total < 0) return 'Give the money back';
  if (allPaid.value) return 'Hand over';
  return evenSwap.value ? 'Swap evenly' : 'Take payment';
});
</script>

<template>
  <CustomerOnSale />
  <div v-if="basket.practised" class="say">
    <b>Practice: {{ basket.practised.name }}</b>
    <span>The offer is tried here with a basket of its own. Nothing is kept, nothing is paid.</span>
    <WordButton @click="basket.endPractice()">Leave practice</WordButton>
  </div>
  <div v-if="closed" class="say">
    <b>The drawer is closed</b>
    <span>Count the float to open it. What you ring up meanwhile stays here.</span>
  </div>
  <div v-else-if="dropWanted" class="say">
    <b>{{ till.money(dropWanted) }} is in the drawer</b>
    <span>Take some of it to the safe before the next customer.</span>
    <WordButton @click="work.beginCash('drop')">Safe drop</WordButton>
  </div>
  <div v-if="basket.changeDue > 0" class="say">
    <b
      >Change of the sale before: <span class="num">{{ till.money(basket.changeDue) }}</span></b
    >
    <WordButton @click="basket.changeGiven()"
      >It is given <KeyHint v-if="basket.picked.size === 0" of="counter.back"
    /></WordButton>
  </div>
  <NudgeList />
  <div class="space" />
  <dl v-if="basket.priced && basket.lines.length > 0" class="sums">
    <dt>Items</dt>
    <dd class="num">{{ till.money(basket.priced.regular) }}</dd>
    <template v-if="basket.priced.reductions !== 0">
      <dt>{{ basket.priced.reductions < 0 ? 'Offers and discounts' : 'Price changes' }}</dt>
      <dd class="num">{{ till.money(basket.priced.reductions) }}</dd>
    </template>
    <template v-for="one in onBasket" :key="one.id">
      <dt class="of-it">of which {{ one.words }}</dt>
      <dd class="num of-it">{{ till.money(one.amount) }}</dd>
    </template>
    <template v-if="basket.basket.exemption">
      <dt>Without tax: {{ basket.basket.exemption.reason }}</dt>
      <dd class="num">{{ till.money(0) }}</dd>
    </template>
    <template v-for="tax in basket.priced.taxes" :key="tax.rateId">
      <dt>
        {{ tax.name }} {{ formatRate(tax.rate) }} {{ basket.priced.taxMode === 'inside' ? 'in it' : '' }} on
        {{ till.money(tax.base) }}
      </dt>
      <dd class="num">{{ till.money(tax.tax) }}</dd>
    </template>
  </dl>
  <p v-if="(basket.priced?.notProved ?? 0) > 0" class="unproved">
    So many offers meet here that up to {{ till.money(basket.priced?.notProved ?? 0) }} more might be
    possible.
  </p>
  <div class="due">
    <span>{{ basket.total < 0 ? 'To give back' : 'To pay' }}</span>
    <span class="num big" data-test="to-pay">{{ till.money(Math.abs(basket.total)) }}</span>
  </div>
  <StepButton
    of="counter.next"
    :disabled="!closed && basket.lines.length === 0 && !basket.moneyHeld"
    @click="$emit('next')"
    >{{ nextWords }}</StepButton
  >
  <div class="foot-steps">
    <StepButton of="counter.hold" beside :disabled="basket.lines.length === 0" @click="work.begin('hold')"
      >Hold</StepButton
    >
    <StepButton
      of="counter.layaway"
      beside
      :disabled="basket.lines.length === 0"
      @click="work.begin('layaway')"
      >Layaway</StepButton
    >
    <StepButton of="counter.order" beside :disabled="basket.lines.length === 0" @click="work.begin('order')"
      >Order</StepButton
    >
  </div>
</template>

<style scoped>
.unproved {
  padding: 4px 18px;
  font-size: 14px;
}
.say {
  background: var(--yellow);
  color: var(--on-yellow);
  border-bottom: var(--rule);
  padding: 14px 18px;
  display: grid;
  gap: 3px;
}
.say b {
  font-size: 19px;
}
.space {
  flex: 1;
}
.sums {
  display: grid;
  grid-template-columns: 1fr auto;
  row-gap: 5px;
  padding: 12px 18px 0;
  font-size: 16px;
}
.of-it {
  font-size: 14px;
}
.sums dd {
  text-align: right;
}
.foot-steps {
  display: grid;
  grid-template-columns: 1fr 1.2fr 1fr;
}
.foot-steps > * {
  padding: 0 14px;
}
.foot-steps > :not(:first-child) {
  border-left: var(--hair);
}
.due {
  display: flex;
  justify-content: space-between;
  align-items: flex-end;
  border-top: var(--group);
  margin: 8px 18px 10px;
  padding-top: 8px;
  font-weight: 700;
  font-size: 17px;
}
.big {
  font-size: 52px;
  line-height: 1;
  font-weight: 600;
  letter-spacing: -0.02em;
}
@media (max-width: 1100px) {
  .big {
    font-size: 42px;
  }
}
</style>
