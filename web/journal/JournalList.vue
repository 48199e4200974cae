<script setup lang="ts">
import { counted, typedDayFormat } from '../../core/locale.ts';
import { useAskedList } from '../look/askedList.ts';
import DateField from '../look/DateField.vue';
import { useFirstFound } from '../look/firstFound.ts';
import ListColumn from '../look/ListColumn.vue';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { JournalRow } from '../../contract/journal.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useJournalStore } from './journalStore.ts';
import JournalTabs from './JournalTabs.vue';

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

const show = ({ id }: JournalRow) => router.push(`/journal/${id}`);
/** Enter opens the newest that fits what is typed. */
const openNewest = useFirstFound(
  () => journal.filter.find,
  { busy, load },
  () => {
    const [newest] = journal.rows ?? [];
    if (newest && journal.filter.find.trim()) void show(newest);
  },
);

const anyChosen = computed(() => Object.values(journal.filter).some(Boolean));
const countWords = computed(() => {
  const found = journal.counted;
  return found && `${found.more ? 'more than ' : ''}${counted(found.count, 'entry', 'entries')}`;
});
/** The days, each with its rows. */
const days = computed(() => {
  const found: { words: string; rows: JournalRow[] }[] = [];
  for (const row of journal.rows ?? []) {
    const words = till.day(new Date(row.finishedAt));
    if (found.at(-1)?.words !== words) found.push({ words, rows: [] });
    found.at(-1)?.rows.push(row);
  }
  return found;
});
const marks = { sale: '', return: 'Return', exchange: 'Exchange' } as const;
</script>

<template>
  <ListColumn
    :narrowed="anyChosen"
    @widen="journal.clear()"
    title="Journal"
    :counted="countWords"
    :known="journal.rows !== null"
    :parts="days"
    :open
    :more="journal.next ? 'Older' : ''"
    @open="show"
    :pass="({ id }) => router.replace(`/journal/${id}`)"
    @more="more"
  >
    <template #above><JournalTabs /></template>
    <template #sum
      ><b v-if="journal.counted && !journal.counted.more" class="num">{{
        till.money(journal.counted.total)
      }}</b></template
    >
    <template #find>
      <div class="looked-for">
        <v-text-field
          v-model="journal.filter.find"
          data-search
          label="Number, item, customer, note, amount, card"
          placeholder="1-0001, bowl, about 40, *4242"
          @focus="($event.target as HTMLInputElement).select()"
          @keydown.enter.prevent="openNewest"
          clearable
          @click:clear="journal.filter.find = ''"
        />
        <v-btn :aria-expanded="!folded" @click="folded = !folded">{{ folded ? 'More' : 'Fewer' }}</v-btn>
      </div>
      <div v-if="!folded" class="side-by-side">
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
    </template>
    <template #row="{ row }">
      <span class="num when">{{ till.time(row.finishedAt) }}</span>
      <span class="what"
        ><span
          ><b class="num">{{ row.number }}</b>
          <b v-if="row.voided" class="mark bad">{{ row.voided === 'done' ? 'Voided' : 'Being voided' }}</b>
          <b v-else-if="marks[row.kind]" class="mark">{{ marks[row.kind] }}</b>
          <span v-if="row.customer" class="who">{{ row.customer }}</span></span
        ><span class="soft"
          >{{ row.firstLine }}{{ row.lines > 1 ? ` and ${row.lines - 1} more` : '' }}</span
        ></span
      >
      <span class="num amount" :class="{ bad: row.total < 0, gone: row.voided }">{{
        till.money(row.total)
      }}</span>
    </template>
    <template #empty>
      <b>Nothing has been rung up yet</b>
      <p>Finished sales appear here at once.</p>
    </template>
    <template #hint>
      <p>
        Numbers look like 1-0001, days like {{ typedDayFormat() }}, amounts like {{ till.example(38.2) }} or
        about 40, the last four of a card like *4242.
      </p>
    </template>
  </ListColumn>
</template>

<style scoped>
.looked-for {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
}
.amount.gone {
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
</style>
