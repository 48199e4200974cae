<script setup lang="ts">
import { nextTick, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { FoundCustomer } from '../../contract/people.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import CustomerFacts from './CustomerFacts.vue';
import type { AccountFacts } from '../../core/people/account.ts';
import FindCustomer from './FindCustomer.vue';
import NewCustomerForm from './NewCustomerForm.vue';
import MoneyIn from './MoneyIn.vue';
import { useCustomerStore } from './customerStore.ts';

const customers = useCustomerStore();
const work = useBasketWorkStore();
const panel = useTemplateRef('panel');
const account = shallowRef<AccountFacts | null>(null);
const mode = ref<'facts' | 'search' | 'new' | 'money'>(customers.id === null ? 'search' : 'facts');
const typed = ref('');

async function focusField(): Promise<void> {
  await nextTick();
  const inputs = [...(panel.value?.querySelectorAll('input') ?? [])];
  (inputs.find(({ value }) => value === '') ?? inputs[0])?.focus();
}
onMounted(focusField);
watch(mode, focusField);
// A card that is scanned meanwhile, or the basket is cleared. Of somebody new there is nothing to see yet.
watch(
  () => customers.id,
  (id) => {
    if (mode.value === (id === null ? 'facts' : 'new')) work.leave();
    else if (id !== null) mode.value = 'facts';
  },
);
const leaveMoney = (): void => {
  if (customers.id === null) work.leave();
  else mode.value = 'facts';
};

async function choose(customer: FoundCustomer): Promise<void> {
  await customers.choose(customer);
  mode.value = 'facts';
}
function takeMoney(wanted: AccountFacts): void {
  account.value = wanted;
  mode.value = 'money';
}
useKeys('form', { leave: () => work.leave() }, { within: panel });
</script>

<template>
  <section ref="panel" class="panel" :class="{ whole: mode === 'facts' }" aria-labelledby="customer-title">
    <CustomerFacts v-if="mode === 'facts'" @other="mode = 'search'" @money="takeMoney" />
    <MoneyIn v-else-if="mode === 'money' && account" :account @done="work.leave()" @leave="leaveMoney" />
    <template v-else-if="mode === 'search'">
      <h2 id="customer-title" class="title">Customer</h2>
      <FindCustomer
        id="customer"
        v-model="typed"
        label="Name, phone, mail, or scan the card"
        @choose="choose"
        @nobody="mode = 'new'"
      >
        <template #nobody>
          <p class="soft">No customer found. <kbd>Enter</kbd> makes a new customer.</p>
        </template>
      </FindCustomer>
      <div class="acts">
        <v-btn @click="work.leave()">Cancel <KeyHint of="form.leave" /></v-btn>
        <v-btn class="go" @click="mode = 'new'">New customer</v-btn>
      </div>
    </template>
    <NewCustomerForm
      v-else
      :typed="typed"
      :make="customers.create"
      back="Back to search"
      @back="mode = 'search'"
      @use="(customer) => customers.choose(customer)"
    />
  </section>
</template>

<style scoped>
/* What can be done with a customer stands at the lower end of the column, also before they are known. */
.whole {
  flex: 1 0 auto;
}
</style>
