<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { AccountView } from '../../contract/accounts.ts';
import type { FoundCustomer } from '../../contract/people.ts';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { formProblems } from '../net/problem.ts';
import { follow, lookFirst } from '../notices/follow.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAccountStore } from './accountStore.ts';
import FindCustomer from './FindCustomer.vue';
import ChipButton from '../look/ChipButton.vue';

/** Opens a house account, or changes it: how much, how long, who may buy on it. */
const { customerId, name, company, account } = defineProps<{
  customerId: number;
  name: string;
  company: string;
  account: AccountView | null;
}>();
const emit = defineEmits<{ leave: [] }>();

const store = useAccountStore();
const till = useTillStore();
const notices = useNoticeStore();
const rules = till.facts?.accounts.rules;
const asForm = (of: AccountView | null) => ({
  ofCompany: of?.ofCompany ?? company !== '',
  limit: of?.limit ?? rules?.limit ?? 0,
  daysToPay: of?.daysToPay ?? rules?.daysToPay ?? 30,
  blocked: of?.blocked ?? false,
  asksFor: of?.asksFor ?? '',
  /** An amount of zero is no limit. */
  buyers: (of?.buyers ?? []).map((buyer) => ({ ...buyer, most: buyer.most ?? 0 })),
});
const form = reactive(asForm(account));
/** The account as it was looked at last; what another one changes is taken over where nobody has touched it here. */
let looked = account;
async function look(): Promise<void> {
  await store.again(customerId);
  const now = store.looked?.account ?? null;
  follow<ReturnType<typeof asForm>>(form, asForm(looked), asForm(now));
  looked = now;
}
const finding = ref('');
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
const title = computed(() => (account ? `Account of ${name}` : `Open a house account for ${name}`));

function add(one: FoundCustomer): void {
  finding.value = '';
  if (one.id !== customerId && !form.buyers.some((buyer) => buyer.customerId === one.id))
    form.buyers.push({ customerId: one.id, name: one.name, most: 0 });
}

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [{}, ''];
  if (Number.isNaN(form.limit)) wrong.value.limit = 'Type a limit.';
  if (Number.isNaN(form.daysToPay)) wrong.value.daysToPay = 'From 0 to 366.';
  if (form.buyers.some(({ most }) => Number.isNaN(most)))
    wrong.value.buyers = 'Type an amount, or nothing for any.';
  if (Object.keys(wrong.value).length > 0) return;
  busy.value = true;
  const opened = looked === null;
  try {
    const { buyers, ...terms } = form;
    const wanted = {
      ...terms,
      buyers: buyers.map(({ customerId: id, most }) => ({ customerId: id, most: most > 0 ? most : null })),
      version: looked?.version ?? null,
    };
    await store.put(customerId, wanted).catch(lookFirst(look));
    notices.say(opened ? `${name} has a house account.` : 'The account is changed.');
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
    :done="account ? 'Keep it' : 'Open it'"
    :busy
    :wrong="whole"
    :remembers="`account of ${customerId}`"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <v-checkbox
      v-if="company"
      v-model="form.ofCompany"
      :label="`${company} owes, not ${name}`"
      hide-details
    />
    <MoneyField v-model="form.limit" label="Limit" :wrong="wrong.limit" />
    <CountField v-model="form.daysToPay" label="Days to pay" :wrong="wrong.daysToPay" />
    <v-text-field
      v-model="form.asksFor"
      label="Asks for a reference, e.g. Order number"
      maxlength="40"
      :error-messages="wrong.asksFor"
    />
    <v-checkbox v-if="account" v-model="form.blocked" label="Blocked: nothing more goes on it" hide-details />
    <h3 class="label">Who else may buy on it</h3>
    <ul class="ruled" v-if="form.buyers.length > 0">
      <li v-for="(buyer, at) in form.buyers" :key="buyer.customerId">
        <b>{{ buyer.name }}</b>
        <MoneyField v-model="buyer.most" label="At most with one purchase (0: any)" />
        <ChipButton :aria-label="`Take off ${buyer.name}`" @click="form.buyers.splice(at, 1)">
          Take off
        </ChipButton>
      </li>
    </ul>
    <p v-if="wrong.buyers" class="bad" role="alert">{{ wrong.buyers }}</p>
    <FindCustomer id="buyer" v-model="finding" label="Add a buyer" :except="customerId" scans @choose="add" />
  </FormPanel>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: var(--hair);
}
</style>
