<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { parseMoney, plainMoney } from '../../core/money.ts';
import {
  chargeProblem,
  freeOn,
  limitWords,
  mostCharge,
  overLimit,
  overLimitStep,
} from '../../core/people/account.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { formWords } from '../net/problem.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import BigField from '../look/BigField.vue';
import { useChosenOf } from '../look/chosenOf.ts';
import { usePaymentStore } from './paymentStore.ts';

/** What goes on a house account: how much may, how much is to, and what the account asks for. */
const { type } = defineProps<{ type: TenderType }>();

const payment = usePaymentStore();
const basket = useBasketStore();
const customers = useCustomerStore();
const countersigns = useCountersignStore();
const till = useTillStore();
const form = useTemplateRef<HTMLElement>('form');
const amountField = useTemplateRef<InstanceType<typeof BigField>>('amountField');
const typed = ref('');
const reference = ref('');
const wrong = ref('');

const accounts = computed(() => customers.panel?.accounts ?? []);
const { chosenId, chosen: account } = useChosenOf(() => accounts.value);
const choices = computed(() => accounts.value.map(({ id, name }) => ({ value: id, title: name })));
const amount = computed(() => parseMoney(typed.value, till.digits));
/** What the basket has on this account already. */
const before = computed(() =>
  payment.held
    .filter(({ accountId }) => accountId === account.value?.id)
    .reduce((all, one) => all + one.amount, 0),
);
const over = computed(() =>
  account.value && amount.value !== null
    ? overLimit(account.value, { amount: amount.value, before: before.value })
    : 0,
);
const blocked = computed(
  () => account.value && chargeProblem({ ...account.value, asksFor: '' }, { reference: '' }),
);

/** The most that may go on it. */
const most = computed(() => (account.value ? mostCharge(account.value, payment.share) : null));
let filledIn = '';
// It is filled in, and again for another account or share: a part that was taken meanwhile counts. What was typed stays
// where the same account is only looked at again.
watch(
  [most, () => account.value?.id, () => payment.share],
  ([now, id, share], [, wasId, wasShare]) => {
    if (id === wasId && share === wasShare && typed.value !== filledIn) return;
    filledIn = now === null ? '' : plainMoney(now, till.digits);
    typed.value = filledIn;
  },
  { immediate: true },
);
// What it says comes into sight with it.
const inSight = () => form.value?.scrollIntoView({ block: 'nearest' });
watch([over, wrong, account], inSight, { flush: 'post' });
onMounted(async () => {
  amountField.value?.focus();
  amountField.value?.select();
  // Another till may have charged it since the customer was chosen.
  await customers.readAgain();
  if (amountField.value?.hasFocus() && typed.value === filledIn) amountField.value?.select();
  inSight();
});

async function accept(): Promise<void> {
  const now = account.value;
  wrong.value = '';
  if (!now) return;
  if (amount.value === null || amount.value <= 0) {
    wrong.value = 'Type an amount above zero.';
    return;
  }
  const problem = chargeProblem(now, { reference: reference.value.trim() });
  if (problem) {
    wrong.value = problem.words;
    return;
  }
  let countersign: string | undefined;
  if (over.value > 0) {
    const words = `${till.money(over.value)} over the limit of ${now.name}`;
    const approval = await countersigns.need('account.over-limit', basket.basket.id, words, [
      overLimitStep(now.id, over.value),
    ]);
    if (!approval) return;
    countersign = approval.id;
  }
  try {
    await payment.take(type, amount.value, {
      accountId: now.id,
      reference: reference.value.trim(),
      ...(countersign !== undefined && { countersign }),
    });
  } catch (error) {
    wrong.value = formWords(error);
    await customers.readAgain();
  }
}
defineExpose({ accept });
</script>

<template>
  <form ref="form" class="fields" @submit.prevent="accept">
    <p v-if="!account" class="bad" role="alert">They have no house account.</p>
    <template v-else>
      <v-select v-if="choices.length > 1" v-model="chosenId" label="Whose account" :items="choices" />
      <p v-else class="whose">
        <b>{{ account.name }}</b>
      </p>
      <dl class="figures">
        <dt>Limit</dt>
        <dd class="num">{{ till.money(account.limit) }}</dd>
        <dt>{{ account.owed < 0 ? 'In their favour' : 'Owed' }}</dt>
        <dd class="num">{{ till.money(Math.abs(account.owed)) }}</dd>
        <dt>May still go on it</dt>
        <dd class="num free" data-test="free">{{ till.money(freeOn(account)) }}</dd>
      </dl>
      <p v-if="account.overdue > 0" class="bad">{{ till.money(account.overdue) }} of it is overdue.</p>
      <p v-if="blocked" class="bad" role="alert">{{ blocked.words }}</p>
      <template v-else>
        <BigField
          ref="amountField"
          v-model="typed"
          label="Amount"
          kind="figure"
          :aria-invalid="Boolean(wrong)"
        />
        <p v-if="over > 0" class="noted" role="status">{{ limitWords(account, over, till.digits) }}</p>
        <BigField v-if="account.asksFor" v-model="reference" :label="account.asksFor" maxlength="60" />
      </template>
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    </template>
    <button type="submit" class="hidden-text" tabindex="-1">Take</button>
  </form>
</template>

<style scoped>
.whose {
  font-size: 17px;
}
.figures {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
}
dd {
  text-align: right;
}
.free {
  font-size: 20px;
  font-weight: 600;
}
</style>
