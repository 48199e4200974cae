<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { ChannelMessageView, OrderStep } from '../../contract/orders.ts';
import type { PromiseStep, PromiseView } from '../../contract/promises.ts';
import {
  arriveProblem,
  leaveProblem,
  overProblem,
  relayGiveUpProblem,
  remindProblem,
  takeOutProblem,
  toFind,
  toPick,
} from '../../core/promises/may.ts';
import { formatQuantity, ONE } from '../../core/quantity.ts';
import { PROMISE_STATES } from '../../core/promises/state.ts';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import ChipChoice from '../look/ChipChoice.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import CountersignPane from '../staff/CountersignPane.vue';
import { useCountersignStore } from '../staff/countersignStore.ts';
import ExcuseFields from './ExcuseFields.vue';
import OrderHandover from './OrderHandover.vue';
import OrderPicking from './OrderPicking.vue';
import PartnerOrder from './PartnerOrder.vue';
import PromiseFacts from './PromiseFacts.vue';
import RelayThread from './RelayThread.vue';
import { useOrderStore } from './orderStore.ts';
import { usePromiseStore, type PromiseWork } from './promiseStore.ts';
import WordButton from '../look/WordButton.vue';

const { view } = defineProps<{ view: PromiseView }>();

const promises = usePromiseStore();
const orders = useOrderStore();
const till = useTillStore();
const router = useRouter();
const { wrong, attempt } = useAttempt();
/** A partner waits for an answer: nothing else is done before. */
const isAsked = computed(() => view.state === 'asked');
const open = computed(() => overProblem(view) === null);
const left = computed(() => Math.max(0, view.rest - view.held));
const here = till.facts?.till.placeId ?? 0;
/** Whether some of it can leave here now. */
const mayLeave = computed(() =>
  view.lines.some(
    (line) =>
      line.handed < line.quantity &&
      leaveProblem(line, here) === null &&
      toPick(line) < line.quantity - line.handed,
  ),
);
/** What is most likely done next: of what is paid, or lies ready, handing it over. */
const handsOver = computed(() => (left.value === 0 || view.state === 'ready') && mayLeave.value);
const handOverWords = computed(() => (view.order && !view.order.collect ? 'Ship it' : 'Hand over'));
/** What is to be picked here comes before it is handed over. */
const picksHere = computed(
  () => view.state !== 'begun' && view.lines.some((line) => toFind(line) > 0 && line.order?.placeId === here),
);
const arrivesHere = computed(
  () => view.handover?.collect?.placeId === here && view.lines.some(({ order }) => order?.sent),
);
/** What comes next of a relay: nothing while its partner has it. */
const relayStep = computed<{ words: string; take: () => Promise<unknown> } | null>(() => {
  if (view.state === 'begun') return { words: 'Take the payment', take: () => atCounter('pay') };
  if (view.state === 'refused')
    return { words: 'Send it again', take: () => thread.value?.send() ?? Promise.resolve() };
  return view.state === 'delivered' ? { words: 'Book it', take: () => atCounter('hand-over') } : null;
});
/** The next step: its words, and what it does; nothing where others have to do something first. */
const nextStep = computed<{ words: string; take: () => Promise<unknown> } | null>(() => {
  const step = (body: OrderStep, done: string) => () => attempt(orders.takeStep(view.id, body), done);
  if (isAsked.value) return { words: 'Accept', take: () => asking.value?.accept() ?? Promise.resolve() };
  if (!open.value) return null;
  if (picksHere.value)
    return { words: 'All picked', take: step({ what: 'pick', placeId: here }, 'All is picked.') };
  if (arrivesHere.value)
    return { words: 'It has arrived', take: step({ what: 'arrived' }, 'It is here, and set aside.') };
  if (view.relay) return relayStep.value;
  if (handsOver.value) return { words: handOverWords.value, take: () => atCounter() };
  return left.value > 0 ? { words: 'Take a deposit', take: () => atCounter() } : null;
});
const words = ref('');
const thread = ref<InstanceType<typeof RelayThread>>();
const asking = ref<InstanceType<typeof PartnerOrder>>();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
/** Why it goes on without its deposit, while that is being said. */
const excusing = ref(false);
const excuse = ref('');
const excuseWrong = ref('');
async function goOn(): Promise<void> {
  excuseWrong.value = excuse.value.trim() ? '' : 'Say why: it is kept.';
  if (excuseWrong.value) return;
  let allowed: PromiseView | null = null;
  await attempt(
    promises.excuse(view, excuse.value.trim()).then((now) => (allowed = now)),
    '',
  );
  // Where nobody approved it, it stays as it is.
  if (!allowed) return;
  excusing.value = false;
  notices.say('It is picked without its deposit.');
}

async function atCounter(what?: PromiseWork): Promise<void> {
  await router.push('/counter');
  await promises.open(view, what);
}

/** The last line is not taken out: that is cancelling. */
const mayChange = computed(() => open.value && view.lines.length > 1);
const takeOut = (position: number) =>
  attempt(promises.takeOut(view.id, position), 'Taken out: it can be sold again.');

async function step(what: PromiseStep['what'], done: string): Promise<void> {
  if (await attempt(promises.takeStep(view.id, { what, words: words.value }), done)) words.value = '';
}

/** The word that was chosen, chosen again, is taken away. */
const putStage = (stage: string) =>
  attempt(
    promises.takeStep(view.id, { what: 'stage', words: stage === view.stage ? '' : stage }),
    stage === view.stage ? 'Taken away.' : `It says ${stage} now.`,
  );

/** Whether the channel has taken it, and what stands in the way. */
function toldWords({ toldAt, tries, trouble }: ChannelMessageView): string {
  if (toldAt) return `taken ${till.time(toldAt, 'full')}`;
  if (tries === 0) return 'on its way';
  return `not taken yet, tried ${tries === 1 ? 'once' : `${tries} times`}: ${trouble}`;
}

useKeys(
  'waiting',
  { takeUp: () => nextStep.value?.take() ?? false },
  {
    // What is said to a partner goes with the answer; any other words are noted first.
    when: () =>
      isAsked.value || !(document.activeElement instanceof HTMLInputElement && document.activeElement.value),
  },
);
</script>

<template>
  <CountersignPane v-if="countersigns.asking" />
  <header class="head">
    <h2 class="title">
      {{ view.customer }} <span class="num soft">{{ view.number }}</span>
    </h2>
    <b class="state" :class="{ bad: view.overdueDays > 0 }"
      >{{ view.overdueDays > 0 ? `${counted(view.overdueDays, 'day')} late` : PROMISE_STATES[view.state]
      }}{{ view.stage ? `, ${view.stage}` : '' }}</b
    >
  </header>
  <div class="scroll detail">
    <p v-if="view.note" class="note">{{ view.note }}</p>
    <ChipChoice
      v-if="open && view.stages.length > 0"
      label="How far it is"
      :options="view.stages.map((value) => ({ value, words: value }))"
      :model-value="view.stage"
      @update:model-value="(stage) => putStage(stage ?? '')"
    />
    <form v-if="excusing" class="saying" @submit.prevent="goOn">
      <ExcuseFields v-model="excuse" :missing="view.firstPayment" :wrong="excuseWrong" />
      <div class="acts">
        <v-btn @click="excusing = false">Back</v-btn>
        <v-btn class="go" type="submit">Go on without it</v-btn>
      </div>
    </form>
    <PromiseFacts :view />
    <OrderHandover v-if="view.handover" :view />
    <PartnerOrder v-if="view.partnerOrder" ref="asking" :view />
    <OrderPicking v-if="view.handover" :view />
    <RelayThread v-if="view.relay" ref="thread" :view />
    <table v-else-if="!view.handover">
      <caption class="label">
        Goods,
        {{
          view.place
        }}
      </caption>
      <tbody>
        <tr v-for="line in view.lines" :key="line.position">
          <td class="num">{{ line.quantity === ONE ? '' : formatQuantity(line.quantity) }}</td>
          <td>
            {{ line.name }} <span v-if="line.serial" class="num soft">No. {{ line.serial }}</span>
            <span v-for="(record, at) in line.records" :key="at" class="soft why">
              {{ record.why }} <span class="num">{{ till.money(record.amount) }}</span>
            </span>
            <span v-if="line.handed > 0" class="soft">{{
              line.handed >= line.quantity ? 'handed over' : `${formatQuantity(line.handed)} handed over`
            }}</span>
          </td>
          <td v-if="mayChange">
            <WordButton
              v-if="line.handed === 0"
              :disabled="takeOutProblem(view, view.lines, line.position) !== null"
              :title="takeOutProblem(view, view.lines, line.position) ?? ''"
              @click="takeOut(line.position)"
            >
              Take out
            </WordButton>
          </td>
          <td class="num right">{{ till.money(line.net + line.tax) }}</td>
        </tr>
        <tr>
          <td></td>
          <td :colspan="mayChange ? 2 : 1"><b>Total with tax</b></td>
          <td class="num right">
            <b>{{ till.money(view.total) }}</b>
          </td>
        </tr>
      </tbody>
    </table>
    <div v-if="open" class="saying">
      <v-text-field
        v-model="words"
        label="What was said or done"
        :error-messages="wrong.words"
        maxlength="200"
        @keydown.enter.prevent="step('note', 'Noted.')"
      />
      <div class="acts">
        <v-btn v-if="!arriveProblem(view)" @click="step('arrived', 'Set aside.')">Goods arrived</v-btn>
        <v-btn @click="step('told', 'Noted.')">Customer was told</v-btn>
        <v-btn
          :disabled="remindProblem(view) !== null"
          :title="remindProblem(view) ?? ''"
          @click="step('remind', 'The message is on its way.')"
          >Send a message</v-btn
        >
        <v-btn @click="step('note', 'Noted.')">Note it</v-btn>
      </div>
    </div>
    <table>
      <caption class="label">
        What happened
      </caption>
      <tbody>
        <tr v-for="(event, at) in view.events" :key="at">
          <td class="soft when">{{ till.time(event.at, 'full') }}</td>
          <td>
            {{ event.what }}
            <span class="soft">{{ [event.words, event.by].filter(Boolean).join(' · ') }}</span>
            <router-link v-if="event.saleId" :to="`/journal/${event.saleId}`" class="num receipt">{{
              event.receipt
            }}</router-link>
          </td>
          <td class="num right">{{ event.amount === null ? '' : till.money(event.amount) }}</td>
        </tr>
      </tbody>
    </table>
    <table v-if="view.told.length > 0">
      <caption class="label">
        What
        {{
          view.placedAt?.name
        }}
        was told
      </caption>
      <tbody>
        <tr v-for="(one, at) in view.told" :key="at">
          <td class="soft when">{{ till.time(one.at, 'full') }}</td>
          <td>{{ PROMISE_STATES[one.state] }}</td>
          <td :class="one.toldAt ? 'soft' : 'bad'">{{ toldWords(one) }}</td>
        </tr>
      </tbody>
    </table>
    <table v-if="view.plan.length > 0">
      <caption class="label">
        Plan
      </caption>
      <tbody>
        <tr v-for="part in view.plan" :key="part.day">
          <td>{{ till.calendarDay(part.day) }}</td>
          <td class="num right">{{ till.money(part.amount) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <footer class="foot">
    <v-btn @click="promises.print(view)">Print its paper</v-btn>
    <v-btn v-if="isAsked" class="stop" @click="asking?.refuse()">Refuse</v-btn>
    <v-btn
      v-else-if="open"
      class="stop"
      :disabled="relayGiveUpProblem(view.relay) !== null"
      :title="relayGiveUpProblem(view.relay) ?? ''"
      @click="atCounter('cancel')"
      >Cancel it</v-btn
    >
    <v-btn v-if="open && view.order && view.firstPayment > 0 && !excusing" @click="excusing = true"
      >Go on without deposit</v-btn
    >
    <v-btn v-if="open && left > 0 && handsOver" @click="atCounter('pay')">Take a deposit</v-btn>
    <v-btn
      v-if="open && !view.relay && mayLeave && nextStep?.words !== handOverWords"
      @click="atCounter('hand-over')"
      >{{ handOverWords }}</v-btn
    >
    <v-btn v-if="nextStep && !excusing" class="go" height="56" @click="nextStep.take()"
      >{{ nextStep.words }} <KeyHint of="waiting.takeUp"
    /></v-btn>
  </footer>
</template>

<style scoped>
.detail {
  flex: 1;
  padding: 16px 22px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.note {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 14px;
}
.state {
  border: 1.5px solid currentcolor;
  padding: 2px 8px;
}
.receipt {
  color: inherit;
  margin-left: 8px;
}
.when {
  white-space: nowrap;
  font-size: 14px;
}
.saying {
  display: grid;
  gap: 10px;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  padding: 14px 22px;
  border-top: var(--rule);
  background: var(--surface);
}
.foot .go {
  margin-left: auto;
}
</style>
