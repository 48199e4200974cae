<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { ClosedShiftView, VarianceFound } from '../../contract/drawer.ts';
import { varianceWords } from '../../core/drawer/shiftReport.ts';
import { plainMoney, parseMoney } from '../../core/money.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import PaperView from '../journal/PaperView.vue';
import { formWords, problemWords } from '../net/problem.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ExplanationList from './ExplanationList.vue';
import { useDrawerStore } from './drawerStore.ts';
import WaitButton from '../look/WaitButton.vue';

const drawer = useDrawerStore();
const session = useSessionStore();
const till = useTillStore();
const route = useRoute();
const router = useRouter();
const notices = useNoticeStore();
const id = Number(route.params.id);
const shift = shallowRef<ClosedShiftView | null>(null);
/** What the difference may come from; nothing before that is looked up. */
const explanations = shallowRef<VarianceFound['explanations'] | null>(null);
const manages = computed(() => session.may('shift.history'));
const left = computed(() => (shift.value ? shift.value.variance - shift.value.explained : 0));
const amount = ref('');
const reason = ref('');
const wrong = ref('');
const busy = ref(false);
let noteId = newId();

const load = useLook(
  async () => {
    shift.value = await drawer.closedShift(id);
    amount.value = plainMoney(left.value, till.digits);
    if (manages.value && left.value !== 0) explanations.value = await drawer.explainClosed(id);
  },
  (error) => {
    explanations.value ??= [];
    notices.failed(problemWords(error));
  },
);
void load();

function follow({ words }: VarianceFound['explanations'][number]): void {
  reason.value = words.slice(0, 200);
  document.querySelector<HTMLInputElement>('#note-reason')?.focus();
}

async function note(): Promise<void> {
  const typed = parseMoney(amount.value, till.digits);
  wrong.value =
    typed === null || typed === 0
      ? 'Type the amount, with its sign.'
      : reason.value.trim()
        ? ''
        : 'Say what it was.';
  if (wrong.value || typed === null || busy.value) return;
  busy.value = true;
  try {
    await drawer.noteVariance(id, noteId, typed, reason.value.trim());
    noteId = newId();
    reason.value = '';
    notices.say('Noted and booked.');
    await load();
  } catch (error) {
    wrong.value = formWords(error);
  } finally {
    busy.value = false;
  }
}

useKeys('report', { toDrawer: () => router.push('/drawer') });
</script>

<template>
  <div class="report">
    <header class="head">
      <h1 class="title">{{ shift?.paper.title ?? 'Shift report' }}</h1>
      <div class="acts">
        <v-btn :href="`/api/drawer/shifts/${id}/report.pdf`" target="_blank">PDF</v-btn>
        <v-btn :href="`/api/drawer/shifts/${id}/report.txt`" target="_blank">Text</v-btn>
        <v-btn v-if="manages" to="/drawer/shifts">All shifts</v-btn>
        <v-btn class="go" to="/drawer">To the drawer <KeyHint of="report.toDrawer" /></v-btn>
      </div>
    </header>
    <div v-if="shift" class="body">
      <div class="scroll paper" tabindex="0" role="region" aria-label="Report">
        <PaperView :paper="shift.paper" />
      </div>
      <aside class="scroll side" aria-label="About the difference">
        <p class="verdict" :class="{ off: left !== 0 }">
          <b>{{
            shift.variance === 0
              ? 'The drawer fitted.'
              : `The drawer was ${varianceWords(shift.variance, till.digits)}.`
          }}</b>
          <template v-if="shift.explained !== 0">
            {{ till.money(shift.explained) }} is explained, {{ till.money(left) }} is not.</template
          >
        </p>
        <template v-if="manages">
          <ExplanationList
            v-if="left !== 0"
            :explanations="explanations ?? []"
            :follow-words="() => 'It was this'"
            :busy="busy"
            @follow="follow"
          />
          <p v-if="left !== 0 && !explanations" class="soft" role="status">Looking what it was …</p>
          <form v-else-if="left !== 0" class="note" novalidate @submit.prevent="note">
            <h2 class="label">Say what it was</h2>
            <v-text-field v-model="amount" label="Amount, below zero for short" inputmode="decimal" />
            <v-text-field
              id="note-reason"
              v-model="reason"
              label="What it was"
              maxlength="200"
              :error-messages="wrong"
            />
            <WaitButton class="go" type="submit" :loading="busy">Note and book it</WaitButton>
          </form>
          <section v-if="shift.notes.length > 0">
            <h2 class="label">Noted since</h2>
            <p v-for="(one, at) in shift.notes" :key="at">
              <span class="num">{{ till.money(one.amount) }}</span> {{ one.reason }}
              <span class="soft">{{ one.by }}, {{ till.time(one.at, 'full') }}</span>
            </p>
          </section>
          <section v-if="shift.comparisons.length > 1">
            <h2 class="label">Counted and compared</h2>
            <p class="num">{{ shift.comparisons.map((counted) => till.money(counted)).join(' → ') }}</p>
          </section>
        </template>
        <section v-if="shift.handovers.length > 0">
          <h2 class="label">Handed over</h2>
          <p v-for="(one, at) in shift.handovers" :key="at">
            {{ till.time(one.at, 'full') }}: {{ one.from }} to {{ one.to }},
            {{ varianceWords(one.counted - one.expected, till.digits) }}
            <span class="soft">{{ one.note }}</span>
          </p>
        </section>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.report {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.head {
  background: var(--surface);
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(360px, 480px);
  flex: 1;
  min-height: 0;
}
.paper,
.side {
  padding: 22px;
}
.side {
  border-left: var(--rule);
  display: grid;
  gap: 16px;
  align-content: start;
}
.verdict {
  border: var(--rule);
  padding: 12px 16px;
  background: var(--surface);
}
.verdict.off {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
}
.note {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.note > * {
  width: 100%;
}
/* On a tablet held upright the paper stands above what is said about it. */
@media (max-width: 900px) {
  .body {
    grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
  .side {
    border-left: 0;
    border-top: var(--rule);
  }
}
</style>
