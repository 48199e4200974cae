<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { plainMoney, parseMoney, type Money } from '../../core/money.ts';
import { worthOf, type TenderType } from '../../core/payment/tenderType.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import { usePaymentStore } from './paymentStore.ts';

const { type } = defineProps<{ type: TenderType }>();

const payment = usePaymentStore();
const till = useTillStore();
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
const typed = ref('');
const reference = ref('');
const wrong = ref<{ amount?: string; reference?: string }>({});

const digits = computed(() => type.foreign?.digits ?? till.digits);
const amount = computed(() => parseMoney(typed.value, digits.value));
const worth = computed(() => {
  if (amount.value === null) return null;
  return type.foreign ? worthOf(amount.value, type.foreign, till.digits) : amount.value;
});

watch(
  () => payment.share,
  (share: Money) => {
    typed.value = type.foreign ? '' : plainMoney(share, till.digits);
  },
  { immediate: true },
);
onMounted(() => {
  field.value?.focus();
  field.value?.select();
});

async function accept(): Promise<void> {
  wrong.value = {};
  if (amount.value === null || amount.value <= 0) wrong.value.amount = 'Type an amount above zero.';
  if (type.reference && !reference.value.trim()) wrong.value.reference = `${type.reference} is missing.`;
  if (Object.keys(wrong.value).length > 0 || amount.value === null) return;
  try {
    await payment.take(type, amount.value, { reference: reference.value.trim() });
  } catch (error) {
    const of = (name: string) => (error instanceof ApiProblem ? error.field(name) : undefined);
    wrong.value = { amount: of('amount') ?? (of('reference') ? '' : problemWords(error)) };
    const about = of('reference');
    if (about) wrong.value.reference = about;
  }
}
defineExpose({ accept });
</script>

<template>
  <form class="fields" @submit.prevent="accept">
    <BigField
      ref="field"
      v-model="typed"
      :label="type.foreign ? `Handed over, ${type.foreign.currency}` : 'Amount'"
      kind="figure"
      :wrong="wrong.amount"
    />
    <p v-if="type.foreign && worth !== null" class="worth">
      <span>Worth</span> <b class="num">{{ till.money(worth) }}</b>
      <template v-if="worth > payment.left">
        <span>Change</span> <b class="num">{{ till.money(worth - payment.left) }}</b>
      </template>
    </p>
    <BigField
      v-if="type.reference || !type.foreign"
      v-model="reference"
      :label="type.reference || 'Reference (optional)'"
      maxlength="60"
      :wrong="wrong.reference"
    />
    <button type="submit" class="hidden-text" tabindex="-1">Take</button>
  </form>
</template>

<style scoped>
.worth {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 17px;
}
</style>
