<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { AccountItemView } from '../../contract/accounts.ts';
import type { CustomerPage } from '../../contract/people.ts';
import { freeOn } from '../../core/people/account.ts';
import { ACCOUNT_ITEM_WORDS } from '../../core/people/accountItemKinds.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import CheckField from '../look/CheckField.vue';
import AccountFigures from './AccountFigures.vue';
import AccountForm from './AccountForm.vue';
import AccountMoneyForm from './AccountMoneyForm.vue';
import { useAccountStore } from './accountStore.ts';
import { useCustomerStore } from './customerStore.ts';
import MoneyIn from './MoneyIn.vue';
import WordButton from '../look/WordButton.vue';

/** The house account of a customer: what is owed, charge by charge, and what is done about it. */
const { page } = defineProps<{ page: CustomerPage }>();

const store = useAccountStore();
const customers = useCustomerStore();
const basket = useBasketStore();
const countersigns = useCountersignStore();
const till = useTillStore();
const session = useSessionStore();
const notices = useNoticeStore();
const router = useRouter();
const mode = ref<'look' | 'change' | 'in' | 'bank' | 'write-off' | 'opening'>('look');
const picked = ref<ReadonlySet<number>>(new Set());

watchImmediate(
  () => page.panel.id,
  () => {
    mode.value = 'look';
    picked.value = new Set();
  },
);
const stop = store.follow();
onUnmounted(stop);

const account = computed(() => store.looked?.account ?? null);
const buysOn = computed(() => store.looked?.buysOn ?? []);
const open = computed(() => account.value?.items.filter(({ remaining }) => remaining !== 0) ?? []);
const past = computed(
  () => account.value?.items.filter(({ remaining }) => remaining === 0).slice(0, 8) ?? [],
);
const items = computed(() => open.value.filter(({ id }) => picked.value.has(id)));
const mayManage = computed(() => session.may('account.manage'));

function pick({ id, remaining }: AccountItemView): void {
  if (remaining <= 0) return;
  const next = new Set(picked.value);
  if (!next.delete(id)) next.add(id);
  picked.value = next;
}
const wordsOf = ({ kind, reference, words, buyer }: AccountItemView): string =>
  [ACCOUNT_ITEM_WORDS[kind], buyer, reference, words].filter(Boolean).join(', ');
function leave(): void {
  mode.value = 'look';
  picked.value = new Set();
}

async function toCounter(): Promise<void> {
  leave();
  await router.push('/counter');
}

/** What is over is given back: rung up, and paid out like a refund. */
async function payOut(): Promise<void> {
  const now = account.value;
  if (!now || now.owed >= 0) return;
  const amount = 0 - now.owed;
  const step = { subject: `account:${now.id}`, from: null, to: null, unit: 'money' as const, amount };
  const approval = await countersigns.need('account.pay-out', basket.basket.id, till.money(amount), [step]);
  if (!approval) return;
  if (!basket.basket.customer) await customers.choose(page.panel);
  await store.ringUpMoney(now, 0 - amount, { countersign: approval.id });
  await toCounter();
}

async function remind(): Promise<void> {
  try {
    const done = await store.remind(account.value?.id ?? 0);
    if (done.sent > 0) notices.say('The reminder goes out by mail.');
    else if (done.unreachable.length > 0) notices.failed('No mail address of theirs is known.');
    else notices.say('It is not time for a reminder, or they had it already.');
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
</script>

<template>
  <section class="account" aria-labelledby="account-title">
    <h2 id="account-title" class="label">
      {{ account ? `House account ${account.number}` : 'House account' }}
    </h2>
    <AccountForm
      v-if="mode === 'change'"
      :customer-id="page.panel.id"
      :name="page.record.name"
      :company="page.record.company"
      :account="account"
      @leave="leave"
    />
    <MoneyIn
      v-else-if="mode === 'in' && account"
      :account="account"
      :items="items"
      :customer="page.panel"
      @done="toCounter"
      @leave="leave"
    />
    <AccountMoneyForm
      v-else-if="account && (mode === 'bank' || mode === 'write-off' || mode === 'opening')"
      :account="account"
      :what="mode"
      :items="items"
      @leave="leave"
    />
    <template v-else-if="account">
      <p v-if="account.blocked" class="noted">Blocked: nothing more goes on it.</p>
      <dl class="facts">
        <dt>{{ account.owed < 0 ? 'In their favour' : 'Owed' }}</dt>
        <dd class="num">
          <b>{{ till.money(Math.abs(account.owed)) }}</b>
        </dd>
        <dt>Limit</dt>
        <dd class="num">{{ till.money(account.limit) }}</dd>
        <dt>May still go on it</dt>
        <dd class="num">{{ till.money(freeOn(account)) }}</dd>
        <dt>Days to pay</dt>
        <dd class="num">{{ account.daysToPay }}</dd>
      </dl>
      <AccountFigures v-if="account.owed !== 0" :ages="account.ages" />
      <p v-if="account.buyers.length > 0" class="soft">
        {{
          account.buyers
            .map(({ name, most }) => (most === null ? name : `${name} up to ${till.money(most)}`))
            .join(', ')
        }}
        may buy on it.
      </p>
      <p v-if="account.reminders[0]" class="soft">
        Reminder {{ account.reminders[0].step }} on {{ till.calendarDay(account.reminders[0].day) }}.
      </p>
      <div class="acts">
        <v-btn class="go" @click="mode = 'in'">Money in</v-btn>
        <v-btn :to="`/people/${page.panel.id}/statement`">Statement</v-btn>
        <v-btn v-if="account.owed < 0" @click="payOut">Pay it out</v-btn>
        <v-btn v-if="mayManage" @click="mode = 'bank'">Came by bank</v-btn>
        <v-btn v-if="mayManage" @click="mode = 'change'">Change</v-btn>
      </div>
      <template v-if="open.length > 0">
        <h3 class="label">{{ account.owed < 0 ? 'Over' : 'Open' }}</h3>
        <ul class="ruled">
          <li v-for="item in open" :key="item.id">
            <div class="what">
              <CheckField
                v-if="item.remaining > 0"
                unseen
                :label="`Pay ${wordsOf(item)} ${item.sale ?? ''}`"
                :model-value="picked.has(item.id)"
                @update:model-value="pick(item)"
              />
              <span
                >{{ wordsOf(item) }}
                <router-link v-if="item.saleId" class="word num" :to="`/journal/${item.saleId}`">{{
                  item.sale
                }}</router-link>
                <span class="soft under"
                  >{{ till.calendarDay(item.day)
                  }}<template v-if="item.remaining > 0"
                    >, due {{ till.calendarDay(item.dueOn) }}</template
                  ></span
                ></span
              >
            </div>
            <span class="num right"
              ><b>{{ till.money(item.remaining) }}</b
              ><span v-if="item.remaining !== item.amount" class="soft under"
                >of {{ till.money(item.amount) }}</span
              ></span
            >
          </li>
        </ul>
      </template>
      <template v-if="past.length > 0">
        <h3 class="label">Settled</h3>
        <ul class="ruled">
          <li v-for="item in past" :key="item.id">
            <span
              >{{ wordsOf(item) }}
              <router-link v-if="item.saleId" class="word num" :to="`/journal/${item.saleId}`">{{
                item.sale
              }}</router-link>
              <span class="soft under">{{ till.calendarDay(item.day) }}</span></span
            >
            <span class="num">{{ till.money(item.amount) }}</span>
          </li>
        </ul>
      </template>
      <div v-if="mayManage" class="acts rare">
        <WordButton v-if="account.owed > 0" @click="remind">Remind them</WordButton>
        <WordButton @click="mode = 'opening'">Owed from before</WordButton>
        <WordButton
          v-if="account.owed > 0 && session.may('account.write-off')"
          class="bad"
          @click="mode = 'write-off'"
        >
          Write off
        </WordButton>
      </div>
    </template>
    <template v-else-if="store.looked">
      <p v-if="buysOn.length === 0" class="soft">None.</p>
      <div v-if="mayManage" class="acts">
        <v-btn @click="mode = 'change'">Open a house account</v-btn>
      </div>
    </template>
    <p v-for="one in buysOn" :key="one.id" class="soft">
      Buys on the account of
      <router-link class="word" :to="`/people/${one.customerId}`">{{ one.name }}</router-link><template
        v-if="one.most !== null"
        >, up to {{ till.money(one.most) }} with one purchase</template
      >.
    </p>
  </section>
</template>

<style scoped>
.account {
  display: grid;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 14px;
  padding: 6px 0;
  border-bottom: var(--hair);
  align-items: center;
  overflow-wrap: anywhere;
}
.what {
  display: flex;
  gap: 10px;
  align-items: center;
}
li .word {
  min-height: 0;
}
.right {
  text-align: right;
}
</style>
