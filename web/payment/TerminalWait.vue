<script setup lang="ts">
import { computed } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { TenderView } from '../../contract/payment.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { usePaymentStore } from './paymentStore.ts';
import WaitButton from '../look/WaitButton.vue';

const { tender } = defineProps<{ tender: TenderView }>();

const payment = usePaymentStore();
const till = useTillStore();

const terminal = computed(
  () => till.facts?.payment.terminals.find(({ id }) => id === tender.terminalId)?.name ?? 'Card terminal',
);
const silent = computed(() => tender.state === 'unanswered');

useKeys(
  'terminal',
  { callOff: () => payment.does(tender, 'cancel') },
  { when: () => tender.state === 'asked' },
);
</script>

<template>
  <div class="wait" :class="{ silent }" role="status">
    <b class="name">{{ terminal }}</b>
    <span class="num amount">{{ till.money(tender.amount) }}</span>
    <p v-if="tender.state === 'undoing'" class="words">The money is being sent back to the card …</p>
    <template v-else-if="silent">
      <p class="words">{{ tender.words }}</p>
      <p>
        It is not known yet whether the card was charged. Ask the terminal again. If you go on without it and
        the card was charged after all, the money goes back by itself.
      </p>
    </template>
    <p v-else class="words">
      {{ tender.words }}
    </p>
    <div class="acts">
      <template v-if="silent">
        <WaitButton class="go" :loading="payment.busy" @click="payment.does(tender, 'check')"
          >Ask again</WaitButton
        >
        <v-btn class="stop" @click="payment.does(tender, 'abandon')">Go on without the answer</v-btn>
      </template>
      <WaitButton
        v-else-if="tender.state === 'asked'"
        :loading="payment.busy"
        @click="payment.does(tender, 'cancel')"
      >
        Call it off <KeyHint of="terminal.callOff" />
      </WaitButton>
    </div>
  </div>
</template>

<style scoped>
.wait {
  flex: 1;
  background: var(--blue-wash);
  border-left: 6px solid var(--blue);
  padding: 22px 18px;
  display: grid;
  align-content: start;
  gap: 12px;
}
.wait.silent {
  background: var(--yellow-wash);
  border-left-color: var(--yellow);
}
.name {
  font-size: 17px;
}
.amount {
  font-size: 40px;
  font-weight: 600;
  line-height: 1;
}
.words {
  font-size: 19px;
  font-weight: 650;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
