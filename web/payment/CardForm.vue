<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import type { CardOnFile } from '../../contract/payment.ts';
import { plainMoney, parseMoney } from '../../core/money.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCardPaymentsStore } from '../cardPayments/cardPaymentsStore.ts';
import BigField from '../look/BigField.vue';
import CheckField from '../look/CheckField.vue';
import { usePaymentStore } from './paymentStore.ts';
import ChipChoice from '../look/ChipChoice.vue';
import ChipButton from '../look/ChipButton.vue';
import { useAnswer } from '../notices/answer.ts';

const { type } = defineProps<{ type: TenderType }>();

const basket = useBasketStore();
const payment = usePaymentStore();
const cards = useCardPaymentsStore();
const till = useTillStore();
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
const typed = ref('');
const wrong = ref('');
const notPresent = ref(false);
const cardOnFileId = ref<number | null>(null);

const terminals = computed(() => till.facts?.payment.terminals ?? []);
const terminalId = ref<number | null>(terminals.value[0]?.id ?? null);
/** Cards that the customer of the sale has left on file. */
const dropped = ref(0);
const onFile = useAnswer<CardOnFile[]>(async () => {
  const { customer } = basket.basket;
  // Read again after one was dropped.
  void dropped.value;
  return customer ? cards.onFile(customer.id) : [];
}, []);

watch(
  () => payment.share,
  (share) => {
    typed.value = plainMoney(share, till.digits);
  },
  { immediate: true },
);
onMounted(() => {
  field.value?.focus();
  field.value?.select();
});

async function forget(id: number): Promise<void> {
  try {
    await cards.forget(id);
    cardOnFileId.value = null;
    dropped.value += 1;
  } catch (error) {
    wrong.value = problemWords(error);
  }
}

async function accept(): Promise<void> {
  wrong.value = '';
  const amount = parseMoney(typed.value, till.digits);
  if (amount === null || amount <= 0) {
    wrong.value = 'Type an amount above zero.';
    return;
  }
  try {
    await payment.take(type, amount, {
      terminalId: terminalId.value,
      notPresent: notPresent.value,
      cardOnFileId: cardOnFileId.value,
    });
  } catch (error) {
    wrong.value = problemWords(error);
  }
}
defineExpose({ accept });
</script>

<template>
  <form class="fields" @submit.prevent="accept">
    <BigField ref="field" v-model="typed" label="Amount" kind="figure" />
    <ChipChoice
      v-if="terminals.length > 1"
      v-model="terminalId"
      label="Terminal"
      :options="terminals.map(({ id, name }) => ({ value: id, words: name }))"
    />
    <div v-if="onFile.length > 0" class="chips" role="group" aria-label="Card on file">
      <ChipButton
        v-for="card in onFile"
        :key="card.id"
        :on="card.id === cardOnFileId"
        @click="cardOnFileId = card.id === cardOnFileId ? null : card.id"
      >
        On file: {{ card.brand }} <span class="num">·· {{ card.lastFour }}</span>
      </ChipButton>
      <ChipButton v-if="cardOnFileId !== null" class="stop" @click="forget(cardOnFileId)">
        Forget this card
      </ChipButton>
    </div>
    <CheckField
      v-if="cardOnFileId === null"
      v-model="notPresent"
      label="The customer is not here: keyed on the terminal"
    />
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <button type="submit" class="hidden-text" tabindex="-1">Ask the terminal</button>
  </form>
</template>
