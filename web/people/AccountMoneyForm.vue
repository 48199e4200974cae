<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { AccountView } from '../../contract/accounts.ts';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { formProblems } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAccountStore } from './accountStore.ts';

/**
 * What happens on an account behind the counter: money that came by bank, what is written off, what was owed before.
 */
const { account, what, items } = defineProps<{
  account: AccountView;
  what: 'bank' | 'write-off' | 'opening';
  /** Charges that are picked: they are paid, or written off, first. */
  items: readonly { id: number; remaining: number }[];
}>();
const emit = defineEmits<{ leave: [] }>();

const store = useAccountStore();
const till = useTillStore();
const notices = useNoticeStore();
const TITLES = {
  bank: 'Money that came by bank',
  'write-off': 'Write off',
  opening: 'Owed before these books',
};
const DONE = { bank: 'It came', 'write-off': 'Write it off', opening: 'It was owed' };
const picked = items.reduce((all, { remaining }) => all + remaining, 0);
const suggested = what === 'opening' ? Number.NaN : picked || Math.max(0, account.owed) || Number.NaN;
const form = reactive({
  amount: suggested,
  day: till.today(),
  words: '',
});
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
const title = computed(() => `${TITLES[what]}: ${account.name}`);

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  if (Number.isNaN(form.amount)) {
    wrong.value = { amount: 'Type an amount.' };
    return;
  }
  const ids = items.map(({ id }) => id);
  const { amount, day, words } = form;
  busy.value = true;
  try {
    if (what === 'bank') await store.payByBank(account.id, { amount, day, words, items: ids });
    else if (what === 'write-off') await store.writeOff(account.id, { amount, words, items: ids });
    else await store.putOpening(account.id, { amount, day, words });
    await store.again(account.customerId);
    notices.say(`${till.money(amount)}: ${TITLES[what].toLocaleLowerCase()}.`);
    emit('leave');
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    :title
    :done="DONE[what]"
    :busy
    :wrong="whole"
    :remembers="`${what} of account ${account.id}`"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <p v-if="items.length > 0" class="soft">{{ items.length }} picked, {{ till.money(picked) }}.</p>
    <MoneyField v-model="form.amount" label="Amount" :wrong="wrong.amount" />
    <DateField v-if="what !== 'write-off'" v-model="form.day" label="Day" :wrong="wrong.day" />
    <v-text-field
      v-model="form.words"
      :label="what === 'write-off' ? 'Why' : 'Words (optional)'"
      maxlength="200"
      :error-messages="wrong.words"
    />
  </FormPanel>
</template>
