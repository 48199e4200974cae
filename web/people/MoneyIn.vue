<script setup lang="ts">
import { ref } from 'vue';
import { plainMoney, parseMoney } from '../../core/money.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { problemWords } from '../net/problem.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCustomerStore } from './customerStore.ts';
import { useAccountStore } from './accountStore.ts';

/** Money that somebody brings for a house account: it is rung up like goods, and paid by whatever there is. */
const {
  account,
  items = [],
  customer = null,
} = defineProps<{
  account: { id: number; name: string; owed: number };
  /** Charges that are paid first, and what they come to. */
  items?: readonly { id: number; remaining: number }[];
  /** Who brings it, where they are not on the sale yet. */
  customer?: { id: number; name: string } | null;
}>();
const emit = defineEmits<{ done: []; leave: [] }>();

const store = useAccountStore();
const basket = useBasketStore();
const customers = useCustomerStore();
const till = useTillStore();
const suggested =
  items.length > 0 ? items.reduce((all, { remaining }) => all + remaining, 0) : Math.max(0, account.owed);
const typed = ref(suggested > 0 ? plainMoney(suggested, till.digits) : '');
const wrong = ref('');
const busy = ref(false);

async function accept(): Promise<void> {
  const amount = parseMoney(typed.value, till.digits);
  if (amount === null || amount <= 0) {
    wrong.value = 'Type an amount above zero.';
    return;
  }
  busy.value = true;
  try {
    const alone = basket.lines.length === 0;
    if (customer && !basket.basket.customer) await customers.choose(customer);
    await store.ringUpMoney(account, amount, { items: items.map(({ id }) => id) });
    emit('done');
    // Nothing else is rung up: the next step is to take it.
    if (alone) await basket.takePayment();
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    :title="`Money on the account of ${account.name}`"
    done="Take it"
    :busy
    @accept="accept"
    @leave="emit('leave')"
  >
    <p v-if="items.length > 0" class="soft">
      For {{ items.length === 1 ? 'the charge' : 'the charges' }} picked.
    </p>
    <BigField v-model="typed" label="How much" kind="figure" :wrong />
  </FormPanel>
</template>
