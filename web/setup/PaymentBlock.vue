<script setup lang="ts">
import { onMounted, onUnmounted, ref } from 'vue';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { formatFactor } from '../../core/rate.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { useAttempt } from '../notices/attempt.ts';
import PaymentSettingsForm from './PaymentSettingsForm.vue';
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import TenderTypeForm from './TenderTypeForm.vue';

const setup = usePaymentSetupStore();
const till = useTillStore();
const { attempt } = useAttempt();
/** The means of payment that is being changed; 0 is a new one. */
const editing = ref<number | null>(null);

onMounted(() => setup.load().catch(() => {}));
onUnmounted(lookAgain(['shop-changed'], setup.load));

function wordsOf({ kind, reference, counted, opensDrawer, foreign }: TenderType): string {
  return [
    tenderKind(kind).words,
    foreign && `1 ${foreign.currency} = ${formatFactor(foreign.rate)} ${till.facts?.currency.code ?? ''}`,
    reference && `asks for: ${reference}`,
    counted ? 'counted at close' : 'not counted',
    opensDrawer ? 'opens the drawer' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
</script>

<template>
  <section v-if="setup.facts" class="block" aria-labelledby="payment-title">
    <h2 id="payment-title" class="title">Means of payment</h2>
    <ol class="types">
      <li v-for="(one, at) in setup.facts.types" :key="one.id" :class="{ off: !one.active }">
        <kbd>{{ at + 1 }}</kbd>
        <span class="what"
          ><b>{{ one.name }}{{ one.active ? '' : ', switched off' }}</b
          ><span class="soft">{{ wordsOf(one) }}</span></span
        >
        <v-btn
          :disabled="at === 0"
          :aria-label="`${one.name} one up`"
          @click="attempt(setup.move(one.id, -1), '')"
          >↑</v-btn
        >
        <v-btn
          :disabled="at === setup.facts.types.length - 1"
          :aria-label="`${one.name} one down`"
          @click="attempt(setup.move(one.id, 1), '')"
          >↓</v-btn
        >
        <v-btn @click="editing = one.id">Change</v-btn>
      </li>
    </ol>
    <div v-if="editing === null" class="acts"><v-btn @click="editing = 0">Add a means of payment</v-btn></div>
    <TenderTypeForm
      v-else
      :key="editing"
      :shown="setup.facts.types.find(({ id }) => id === editing) ?? null"
      @done="editing = null"
    />
    <PaymentSettingsForm />
  </section>
</template>

<style scoped>
.types li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-bottom: var(--hair);
}
.what {
  flex: 1;
  display: grid;
}
.off b {
  color: var(--soft);
}
</style>
