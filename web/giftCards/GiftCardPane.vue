<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { isMistyped, plainNumber, STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { problemWords } from '../net/problem.ts';
import { lookedUp } from '../net/lookedUp.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useGiftCardSaleStore } from './giftCardSaleStore.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';
import UsualWords from '../look/UsualWords.vue';

const USUAL = [10, 25, 50, 100];

const work = useBasketWorkStore();
const payment = usePaymentStore();
const selling = useGiftCardSaleStore();
const till = useTillStore();
const amountField = useTemplateRef('amountField');
const number = ref('');
const typed = ref('');
const mail = ref('');
const wrong = ref<{ number?: string; amount?: string; mail?: string }>({});
/** The card that has the number already. */
const { found: known, look: lookUp, forget } = lookedUp(selling.holderOf);

const amount = computed(() => parseMoney(typed.value, till.digits));
const canTopUp = computed(() => known.value?.kind === 'gift-card' && known.value.state === 'active');

async function look(): Promise<void> {
  wrong.value = {};
  forget();
  const plain = plainNumber(number.value);
  if (!plain) return;
  if (isMistyped(plain)) {
    wrong.value = { number: 'The number is not right: type it again.' };
    return;
  }
  try {
    await lookUp(plain);
  } catch (error) {
    wrong.value = { number: problemWords(error) };
  }
}

async function takeScanned(): Promise<void> {
  if (!payment.scanned) return;
  number.value = payment.scanned;
  payment.scanned = '';
  await look();
  amountField.value?.focus();
}
onMounted(takeScanned);
watch(() => payment.scanned, takeScanned);

async function makeNumber(): Promise<void> {
  const before = number.value;
  try {
    const fresh = await selling.freshNumber();
    // A card was scanned meanwhile.
    if (number.value !== before) return;
    number.value = fresh;
    forget();
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
  <FormPanel
    title="Gift card"
    :done="canTopUp ? 'Top up' : known ? '' : 'Sell it'"
    :focus="!payment.scanned"
    @accept="accept"
    @leave="work.leave()"
  >
    <BigField
      id="gift-number"
      v-model="number"
      label="Number: scan the card"
      kind="code"
      maxlength="40"
      :wrong="wrong.number"
      @change="look"
      @input="forget"
    />
    <div v-if="known" class="known" role="status">
      <span
        >{{ STORED_VALUE_NAMES[known.kind] }}{{ known.customer ? ` of ${known.customer}` : '' }} ·
        {{
          known.problem ??
          (known.expiresOn ? `until ${till.calendarDay(known.expiresOn)}` : 'does not expire')
        }}</span
      >
      <b class="num" data-test="balance">{{ till.money(known.balance - known.held) }}</b>
    </div>
    <v-btn v-else @click="makeNumber">Make up a number</v-btn>
    <template v-if="!known || canTopUp">
      <BigField
        id="gift-amount"
        ref="amountField"
        v-model="typed"
        :label="known ? 'Put on it' : 'Amount'"
        kind="figure"
        :wrong="wrong.amount"
      />
      <UsualWords
        v-model="typed"
        label="Usual amounts"
        :words="USUAL.map((one) => formatMoney(one * 10 ** till.digits, till.digits))"
      />
      <BigField
        v-if="!known"
        id="gift-mail"
        v-model="mail"
        label="Send it by e-mail to (optional)"
        type="email"
        :wrong="wrong.mail"
      />
    </template>
  </FormPanel>
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
</style>
