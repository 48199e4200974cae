<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { plainMoney, parseMoney } from '../../core/money.ts';
import { mostOf, STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { lookedUp } from '../net/lookedUp.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import { usePaymentStore } from './paymentStore.ts';

const { type } = defineProps<{ type: TenderType }>();

const payment = usePaymentStore();
const till = useTillStore();
const numberField = useTemplateRef<InstanceType<typeof BigField>>('numberField');
const amountField = useTemplateRef<InstanceType<typeof BigField>>('amountField');
const number = ref('');
const typed = ref('');
const wrong = ref('');
const { found, look: lookUp, forget } = lookedUp(payment.enquire);

const amount = computed(() => parseMoney(typed.value, till.digits));

/** What was found of another number says nothing of this one. */
function typedAnew(): void {
  wrong.value = '';
  forget();
}

/** The balance is looked up the moment the number is known, and the most that can be taken is filled in. */
async function look(): Promise<void> {
  typedAnew();
  if (!number.value.trim()) return;
  try {
    const value = await lookUp(number.value);
    if (!value) return;
    wrong.value = value.problem ?? '';
    typed.value = plainMoney(mostOf(value, payment.share), till.digits);
    await nextTick();
    if (!value.problem) amountField.value?.select();
  } catch (error) {
    wrong.value = problemWords(error);
  }
}

async function takeScanned(): Promise<void> {
  if (!payment.scanned) return;
  number.value = payment.scanned;
  payment.scanned = '';
  await look();
}
onMounted(() => {
  numberField.value?.focus();
  void takeScanned();
});
watch(() => payment.scanned, takeScanned);

async function accept(): Promise<void> {
  if (!found.value) {
    await look();
    return;
  }
  if (found.value.problem) return;
  if (amount.value === null || amount.value <= 0) {
    wrong.value = 'Type an amount above zero.';
    return;
  }
  try {
    if (await payment.take(type, amount.value, { number: found.value.number })) {
      number.value = '';
      typed.value = '';
      forget();
    }
  } catch (error) {
    wrong.value =
      error instanceof ApiProblem
        ? (error.field('number') ?? error.field('amount') ?? error.words)
        : problemWords(error);
  }
}
defineExpose({ accept });
</script>

<template>
  <form class="fields" @submit.prevent="accept">
    <BigField
      ref="numberField"
      v-model="number"
      label="Scan or type the number"
      kind="code"
      name="value-number"
      @change="look"
      @input="typedAnew"
    />
    <template v-if="found">
      <p class="found">
        <span>{{ STORED_VALUE_NAMES[found.kind] }}{{ found.customer ? ` of ${found.customer}` : '' }}</span>
        <b class="num" data-test="balance">{{ till.money(found.balance - found.held) }}</b>
      </p>
      <BigField v-if="!found.problem" ref="amountField" v-model="typed" label="Take" kind="figure" />
      <p v-if="found.singleUse && !found.problem" class="soft">
        It can be used once: what is left of it lapses.
      </p>
    </template>
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <button type="submit" class="hidden-text" tabindex="-1">Take</button>
  </form>
</template>

<style scoped>
.found {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  font-size: 17px;
}
.found b {
  font-size: 22px;
}
</style>
