<script setup lang="ts">
import { reactive } from 'vue';
import { parseMoney } from '../../core/money.ts';
import CheckField from '../look/CheckField.vue';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useGiftCardsStore } from './giftCardsStore.ts';

/** A certificate that was given out on paper before: one after the other. */
const emit = defineEmits<{ leave: [] }>();

const values = useGiftCardsStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const BLANK = { number: '', amount: '', expiresOn: '', singleUse: false };
const certificate = reactive({ ...BLANK });

async function add(): Promise<void> {
  const amount = parseMoney(certificate.amount, till.digits);
  if (amount === null) {
    wrong.value = { amount: `Type an amount, for example ${till.example(25)}.` };
    return;
  }
  const added = await attempt(
    values.addCertificate({ ...certificate, amount }),
    'The certificate can be used.',
  );
  if (added) Object.assign(certificate, BLANK);
}
</script>

<template>
  <FormPanel
    title="Certificate of an earlier year"
    done="Add it"
    leave="Close"
    remembers="certificate"
    :fields="certificate"
    @accept="add"
    @leave="emit('leave')"
  >
    <v-text-field
      v-model="certificate.number"
      label="Number on the paper"
      maxlength="40"
      :error-messages="wrong.number"
    />
    <v-text-field
      v-model="certificate.amount"
      label="Worth"
      inputmode="decimal"
      :error-messages="wrong.amount"
    />
    <DateField v-model="certificate.expiresOn" label="Last day, if any" :wrong="wrong.expiresOn" />
    <CheckField v-model="certificate.singleUse" label="Can be used once: what is left lapses" />
  </FormPanel>
</template>
