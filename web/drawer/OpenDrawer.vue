<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { openingOf } from '../../core/drawer/opening.ts';
import { parseMoney } from '../../core/money.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import CountSheet from './CountSheet.vue';
import PastShifts from './PastShifts.vue';
import { useDrawerStore } from './drawerStore.ts';
import WaitButton from '../look/WaitButton.vue';
import { useWayOn } from '../look/wayOn.ts';

const drawer = useDrawerStore();
const till = useTillStore();
const notices = useNoticeStore();
const goOn = useWayOn();
const busy = ref(false);

const usual = computed(() => till.facts?.shop.openingFloat ?? 0);
const left = computed(() => drawer.state?.left ?? 0);
/** What was brought from the safe, as typed; below zero: put into it. */
const safe = ref('');
const wrong = ref('');
const fromSafe = computed(() => (safe.value.trim() === '' ? undefined : parseMoney(safe.value, till.digits)));
const opening = computed(() => openingOf(drawer.counted, left.value, fromSafe.value ?? undefined));
const uncounted = computed(() => Object.keys(drawer.pieces).length === 0);
const mayAsLeft = computed(() => uncounted.value && left.value > 0 && (till.facts?.shop.openAsLeft ?? false));

const openWords = computed(() => {
  if (mayAsLeft.value) return `As left: ${till.money(left.value)}`;
  return uncounted.value ? 'Count first' : `Open with ${till.money(drawer.counted)}`;
});

onMounted(async () => {
  await nextTick();
  document.querySelector<HTMLInputElement>('.sheet input')?.focus();
});

async function open(): Promise<void> {
  if (busy.value) return;
  wrong.value = '';
  if (uncounted.value && !mayAsLeft.value) {
    notices.failed('Count what is in the drawer first.');
    document.querySelector<HTMLInputElement>('.sheet input')?.focus();
    return;
  }
  if (fromSafe.value === null) {
    wrong.value = `Type an amount, for example ${till.example(50)}.`;
    return;
  }
  busy.value = true;
  try {
    const said = fromSafe.value;
    await drawer.open(
      mayAsLeft.value ? { asLeft: true } : { ...(said === undefined ? {} : { fromSafe: said }) },
    );
    notices.say(`The drawer is open with a float of ${till.money(drawer.state?.shift?.float ?? 0)}.`);
    await goOn('/counter');
  } catch (error) {
    notices.failed(problemWords(error));
    await drawer.look().catch(() => {});
  } finally {
    busy.value = false;
  }
}

useKeys('opening', { open });
</script>

<template>
  <div class="two">
    <CountSheet title="Count the float" @done="open" />
    <section class="zone scroll right-side">
      <div class="body">
        <h2 class="title">Open the drawer</h2>
        <p class="soft">Count what is in the drawer by notes and coins. Cash can be taken once it is open.</p>
        <dl class="facts">
          <dt>Left by the last shift</dt>
          <dd class="num">{{ till.money(drawer.state?.left ?? 0) }}</dd>
          <dt>Usual float</dt>
          <dd class="num">{{ till.money(usual) }}</dd>
          <dt>Counted now</dt>
          <dd class="num strong">{{ till.money(drawer.counted) }}</dd>
        </dl>
        <template v-if="!uncounted">
          <BigField
            id="from-safe"
            v-model="safe"
            label="Brought from the safe (with a minus: put into it)"
            kind="figure"
            :placeholder="till.money(opening.fromSafe)"
            :wrong
          />
          <p v-if="opening.fromSafe !== 0" class="note">
            {{
              opening.fromSafe > 0
                ? `${till.money(opening.fromSafe)} is recorded as brought from the safe.`
                : `${till.money(-opening.fromSafe)} is recorded as put into the safe.`
            }}
          </p>
          <p v-if="opening.variance !== 0" class="note" data-test="opening-variance">
            {{ till.money(Math.abs(opening.variance)) }} {{ opening.variance > 0 ? 'more' : 'less' }} than was
            left. It is recorded as a difference at opening.
          </p>
        </template>
        <div class="acts">
          <v-btn @click="drawer.clearCount()">Start the count again</v-btn>
          <WaitButton class="go" :loading="busy" :disabled="uncounted && !mayAsLeft" @click="open">
            {{ openWords }}
            <KeyHint of="opening.open" />
          </WaitButton>
        </div>
        <PastShifts />
      </div>
    </section>
  </div>
</template>

<style scoped>
.body {
  padding: 22px;
  display: grid;
  gap: 16px;
  align-content: start;
}
.strong {
  font-weight: 700;
}
.note {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 14px;
}
</style>
