<script setup lang="ts">
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { formatCount } from '../../core/locale.ts';
import { computed, nextTick, onMounted, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { freeOn, type AccountFacts } from '../../core/people/account.ts';
import type { Visit } from '../../contract/people.ts';
import { PROMISE_STATES } from '../../core/promises/state.ts';
import { formatQuantity, ONE } from '../../core/quantity.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { birthdayWords } from './birthdayWords.ts';
import { useCustomerStore } from './customerStore.ts';
import { usePointsOffStore } from './pointsOffStore.ts';
import { usePointsStore } from './pointsStore.ts';
import ChipButton from '../look/ChipButton.vue';

const emit = defineEmits<{ other: []; money: [account: AccountFacts] }>();

const customers = useCustomerStore();
const work = useBasketWorkStore();
const till = useTillStore();
const points = usePointsStore();
const pointsOff = usePointsOffStore();
const router = useRouter();
const facts = useTemplateRef('facts');
const customer = computed(() => customers.panel);
/** The account that money is most likely for: their own, or the one that they buy on. */
const own = computed(() => customers.panel?.accounts[0] ?? null);
onMounted(async () => {
  await nextTick();
  facts.value?.focus();
});

const linesOf = ({ lines }: Visit) =>
  lines
    .map(({ name, quantity }) => (quantity === ONE ? name : `${formatQuantity(quantity)} × ${name}`))
    .join('; ');

async function again(visit: Visit | undefined): Promise<void> {
  if (!visit) return;
  work.leave();
  await customers.orderAgain(visit);
}

async function takeOff(): Promise<void> {
  work.leave();
  await customers.takeOff();
}

useKeys('customer', {
  again: ({ target }, nth) => {
    const visit = target instanceof HTMLInputElement ? undefined : customer.value?.visits[nth];
    return visit ? again(visit) : false;
  },
  moneyIn: ({ target }) => {
    if (target instanceof HTMLInputElement || !own.value) return false;
    emit('money', own.value);
  },
  pointsOff: ({ target }) => {
    if (target instanceof HTMLInputElement || !pointsOff.offered) return false;
    work.begin('points-off');
  },
});
</script>

<template>
  <div ref="facts" class="facts-of" tabindex="-1">
    <template v-if="customer">
      <h2 id="customer-title" class="title">{{ customer.name }}</h2>
      <p v-if="customer.company">{{ customer.company }}</p>
      <p class="soft">{{ [customer.phone, customer.mail].filter(Boolean).join(' · ') }}</p>
      <p v-if="customer.groups.length > 0" class="groups">
        <span v-for="group in customer.groups" :key="group" class="why">{{ group }}</span>
      </p>
      <p v-if="customer.note" class="noted">{{ customer.note }}</p>
      <dl>
        <template v-if="points.programme?.on || customer.points !== 0">
          <dt>{{ points.Word }}</dt>
          <dd class="num" :class="{ bad: customer.points < 0 }">{{ formatCount(customer.points) }}</dd>
        </template>
        <template v-if="customer.ending">
          <dt>of them until {{ till.calendarDay(customer.ending.day) }}</dt>
          <dd class="num">{{ formatCount(customer.ending.points) }}</dd>
        </template>
        <template v-for="account in customer.accounts" :key="account.id">
          <dt>
            {{ account.customerId === customer.id ? 'House account' : `Account of ${account.name}`
            }}<template v-if="account.blocked">, blocked</template>
          </dt>
          <dd class="num" :class="{ bad: account.owed > 0 }">
            {{
              account.owed < 0 ? `${till.money(-account.owed)} in favour` : `${till.money(account.owed)} owed`
            }}
          </dd>
          <dt>May still go on it</dt>
          <dd class="num">{{ till.money(account.blocked ? 0 : freeOn(account)) }}</dd>
        </template>
        <dt>Store credit</dt>
        <dd class="num">{{ till.money(customer.credit) }}</dd>
        <template v-if="customer.birthMonth !== null && customer.birthDay !== null">
          <dt>Birthday</dt>
          <dd>{{ birthdayWords(customer.birthMonth, customer.birthDay, till.facts) }}</dd>
        </template>
        <dt>Visits</dt>
        <dd class="num">{{ customer.visitCount }}</dd>
      </dl>
      <h3 v-if="customer.promises.length > 0" class="label">Waits for them</h3>
      <ul v-if="customer.promises.length > 0">
        <li v-for="promise in customer.promises" :key="promise.id">
          <span
            ><b>{{ PROMISE_STATES[promise.state] }}</b> <span class="soft">{{ promise.goods }}</span></span
          >
          <ChipButton @click="router.push(`/waiting/${promise.id}`)">
            {{ promise.number }}
          </ChipButton>
        </li>
      </ul>
      <h3 v-if="customer.visits.length > 0" class="label">Last visits</h3>
      <ol>
        <li v-for="(visit, place) in customer.visits" :key="visit.saleId">
          <span
            ><b>{{ till.time(visit.finishedAt, 'full') }}</b>
            <span class="soft">{{ linesOf(visit) }}</span></span
          >
          <span class="num">{{ till.money(visit.total) }}</span>
          <span class="acts">
            <ChipButton @click="again(visit)">
              Ring up again <kbd>{{ place + 1 }}</kbd>
            </ChipButton>
            <ChipButton @click="router.push(`/journal/${visit.saleId}`)">
              Receipt {{ visit.number }}
            </ChipButton>
          </span>
        </li>
      </ol>
    </template>
    <p v-else role="status">Looking them up …</p>
    <div class="acts panel-foot">
      <v-btn @click="work.leave()">Back <KeyHint of="form.leave" /></v-btn>
      <v-btn v-if="own" @click="emit('money', own)">Money in <KeyHint of="customer.moneyIn" /></v-btn>
      <v-btn v-if="pointsOff.offered" @click="work.begin('points-off')"
        >Pay with {{ points.word }} <KeyHint of="customer.pointsOff"
      /></v-btn>
      <v-btn v-if="customer" :to="`/people/${customer.id}`" @click="work.leave()">Their page</v-btn>
      <v-btn @click="$emit('other')">Another one</v-btn>
      <v-btn class="stop" @click="takeOff">Take off</v-btn>
    </div>
  </div>
</template>

<style scoped>
.facts-of {
  display: flex;
  flex-direction: column;
  gap: 10px;
  outline: 0;
  overflow-wrap: anywhere;
}
.panel-foot {
  bottom: 0;
  margin-top: auto;
  padding-block: 10px 14px;
  border-top: var(--hair);
  gap: 8px;
}
.groups {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  border-top: var(--group);
}
dt,
dd {
  padding: 6px 0;
  border-bottom: var(--hair);
}
dd {
  text-align: right;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 12px;
  padding: 8px 0;
  border-top: var(--hair);
  font-size: 14.5px;
}
li b,
li .soft {
  display: block;
}
li .acts {
  grid-column: 1 / -1;
  gap: 8px;
}
/* What the hand comes to stops above the foot, not under it. */
li :deep(button) {
  scroll-margin-bottom: 190px;
}
</style>
