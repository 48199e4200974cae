<script setup lang="ts">
import { counted, typedDayFormat } from '../../core/locale.ts';
import { useAskedList } from '../look/askedList.ts';
import DateField from '../look/DateField.vue';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { JournalRow } from '../../contract/journal.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useJournalStore } from './journalStore.ts';
import RowButton from '../look/RowButton.vue';

const { open } = defineProps<{ open: string | undefined }>();

const KINDS = [
  { value: 'sale', title: 'Sales' },
  { value: 'return', title: 'Returns' },
  { value: 'exchange', title: 'Exchanges' },
  { value: 'void', title: 'Voided' },
];

const journal = useJournalStore();
const till = useTillStore();
const router = useRouter();
const folded = ref(Object.entries(journal.filter).every(([key, value]) => key === 'find' || !value));

const more = useLook(journal.more);
void useLook(journal.findChoices)();
const { busy, load } = useAskedList(() => JSON.stringify(journal.filter), ref(0), journal.load);

/**
 * Whoever comes to the journal looks for something. At once, or not at all: a hand that types elsewhere is not moved.
 */
const search = useTemplateRef('search');
onMounted(() => {
  if (!open) search.value?.querySelector('input')?.focus();
});

/** Enter was struck before what was typed is answered. */
let entered = false;
watch(
  () => journal.filter.find,
  () => (entered = false),
);
function openNewest(): void {
  const [newest] = journal.rows ?? [];
  if (newest && journal.filter.find.trim()) void router.push(`/journal/${newest.id}`);
}
/** Enter opens the newest that fits what is typed, as soon as that is known: none that was found for other words. */
function openFirst(): void {
  entered = busy.value;
  if (entered) void load();
  else openNewest();
}
watch(
  busy,
  (waits) => {
    if (!waits && entered) openNewest();
    entered &&= waits;
  },
  { flush: 'post' },
);

const anyChosen = computed(() => Object.values(journal.filter).some(Boolean));
const countWords = computed(() => {
  const found = journal.counted;
  return found && `${found.more ? 'more than ' : ''}${counted(found.count, 'entry', 'entries')}`;
});
/** The days, each with its rows. */
const days = computed(() => {
  const found: { day: string; rows: JournalRow[] }[] = [];
  for (const row of journal.rows ?? []) {
    const day = till.day(new Date(row.finishedAt));
    if (found.at(-1)?.day !== day) found.push({ day, rows: [] });
    found.at(-1)?.rows.push(row);
  }
  return found;
});
const marks = { sale: '', return: 'Return', exchange: 'Exchange' } as const;
</script>

<template>
  <header class="head">
    <h1 id="journal-title" class="title">Journal</h1>
    <span class="soft"
      >{{ countWords }}
      <b v-if="journal.counted && !journal.counted.more" class="num">{{
        till.money(journal.counted.total)
      }}</b></span
    >
  </header>
  <div ref="search" class="find">
    <v-text-field
      v-model="journal.filter.find"
      label="Number, item, customer, note, amount, card"
      placeholder="1-0001, bowl, about 40, *4242"
      @focus="($event.target as HTMLInputElement).select()"
      @keydown.enter.prevent="openFirst"
      clearable
      @click:clear="journal.filter.find = ''"
    />
    <v-btn :aria-expanded="!folded" @click="folded = !folded">{{ folded ? 'More' : 'Fewer' }}</v-btn>
  </div>
  <div v-if="!folded" class="choices">
    <DateField v-model="journal.filter.from" label="From" />
    <DateField v-model="journal.filter.to" label="Until" />
    <v-select v-model="journal.filter.kind" :items="KINDS" label="Kind" clearable />
    <v-select
      v-model="journal.filter.tillId"
      :items="journal.choices.tills"
      item-title="name"
      item-value="id"
      label="Till"
      clearable
    />
    <v-select
      v-model="journal.filter.staffId"
      :items="journal.choices.staff"
      item-title="name"
      item-value="id"
      label="Cashier"
      clearable
    />
    <v-select
      v-model="journal.filter.typeId"
      :items="till.facts?.payment.types ?? []"
      item-title="name"
      item-value="id"
      label="Paid with"
      clearable
    />
  </div>
  <div v-if="days.length > 0" class="scroll rows">
    <section v-for="{ day, rows } in days" :key="day">
      <h2 class="label day">{{ day }}</h2>
      <ol>
        <li v-for="row in rows" :key="row.id">
          <RowButton
            :class="{ gone: row.voided }"
            :on="row.id === open"
            @click="router.push(`/journal/${row.id}`)"
          >
            <span class="num when">{{ till.time(row.finishedAt) }}</span>
            <span class="what"
              ><span
                ><b class="num">{{ row.number }}</b>
                <b v-if="row.voided" class="mark bad">{{
                  row.voided === 'done' ? 'Voided' : 'Being voided'
                }}</b>
                <b v-else-if="marks[row.kind]" class="mark">{{ marks[row.kind] }}</b>
                <span v-if="row.customer" class="who">{{ row.customer }}</span></span
              ><span class="soft"
                >{{ row.firstLine }}{{ row.lines > 1 ? ` and ${row.lines - 1} more` : '' }}</span
              ></span
            >
            <span class="num amount" :class="{ bad: row.total < 0 }">{{ till.money(row.total) }}</span>
          </RowButton>
        </li>
      </ol>
    </section>
    <v-btn v-if="journal.next" class="older" @click="more">Older</v-btn>
  </div>
  <div v-else-if="journal.rows" class="empty">
    <b>{{ anyChosen ? 'Nothing fits' : 'Nothing has been rung up yet' }}</b>
    <p v-if="anyChosen">
      Numbers look like 1-0001, days like {{ typedDayFormat() }}, amounts like {{ till.example(38.2) }} or
      about 40, the last four of a card like *4242.
    </p>
    <p v-else>Finished sales appear here at once.</p>
    <v-btn v-if="anyChosen" @click="journal.clear()">Show everything</v-btn>
  </div>
</template>

<style scoped>
.find {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  padding: 12px 18px;
  border-bottom: var(--group);
}
.choices {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 12px;
  padding: 12px 18px;
  border-bottom: var(--group);
  background: var(--paper);
}
.rows {
  flex: 1;
}
.day {
  position: sticky;
  top: 0;
  padding: 6px 18px;
  background: var(--paper);
  border-bottom: var(--hair);
}
.gone .amount {
  text-decoration: line-through;
}
.what > span {
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mark {
  margin-left: 8px;
  padding: 0 6px;
  border: 1.5px solid currentcolor;
  font-size: 13px !important;
}
.who {
  margin-left: 8px;
}
.when {
  width: 84px;
  color: var(--soft);
  font-size: 14px;
}
.older {
  margin: 12px 18px;
}
</style>
