<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import type { StoredValueView } from '../../contract/payment.ts';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { isMistyped, plainNumber, STORED_VALUE_NAMES } from '../../core/payment/storedValue.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useGiftCardSaleStore } from './giftCardSaleStore.ts';
import { usePaymentStore } from './paymentStore.ts';

const USUAL = [10, 25, 50, 100];

const work = useBasketWorkStore();
const payment = usePaymentStore();
const selling = useGiftCardSaleStore();
const till = useTillStore();
const numberField = useTemplateRef<HTMLInputElement>('numberField');
const amountField = useTemplateRef<HTMLInputElement>('amountField');
const number = ref('');
const typed = ref('');
const mail = ref('');
const wrong = ref<{ number?: string; amount?: string; mail?: string }>({});
/** The card that has the number already. */
const known = shallowRef<StoredValueView | null>(null);

const amount = computed(() => parseMoney(typed.value, till.digits));
const canTopUp = computed(() => known.value?.kind === 'gift-card' && known.value.state === 'active');

async function look(): Promise<void> {
  wrong.value = {};
  known.value = null;
  const plain = plainNumber(number.value);
  if (!plain) return;
  if (isMistyped(plain)) {
    wrong.value = { number: 'The number is not right: type it again.' };
    return;
  }
  try {
    known.value = await payment.enquire(plain);
  } catch (error) {
    // A number that nobody knows is one that can be sold.
    if (!(error instanceof ApiProblem)) wrong.value = { number: problemWords(error) };
  }
}

async function takeScanned(): Promise<void> {
  if (!payment.scanned) return;
  number.value = payment.scanned;
  payment.scanned = '';
  await look();
  amountField.value?.focus();
}
onMounted(() => {
  numberField.value?.focus();
  void takeScanned();
});
watch(() => payment.scanned, takeScanned);

async function makeNumber(): Promise<void> {
  try {
    number.value = await selling.freshNumber();
    known.value = null;
    wrong.value = {};
    amountField.value?.focus();
  } catch (error) {
    wrong.value = { number: problemWords(error) };
  }
}

async function accept(): Promise<void> {
  await look();
  const next: typeof wrong.value = { ...wrong.value };
  if (!number.value.trim()) next.number = 'Scan a card, or let the till make up a number.';
  else if (plainNumber(number.value).length < 4) next.number = 'A number has at least 4 characters.';
  if (amount.value === null || amount.value <= 0) next.amount = 'Type what is put on the card.';
  if (known.value && !canTopUp.value) next.number = known.value.problem ?? 'Nothing can be put on this one.';
  if (mail.value && !/^\S+@\S+\.\S+$/.test(mail.value)) next.mail = 'This is no mail address.';
  wrong.value = next;
  if (Object.keys(next).length > 0 || amount.value === null) return;
  const failed = await selling.add({
    number: plainNumber(number.value),
    amount: amount.value,
    topUp: canTopUp.value,
    mail: mail.value.trim(),
  });
  if (failed) wrong.value = { number: failed };
  else work.leave();
}
</script>

<template>
  <form
    class="panel"
    aria-labelledby="gift-title"
    novalidate
    @submit.prevent="accept"
    @keydown.f9.prevent="accept"
    @keydown.esc.stop="work.leave()"
  >
    <h2 id="gift-title" class="title">Gift card</h2>
    <label for="gift-number">Number: scan the card</label>
    <input
      id="gift-number"
      ref="numberField"
      v-model="number"
      class="big-field num"
      maxlength="40"
      autocomplete="off"
      :aria-invalid="Boolean(wrong.number)"
      @change="look"
      @input="known = null"
    />
    <p v-if="wrong.number" class="bad" role="alert">{{ wrong.number }}</p>
    <div v-if="known" class="known" role="status">
      <span
        >{{ STORED_VALUE_NAMES[known.kind] }}{{ known.customer ? ` of ${known.customer}` : '' }} ·
        {{ known.problem ?? (known.expiresOn ? `until ${known.expiresOn}` : 'does not expire') }}</span
      >
      <b class="num" data-test="balance">{{ till.money(known.balance - known.held) }}</b>
    </div>
    <v-btn v-else @click="makeNumber">Make up a number</v-btn>
    <template v-if="!known || canTopUp">
      <label for="gift-amount">{{ known ? 'Put on it' : 'Amount' }}</label>
      <input
        id="gift-amount"
        ref="amountField"
        v-model="typed"
        class="big-field num"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="Boolean(wrong.amount)"
      />
      <p v-if="wrong.amount" class="bad" role="alert">{{ wrong.amount }}</p>
      <div class="usual">
        <button
          v-for="one in USUAL"
          :key="one"
          type="button"
          class="num"
          @click="typed = formatMoney(one * 10 ** till.digits, till.digits)"
        >
          {{ one }}
        </button>
      </div>
      <template v-if="!known">
        <label for="gift-mail">Send it by e-mail to (optional)</label>
        <input
          id="gift-mail"
          v-model="mail"
          class="big-field"
          type="email"
          autocomplete="off"
          :aria-invalid="Boolean(wrong.mail)"
        />
        <p v-if="wrong.mail" class="bad" role="alert">{{ wrong.mail }}</p>
      </template>
    </template>
    <div class="acts">
      <v-btn @click="work.leave()">Cancel <kbd>Esc</kbd></v-btn>
      <v-btn v-if="!known || canTopUp" class="go" type="submit"
        >{{ known ? 'Top up' : 'Sell it' }} <kbd>F9</kbd></v-btn
      >
    </div>
  </form>
</template>

<style scoped>
.known {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  border: var(--group);
  background: var(--surface);
  padding: 12px;
}
.known b {
  font-size: 28px;
}
.usual {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
}
.usual button {
  border: 1.5px solid var(--ink);
  margin-right: -1.5px;
  min-height: 44px;
  text-align: center;
  font-weight: 600;
  background: var(--surface);
}
</style>
