<script setup lang="ts">
import { computed, onUnmounted, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import type { CustomerPage as PageOfCustomer } from '../../contract/people.ts';
import { formatCount } from '../../core/locale.ts';
import { STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import { PROMISE_STATES } from '../../core/promises/state.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { birthdayWords } from './birthdayWords.ts';
import AccountOfCustomer from './AccountOfCustomer.vue';
import CardsOfCustomer from './CardsOfCustomer.vue';
import MonthsChart from '../look/MonthsChart.vue';
import { usePageOf } from '../look/pageOf.ts';
import { useLook } from '../notices/look.ts';
import { useAccountStore } from './accountStore.ts';
import { useCustomerPageStore } from './customerPageStore.ts';
import { useCustomerStore } from './customerStore.ts';
import { useDirectoryStore } from './directoryStore.ts';
import ForgetPane from './ForgetPane.vue';
import MergePane from './MergePane.vue';
import PointsOfCustomer from './PointsOfCustomer.vue';
import { usePointsStore } from './pointsStore.ts';
import RecordForm from './RecordForm.vue';
import WordButton from '../look/WordButton.vue';
import { useWayOn } from '../look/wayOn.ts';

const store = useCustomerPageStore();
const customers = useCustomerStore();
const accounts = useAccountStore();
const people = useDirectoryStore();
const points = usePointsStore();
const till = useTillStore();
const session = useSessionStore();
const router = useRouter();
const goOn = useWayOn();
const mode = ref<'look' | 'change' | 'merge' | 'forget'>('look');

const lookAtAccount = useLook(accounts.look);
usePageOf('/people', async (id) => {
  mode.value = 'look';
  // Asked at the same time, so that it does not come between what is there already.
  void lookAtAccount(id);
  await store.load(id);
  // Whoever was merged is found under the record that stays.
  const found = store.page?.panel.id;
  if (found !== undefined && found !== id) await router.replace(`/people/${found}`);
});
const stop = store.follow();
onUnmounted(stop);

const page = computed(() => store.page);
const record = computed(() => page.value?.record);
const figures = computed(() => {
  const panel = page.value?.panel;
  if (!panel) return [];
  return [
    {
      words: panel.owes < 0 ? 'We owe them' : 'Owes',
      value: till.money(Math.abs(panel.owes)),
      bad: panel.owes > 0,
    },
    { words: 'Store credit', value: till.money(panel.credit) },
    ...(points.programme?.on || panel.points !== 0
      ? [{ words: points.Word, value: formatCount(panel.points), bad: panel.points < 0 }]
      : []),
    { words: 'Visits', value: formatCount(panel.visitCount) },
  ];
});
const facts = computed(() => {
  const known = record.value;
  if (!known) return [];
  const { birthMonth, birthDay, news, newsOn, newsHow } = known;
  const said = [newsOn && till.calendarDay(newsOn), newsHow].filter(Boolean).join(', ');
  return [
    { words: 'Phone', value: known.phone },
    { words: 'Mail', value: known.mail },
    {
      words: 'Birthday',
      value: birthMonth !== null && birthDay !== null ? birthdayWords(birthMonth, birthDay, till.facts) : '',
    },
    { words: 'News', value: news ? ['may be sent', said].filter(Boolean).join(', since ') : 'none wanted' },
    ...known.addresses.map((one, at) => ({
      words: at === 0 ? 'Address' : `Address ${at + 1}`,
      value: [one.recipient, one.street, `${one.postcode} ${one.city}`.trim()].filter(Boolean).join(', '),
    })),
  ].filter(({ value }) => value !== '');
});
const mayManage = computed(() => session.may('people.manage'));

/** The record as it was when somebody began to change it: whoever changes it meanwhile is not overwritten. */
const changing = shallowRef<PageOfCustomer | null>(null);
function change(): void {
  changing.value = page.value;
  mode.value = 'change';
}

async function look(): Promise<PageOfCustomer['record'] | undefined> {
  if (changing.value) await store.again(changing.value.panel.id);
  changing.value = page.value;
  return page.value?.record;
}

async function onSale(): Promise<void> {
  const panel = page.value?.panel;
  if (!panel) return;
  await customers.choose(panel);
  await goOn('/counter');
}
</script>

<template>
  <div v-if="page && record" class="two">
    <section class="zone" aria-labelledby="customer-name">
      <header class="head">
        <router-link class="word" to="/people">All people</router-link>
        <v-btn class="go" @click="onSale">Put on the sale</v-btn>
      </header>
      <div class="scroll">
        <RecordForm
          v-if="mode === 'change' && changing"
          :title="`Change ${changing.record.name}`"
          :remembers="`customer ${changing.panel.id}`"
          done="Keep it"
          :record="changing.record"
          :tags="people.listed?.tags ?? []"
          :save="
            async (wanted) => {
              if (changing) await store.save(changing, wanted);
              mode = 'look';
            }
          "
          :look
          @leave="mode = 'look'"
        />
        <MergePane v-else-if="mode === 'merge'" :page="page" @leave="mode = 'look'" />
        <ForgetPane v-else-if="mode === 'forget'" :page="page" @leave="mode = 'look'" />
        <div v-else class="of">
          <div>
            <h1 id="customer-name" class="title">{{ record.name }}</h1>
            <p v-if="record.company">{{ record.company }}</p>
          </div>
          <p v-if="record.note" class="note">{{ record.note }}</p>
          <dl class="facts">
            <template v-for="{ words, value } in facts" :key="words">
              <dt>{{ words }}</dt>
              <dd>{{ value }}</dd>
            </template>
          </dl>
          <p v-if="record.groups.length + page.byRule.length + record.tags.length > 0" class="words">
            <span v-for="group in record.groups" :key="group" class="why">{{ group }}</span>
            <span v-for="{ name, why } in page.byRule" :key="name" class="why" :title="why"
              >{{ name }}: {{ why }}</span
            >
            <span v-for="tag in record.tags" :key="tag" class="soft">{{ tag }}</span>
          </p>
          <p v-if="page.mergedFrom.length > 0" class="soft">
            Also found under this record: {{ page.mergedFrom.join(', ') }}
          </p>
          <div class="acts">
            <v-btn v-if="session.may('people.edit')" @click="change">Change</v-btn>
          </div>
          <CardsOfCustomer :key="page.panel.id" :page="page" :may-change="session.may('people.edit')" />
          <div v-if="mayManage" class="acts rare">
            <WordButton @click="mode = 'merge'">Merge with another record</WordButton>
            <a class="word" :href="`/api/people/customers/${page.panel.id}/known.json`"
              >What we know of them: JSON</a
            >
            <a class="word" :href="`/api/people/customers/${page.panel.id}/known.csv`">CSV</a>
            <WordButton class="bad" @click="mode = 'forget'">Forget them</WordButton>
          </div>
        </div>
      </div>
    </section>
    <section class="zone" aria-label="What was between them and the shop">
      <dl class="figures">
        <div v-for="{ words, value, bad } in figures" :key="words">
          <dt class="label">{{ words }}</dt>
          <dd class="num" :class="{ bad }">{{ value }}</dd>
        </div>
      </dl>
      <div class="scroll rest">
        <section v-if="page.panel.promises.length > 0">
          <h2 class="label">Waits for them</h2>
          <ul class="ruled">
            <li v-for="one in page.panel.promises" :key="one.id">
              <span
                ><b>{{ PROMISE_STATES[one.state] }}</b> <span class="soft">{{ one.goods }}</span></span
              >
              <router-link class="word num" :to="`/waiting/${one.id}`">{{ one.number }}</router-link>
            </li>
          </ul>
        </section>
        <section v-if="page.values.length + page.onFile.length > 0">
          <h2 class="label">Stored value and cards on file</h2>
          <ul class="ruled">
            <li v-for="value in page.values" :key="value.id">
              <span
                >{{ STORED_VALUE_NAMES[value.kind] }}
                <span class="num soft">·· {{ value.number }}</span></span
              >
              <span class="num">{{ till.money(value.balance) }}</span>
            </li>
            <li v-for="card in page.onFile" :key="`file-${card.id}`">
              <span>{{ card.brand }} on file</span><span class="num">·· {{ card.lastFour }}</span>
            </li>
          </ul>
        </section>
        <AccountOfCustomer :page="page" />
        <PointsOfCustomer v-if="points.programme?.on || page.moves.length > 0" :page="page" />
        <section v-if="page.panel.visits.length > 0">
          <h2 class="label">Spent in the last twelve months</h2>
          <MonthsChart
            name="Spent"
            :months="page.months.map(({ month, total }) => ({ month, amount: total }))"
          />
          <h2 class="label">Last visits</h2>
          <ul class="ruled">
            <li v-for="visit in page.panel.visits" :key="visit.saleId">
              <span
                ><b>{{ till.time(visit.finishedAt, 'full') }}</b>
                <span class="soft under">{{ visit.lines.map(({ name }) => name).join('; ') }}</span></span
              >
              <span class="right"
                ><span class="num">{{ till.money(visit.total) }}</span
                ><router-link class="word num" :to="`/journal/${visit.saleId}`">{{
                  visit.number
                }}</router-link></span
              >
            </li>
          </ul>
        </section>
        <p v-else class="soft">They have not bought anything yet.</p>
        <section>
          <h2 class="label">Who changed what</h2>
          <ul class="ruled">
            <li v-for="(change, at) in page.changes" :key="at">
              <span
                >{{ change.what }}: <span v-if="change.was" class="was">{{ change.was }}</span>
                {{ change.became || (change.was ? '' : '–') }}</span
              >
              <span class="soft right"
                >{{ change.who || 'the rule' }}, {{ till.time(change.at, 'full') }}</span
              >
            </li>
            <li>
              <span>Known since</span><span class="soft">{{ till.time(page.addedAt, 'full') }}</span>
            </li>
          </ul>
        </section>
      </div>
    </section>
  </div>
  <p v-else class="empty" role="status">Looking them up …</p>
</template>

<style scoped>
.of {
  display: grid;
  gap: 14px;
  padding: 16px 18px 24px;
  overflow-wrap: anywhere;
}
.facts {
  grid-template-columns: auto 1fr;
}
.note {
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
  padding: 6px 10px;
  white-space: pre-line;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
}
.rare {
  border-top: var(--hair);
  padding-top: 8px;
  gap: 4px 8px;
}
.rare .word {
  min-height: 36px;
  display: inline-flex;
  align-items: center;
}
.figures {
  display: grid;
  grid-auto-columns: 1fr;
  grid-auto-flow: column;
  border-bottom: var(--rule);
  background: var(--surface);
}
.figures > div {
  padding: 10px 18px;
  border-right: var(--hair);
}
.figures dd {
  font-size: 24px;
  font-weight: 600;
}
.rest {
  display: grid;
  gap: 18px;
  padding: 16px 18px 24px;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
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
</style>
