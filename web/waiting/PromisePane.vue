<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, reactive, ref, watch } from 'vue';
import { parseMoney, plainMoney } from '../../core/money.ts';
import { formatQuantity, parseQuantity, type Quantity } from '../../core/quantity.ts';
import { leaveProblem, toPick } from '../../core/promises/may.ts';
import { PROMISE_NAMES } from '../../core/promises/promiseNumber.ts';
import { agreedFee, goesBack, type PromiseLine } from '../../core/promises/promised.ts';
import type { PromiseView } from '../../contract/promises.ts';
import { isOpen, PROMISE_STATES } from '../../core/promises/state.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import HowManyField from '../look/HowManyField.vue';
import UsualWords from '../look/UsualWords.vue';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ExcuseFields from './ExcuseFields.vue';
import { usePromiseStore, type PromiseWork } from './promiseStore.ts';

const promises = usePromiseStore();
const work = useBasketWorkStore();
const till = useTillStore();
const notices = useNoticeStore();
const view = computed(() => promises.atCounter);
const left = computed(() => Math.max(0, (view.value?.rest ?? 0) - (view.value?.held ?? 0)));
/** What goes back here when nothing comes of it. */
const back = computed(() => (view.value ? goesBack(view.value) : 0));
const open = computed(() => view.value !== null && isOpen(view.value.state));

const WORKS = computed(() =>
  [
    { value: 'pay' as const, words: 'Take a deposit' },
    { value: 'hand-over' as const, words: 'Hand over' },
    { value: 'cancel' as const, words: 'Cancel it' },
  ]
    .filter(({ value }) => value !== 'pay' || left.value > 0)
    .filter(
      ({ value }) => value !== 'hand-over' || !view.value?.relay || view.value.relay.state === 'delivered',
    ),
);

const here = till.facts?.till.placeId ?? 0;
/**
 * What of a line leaves, where nothing else is said: what lies here, and of what is shipped from elsewhere what was
 * picked.
 */
function leaving(line: PromiseLine): Quantity {
  const left = line.quantity - line.handed;
  if (leaveProblem(line, here)) return 0;
  return line.order && line.order.placeId !== here ? left - toPick(line) : left - (line.order?.short ?? 0);
}
const amount = ref('');
const fee = ref('');
const reason = ref('');
const wrong = ref<{ amount?: string; fee?: string; reason?: string; excuse?: string; whole?: string }>({});
const quantities = reactive<Record<number, string>>({});
/** Whoever takes the goods along pays for them now: that is why nearly always. */
const excuse = ref('Pays it all now');
const REASONS = ['No longer wanted', 'Found elsewhere', 'Cannot be paid off'];

watch(
  view,
  (now) => {
    if (!now) return;
    amount.value = plainMoney(Math.min(left.value, now.due || now.next?.amount || left.value), till.digits);
    fee.value = plainMoney(agreedFee(now), till.digits);
    for (const line of now.lines) quantities[line.position] = formatQuantity(leaving(line));
  },
  { immediate: true },
);

const panel = ref<InstanceType<typeof FormPanel>>();
const doneWords = computed(() => {
  if (!open.value) return '';
  if (promises.doing === 'pay') return 'To the basket';
  if (promises.doing === 'hand-over') return 'Hand over';
  return back.value > 0 ? 'Give the deposit back' : 'Cancel it';
});

function choose(what: PromiseWork | null): void {
  promises.doing = what ?? 'pay';
  wrong.value = {};
  void panel.value?.focusFirst();
}

/** How many of which line leave; nothing where something typed is no quantity. */
function wanted(): Map<number, Quantity> | null {
  const found = new Map<number, Quantity>();
  for (const { position, quantity, handed, decimals } of view.value?.lines ?? []) {
    const typed = parseQuantity(quantities[position] || '0', decimals);
    if (typed === null || typed < 0 || typed > quantity - handed) return null;
    if (typed > 0) found.set(position, typed);
  }
  return found;
}

const busy = ref(false);

/** Once at a time: pressing twice brings nothing twice. */
async function accept(): Promise<void> {
  busy.value = true;
  await act().finally(() => (busy.value = false));
}

async function act(): Promise<void> {
  const now = view.value;
  if (!now) return;
  wrong.value = {};
  if (promises.doing === 'pay') {
    const paid = parseMoney(amount.value, till.digits);
    if (paid === null || paid <= 0)
      wrong.value = { amount: `Type an amount, for example ${till.example(20)}.` };
    else if (paid > left.value) wrong.value = { amount: `Only ${till.money(left.value)} is left to pay.` };
    else await promises.bringDeposit(now, paid);
  } else if (promises.doing === 'hand-over') {
    const goods = wanted();
    if (!goods) wrong.value = { whole: 'Type how many leave: not more than are left.' };
    else if (goods.size === 0) wrong.value = { whole: 'Nothing leaves: type how many.' };
    else await handOver(now, goods);
  } else await cancel();
  if (Object.keys(wrong.value).length > 0) void panel.value?.focusWrong();
}

/** What was to be paid first and is not is excused before the goods leave. */
async function handOver(now: PromiseView, goods: Map<number, Quantity>): Promise<void> {
  const why = excuse.value.trim();
  if (now.firstPayment > 0 && !why) {
    wrong.value = { excuse: 'Say why they leave without it: it is kept.' };
    return;
  }
  try {
    const allowed = now.firstPayment > 0 ? await promises.excuse(now, why) : now;
    if (allowed) await promises.bringGoods(allowed, goods);
  } catch (error) {
    wrong.value = { whole: problemWords(error) };
  }
}

async function cancel(): Promise<void> {
  const now = view.value;
  if (!now) return;
  const why = reason.value.trim();
  const kept = parseMoney(fee.value || '0', till.digits);
  if (!why) wrong.value = { reason: 'Say why: it is printed.' };
  else if (back.value === 0) {
    try {
      await promises.drop(now.id, why);
      notices.say(`${now.number} is cancelled: its goods can be sold again.`);
      work.leave();
    } catch (error) {
      wrong.value = { whole: problemWords(error) };
    }
  } else if (kept === null || kept < 0 || kept > agreedFee(now))
    wrong.value = { fee: `At most ${till.money(agreedFee(now))}, as it was agreed.` };
  else await promises.bringBack(now, kept, why);
}
</script>

<template>
  <FormPanel
    v-if="view"
    ref="panel"
    :title="`${PROMISE_NAMES[view.kind]} ${view.number}`"
    :done="doneWords"
    leave="Back"
    :busy
    :wrong="wrong.whole"
    @accept="accept"
    @leave="work.leave()"
  >
    <p>
      <b>{{ view.customer }}</b> · {{ PROMISE_STATES[view.state]
      }}<template v-if="view.placedAt">
        · {{ view.placedAt.name }}
        <span class="num whole-number">{{ view.placedAt.reference }}</span></template
      >
      <span v-if="view.overdueDays > 0" class="bad"> {{ counted(view.overdueDays, 'day') }} late</span>
    </p>
    <p v-if="view.note" class="noted">{{ view.note }}</p>
    <dl class="facts sums">
      <dt>Paid and held</dt>
      <dd class="num">{{ till.money(view.held) }}</dd>
      <dt>Left to pay</dt>
      <dd class="num">
        <b>{{ till.money(left) }}</b>
      </dd>
    </dl>
    <template v-if="open">
      <ChipChoice
        :model-value="promises.doing"
        label="What is done"
        :options="WORKS"
        @update:model-value="choose"
      />
      <BigField
        v-if="promises.doing === 'pay'"
        id="promise-amount"
        v-model="amount"
        label="How much"
        kind="figure"
        :wrong="wrong.amount"
      />
      <template v-else-if="promises.doing === 'hand-over'">
        <ExcuseFields
          v-if="view.order && view.firstPayment > 0"
          v-model="excuse"
          :missing="view.firstPayment"
          :wrong="wrong.excuse"
        />
        <label
          v-for="line in view.lines"
          :key="line.position"
          class="goods"
          :class="{ gone: line.handed >= line.quantity }"
        >
          <span
            >{{ line.name }} <span v-if="line.serial" class="num soft">No. {{ line.serial }}</span
            ><span v-if="line.handed > 0" class="soft">
              {{ formatQuantity(line.handed) }} of {{ formatQuantity(line.quantity) }} handed over</span
            ></span
          >
          <span v-if="line.handed < line.quantity && leaveProblem(line, here)" class="soft">{{
            line.order?.sent ? 'on the way' : `at ${line.order?.place}`
          }}</span>
          <HowManyField
            v-else-if="line.handed < line.quantity"
            :label="`How many of ${line.name}`"
            :model-value="quantities[line.position] ?? ''"
            @update:model-value="(typed) => (quantities[line.position] = typed)"
          />
        </label>
      </template>
      <template v-else>
        <p v-if="view.heldThere > 0" class="noted">
          <b>{{ till.money(view.heldThere) }}</b> {{ view.partnerOrder ? 'is owed by' : 'was paid at' }}
          {{ view.placedAt?.name
          }}{{ view.partnerOrder ? ', and is not any more when it is cancelled.' : ' and goes back there.' }}
        </p>
        <BigField id="promise-reason" v-model="reason" label="Why" maxlength="120" :wrong="wrong.reason" />
        <UsualWords v-model="reason" :words="REASONS" />
        <BigField
          v-if="back > 0"
          id="promise-fee"
          v-model="fee"
          label="Fee that is kept"
          kind="figure"
          :wrong="wrong.fee"
        />
      </template>
    </template>
  </FormPanel>
</template>

<style scoped>
.sums {
  grid-template-columns: 1fr auto;
}
.goods {
  display: grid;
  grid-template-columns: 1fr 84px;
  gap: 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: var(--hair);
}
.gone {
  color: var(--soft);
}
</style>
