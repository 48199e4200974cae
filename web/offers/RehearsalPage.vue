<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { dayLater } from '../../core/day.ts';
import { computed, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import DateField from '../look/DateField.vue';
import type { OfferDraft, Rehearsal } from '../../contract/offers.ts';
import { useJob } from '../notices/job.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useOffersStore } from './offersStore.ts';
import RehearsalChart from './RehearsalChart.vue';
import ChipButton from '../look/ChipButton.vue';
import ProgressBar from '../look/ProgressBar.vue';

const WEEKS = [2, 4, 8, 12];

const route = useRoute();
const offers = useOffersStore();
const till = useTillStore();
const notices = useNoticeStore();
const { wrong, attempt } = useAttempt();
const offer = computed(() => offers.offers?.find(({ id }) => String(id) === route.params.id) ?? null);
const { job: result, follow } = useJob(
  ({ id }: Rehearsal) => offers.rehearsal(id),
  ({ state }) => state === 'running',
);
const found = computed(() => result.value?.findings ?? null);
const running = computed(() => result.value?.state === 'running');

const dayBefore = (days: number) => dayLater(till.today(), { days: -days });
const from = ref(dayBefore(28));
const to = ref(dayBefore(1));

function chooseWeeks(weeks: number): void {
  from.value = dayBefore(weeks * 7);
  to.value = dayBefore(1);
}

onMounted(useLook(offers.load));

async function run(): Promise<void> {
  const kept = offer.value;
  if (!kept) return;
  const { id, state: _state, used: _used, codes: _codes, ...draft } = kept;
  await attempt(
    offers
      .rehearse(draft as OfferDraft, id, from.value, to.value)
      .then((started) => void seeThrough(started)),
    '',
  );
}

async function seeThrough(started: Rehearsal): Promise<void> {
  try {
    await follow(started);
    if (result.value?.state === 'failed') notices.failed('The rehearsal failed. Run it again.');
  } catch (error) {
    notices.failed(problemWords(error));
  }
}

async function cancel(): Promise<void> {
  if (result.value)
    await attempt(offers.cancelRehearsal(result.value.id), 'Cancelled. What was found so far stays here.');
}
</script>

<template>
  <div class="rehearsal scroll">
    <header>
      <router-link :to="`/offers/${String(route.params.id)}`" class="word">Back to the offer</router-link>
      <h1 class="title">Rehearsal: {{ offer?.name }}</h1>
    </header>
    <p v-if="offer">{{ offers.words(offer) }}</p>
    <p class="soft">
      Prices every basket of these days again, as if the offer had applied: whatever its own dates are, and to
      everybody who would need a code or points for it.
    </p>
    <form class="ask" data-looks novalidate @submit.prevent="run">
      <DateField v-model="from" label="From" :wrong="wrong.from" />
      <DateField v-model="to" label="Until" :wrong="wrong.to" />
      <ChipButton v-for="weeks in WEEKS" :key="weeks" @click="chooseWeeks(weeks)">
        {{ weeks }} weeks
      </ChipButton>
      <v-btn v-if="!running" class="go" type="submit" :disabled="!offer">Run it</v-btn>
      <v-btn v-else class="stop" @click="cancel">Cancel</v-btn>
    </form>
    <ProgressBar
      v-if="result && running"
      :done="result.done"
      :of="result.baskets"
      label="Baskets rung up again"
    >
      {{ result.done }} of {{ result.baskets }} baskets
    </ProgressBar>
    <template v-if="found && result">
      <p v-if="result.state === 'done' && result.baskets === 0" class="empty">
        <b>No baskets on these days</b>Choose other days.
      </p>
      <dl class="figures">
        <div>
          <dt>Would have applied</dt>
          <dd class="num">{{ found.applied }}</dd>
          <dd>of {{ counted(result.done, 'basket') }}, {{ counted(found.uses, 'time') }}</dd>
        </div>
        <div>
          <dt>Would have cost</dt>
          <dd class="num">{{ till.money(found.cost) }}</dd>
          <dd>{{ till.money(found.reduction) }} off, less what other offers lose</dd>
        </div>
        <div>
          <dt>Net sales</dt>
          <dd class="num">{{ till.money(found.net.after) }}</dd>
          <dd>instead of {{ till.money(found.net.before) }}</dd>
        </div>
        <div>
          <dt>Margin</dt>
          <dd class="num">{{ till.money(found.margin.after) }}</dd>
          <dd>
            instead of {{ till.money(found.margin.before)
            }}{{
              found.costUnknown > 0 ? `, ${counted(found.costUnknown, 'line')} of unknown cost left out` : ''
            }}
          </dd>
        </div>
      </dl>
      <RehearsalChart v-if="found.days.length > 0" :days="found.days" />
      <div class="tables">
        <section aria-labelledby="others-title">
          <h2 id="others-title" class="label">What it does to other offers</h2>
          <p v-if="found.others.length === 0" class="soft">Nothing: no other offer gives more or less.</p>
          <table v-else>
            <thead>
              <tr>
                <th>Offer</th>
                <th class="right">Gave</th>
                <th class="right">Would give</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="other in found.others" :key="other.offerId">
                <td>{{ other.name }}</td>
                <td class="num right">{{ till.money(other.before) }}</td>
                <td class="num right">{{ till.money(other.after) }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section aria-labelledby="changed-title">
          <h2 id="changed-title" class="label">Baskets that change most</h2>
          <p v-if="found.changed.length === 0" class="soft">None.</p>
          <template v-else>
            <table>
              <thead>
                <tr>
                  <th>Receipt</th>
                  <th>Day</th>
                  <th class="right">Cost</th>
                  <th class="right">Would cost</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="one in found.changed.slice(0, 12)" :key="one.saleId">
                  <td>
                    <router-link :to="`/journal/${one.saleId}`" class="num">{{ one.number }}</router-link>
                  </td>
                  <td>{{ till.calendarDay(one.day) }}</td>
                  <td class="num right">{{ till.money(one.before) }}</td>
                  <td class="num right">{{ till.money(one.after) }}</td>
                </tr>
              </tbody>
            </table>
            <p>
              <a :href="`/api/offers/rehearsals/${result.id}/baskets.csv`" class="word">All of them as CSV</a>
            </p>
          </template>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.rehearsal {
  padding: 18px 22px;
  /* The chart is drawn at the width that it finds: a bar that comes afterwards must not take of it. */
  scrollbar-gutter: stable;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  align-content: start;
}
header {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.ask .v-input {
  flex: 0 1 190px;
  min-width: 170px;
}
.figures {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  border: var(--group);
  background: var(--surface);
}
.figures div {
  padding: 12px 16px;
}
.figures div + div {
  border-left: var(--group);
}
.figures dt {
  font-weight: 700;
  font-size: 14px;
}
.figures .num {
  font-size: 30px;
  font-weight: 600;
}
.figures dd:last-child {
  font-size: 14px;
}
.tables {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 22px;
}
table {
  background: var(--surface);
}
th {
  border-bottom: var(--group);
}
th,
td {
  padding: 5px 8px;
}
td a {
  color: var(--blue);
}
</style>
