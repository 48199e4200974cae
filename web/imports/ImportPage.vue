<script setup lang="ts">
import { computed, onUnmounted, ref, useTemplateRef, watch } from 'vue';
import type { ImportOutcome, ImportSubject } from '../../contract/imports.ts';
import { itemColumns } from '../../core/goods/itemColumns.ts';
import { listColumns } from '../../core/people/columns.ts';
import { MOST_ADDRESSES } from '../../core/people/record.ts';
import { counted, formatCount } from '../../core/locale.ts';
import FileField from '../look/FileField.vue';
import { formWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useImportStore } from './importStore.ts';
import { textOf } from './readFile.ts';
import RowButton from '../look/RowButton.vue';
import WaitButton from '../look/WaitButton.vue';
import ProgressBar from '../look/ProgressBar.vue';

const { subject } = defineProps<{ subject: ImportSubject }>();

const store = useImportStore();
const field = useTemplateRef<HTMLInputElement>('field');
const shown = ref<ImportOutcome | ''>('');
const doubles = ref(false);
const wrong = ref('');
const busy = ref(false);
/** A list that is in, or was put away, was looked at: the page is free for the next one. */
const again = ref(false);

const view = computed(() => (again.value ? null : store.view));
const state = computed(() => view.value?.state);
const stop = store.follow();
onUnmounted(stop);
void useLook(() => store.begin(subject))();

async function tell(work: Promise<unknown>): Promise<void> {
  wrong.value = '';
  busy.value = true;
  await work.catch((error: unknown) => {
    wrong.value = formWords(error);
  });
  busy.value = false;
}

const OUTCOMES: Readonly<Record<ImportOutcome, string>> = {
  new: 'New',
  changed: 'Changed',
  same: 'As they are',
  double: 'Likely known',
  refused: 'Refused',
};
const counts = computed(() =>
  Object.entries(OUTCOMES).map(([value, words]) => ({
    value: value as ImportOutcome,
    words,
    count: view.value?.counts[value as ImportOutcome] ?? 0,
  })),
);
const written = computed(() => {
  const { new: fresh = 0, changed = 0, double = 0 } = view.value?.counts ?? {};
  return fresh + changed + (doubles.value ? double : 0);
});

async function take(file: File | undefined): Promise<void> {
  if (!file) return;
  again.value = false;
  doubles.value = false;
  const content = textOf(new Uint8Array(await file.arrayBuffer()));
  await tell(store.start(file.name, content));
  if (field.value) field.value.value = '';
}

watch(
  () => [state.value, shown.value, view.value?.id],
  () => {
    if (view.value && (state.value === 'ready' || state.value === 'done'))
      void tell(store.look(view.value.id, shown.value));
  },
);

/** What lists of a subject hold, and where they are at home. */
const SUBJECTS = {
  customers: {
    title: 'Import customers',
    home: { words: 'All people', to: '/people' },
    template: '/api/people/template.csv',
    columns: listColumns(MOST_ADDRESSES),
  },
  goods: {
    title: 'Import goods',
    home: { words: 'All goods', to: '/goods' },
    template: '/api/goods/template.csv',
    columns: itemColumns(),
  },
} as const;
const about = SUBJECTS[subject];
const choices: { value: string | null; title: string }[] = [
  { value: null, title: 'Pass it over' },
  ...about.columns.map(({ column, heading }) => ({ value: column, title: heading })),
];
function choose(at: number, column: string | null): void {
  const { id = '', columns: now = [] } = view.value ?? {};
  // What another column was before is free then.
  const next = now.map((one, place) => (place === at ? column : one === column ? null : one));
  void tell(store.choose(id, next));
}
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="import-title">
      <header class="head">
        <router-link class="word" :to="about.home.to">{{ about.home.words }}</router-link>
        <h1 id="import-title" class="title">{{ about.title }}</h1>
      </header>
      <div class="scroll side">
        <template v-if="!view || state === 'dropped' || state === 'unreadable'">
          <p>
            A list with commas, semicolons or tabs between its columns, headings first. It is looked through
            before anything is written.
          </p>
          <FileField
            label="Choose a file, or drop it here"
            accept=".csv,.tsv,.txt,text/csv"
            :disabled="busy"
            @chosen="([file]) => take(file)"
          />
          <p v-if="state === 'unreadable'" class="bad" role="alert">
            {{ view?.name }} cannot be read: {{ view?.words }}
          </p>
          <a class="word" :href="about.template">An empty list with all headings</a>
        </template>
        <template v-else>
          <p>
            <b>{{ view.name }}</b><span class="soft under"
              >{{ counted(view.rows, 'line') }}, chosen by {{ view.who }}</span
            >
          </p>
          <ProgressBar v-if="state === 'reading'" :done="view.looked" label="Looking it through">
            Looking it through: {{ formatCount(view.looked) }} lines so far …
          </ProgressBar>
          <template v-if="state === 'writing'">
            <ProgressBar :done="view.written" :of="view.rows" label="Writing">
              {{ formatCount(view.written) }} of {{ formatCount(view.rows) }} lines are written
            </ProgressBar>
            <p role="status">Selling goes on meanwhile.</p>
          </template>
          <p v-if="state === 'done'" role="status"><b>It is in.</b></p>
          <ul class="ruled">
            <li v-for="{ value, words, count } in counts" :key="value">
              <RowButton
                picks
                :on="shown === value"
                :disabled="value === 'same' || count === 0"
                @click="shown = shown === value ? '' : value"
              >
                <span class="what">{{ words }}</span><span class="num">{{ formatCount(count) }}</span>
              </RowButton>
            </li>
          </ul>
          <template v-if="state === 'ready'">
            <v-checkbox
              v-if="view.counts.double > 0"
              v-model="doubles"
              label="Create those as well who are likely known"
              hide-details
              density="compact"
            />
            <div class="acts">
              <v-btn :disabled="busy" @click="tell(store.drop(view.id))">Put it away</v-btn>
              <WaitButton
                class="go"
                :loading="busy"
                :disabled="written === 0"
                @click="tell(store.accept(view.id, doubles))"
                >Write {{ formatCount(written) }}</WaitButton
              >
            </div>
          </template>
          <v-btn v-if="state === 'done'" @click="again = true">Import another list</v-btn>
        </template>
        <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      </div>
    </section>
    <section class="zone" aria-label="What the list says">
      <div v-if="view && view.headings.length > 0 && state !== 'dropped'" class="scroll rest">
        <h2 class="label">Columns</h2>
        <div class="columns">
          <div v-for="(heading, at) in view.headings" :key="at" class="column">
            <v-select
              :model-value="view.columns[at] ?? null"
              :label="heading || `Column ${at + 1}`"
              :items="choices"
              :disabled="busy || state !== 'ready'"
              @update:model-value="choose(at, $event)"
            />
            <span class="soft example">{{
              view.examples
                .map((row) => row[at])
                .filter(Boolean)
                .join(' · ')
            }}</span>
          </div>
        </div>
        <template v-if="store.lines.length > 0">
          <h2 class="label">{{ shown ? OUTCOMES[shown] : 'Lines that change something' }}</h2>
          <table>
            <thead class="hidden-text">
              <tr>
                <th>Line</th>
                <th>Name</th>
                <th>What becomes of it</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="line in store.lines" :key="line.line">
                <td class="num soft">{{ line.line }}</td>
                <td>
                  <b>{{ line.name || 'no name' }}</b>
                </td>
                <td :class="{ bad: line.outcome === 'refused' }">
                  {{ OUTCOMES[line.outcome] }}<template v-if="line.words">: {{ line.words }}</template>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="store.lines.length === 100" class="soft">These are the first hundred.</p>
        </template>
      </div>
      <p v-else class="empty">What the list says is shown here.</p>
    </section>
  </div>
</template>

<style scoped>
.side,
.rest {
  display: grid;
  gap: 14px;
  padding: 16px 18px 24px;
  align-content: start;
  grid-template-columns: minmax(0, 1fr);
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px;
}
.column {
  min-width: 0;
}
.example {
  display: block;
  font-size: 14px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
