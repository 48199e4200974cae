<script setup lang="ts" generic="Row extends { id: number | string }">
import { mdiArrowDown, mdiArrowUp } from '@mdi/js';
import { useEventListener } from '@vueuse/core';
import { computed, useSlots, useTemplateRef } from 'vue';
import { counted } from '../../core/locale.ts';
import { handIsFree } from '../keys/entry.ts';
import { useKeys } from '../keys/useKeys.ts';
import CheckField from './CheckField.vue';
import { useInSight } from './inSight.ts';
import NoRows from './NoRows.vue';
import { usePointedRow } from './pointedRow.ts';
import { useSearchFirst } from './searchFirst.ts';

/**
 * A list over the whole page: what narrows it, its rows as a table, pages, and what can be done with it. Arrows
 * choose a row, Enter opens it, also from the field that is marked `data-search`; where rows can be picked to do
 * something with several, Space picks the chosen one. Each column may have a slot of its own name; without it the
 * row's value stands there. What is looked at in another way stands in the place of the rows (`instead`).
 */
const {
  rows,
  count,
  perPage,
  columns,
  picked = undefined,
  busy = false,
  narrowed = false,
} = defineProps<{
  title: string;
  /** What its rows are: `1 customer`, `3 customers`. */
  of: readonly [one: string, many: string];
  columns: readonly {
    key: string;
    words: string;
    right?: boolean;
    width?: string;
    /** In which orders a press on its heading puts the rows, one after the other; an empty one as they come. */
    sorts?: readonly string[];
  }[];
  rows: readonly Row[];
  /** How many there are on all pages; nothing before that is known. */
  count: number | null;
  perPage: number;
  /** Which rows are picked; without it none can be. */
  picked?: ReadonlyMap<Row['id'], unknown> | undefined;
  busy?: boolean;
  /** Something narrows it: where nothing fits, a press asks for everything (`widen`). */
  narrowed?: boolean;
  /** What a row is called by those who cannot see it. */
  nameOf: (row: Row) => string;
}>();
const page = defineModel<number>('page', { default: 0 });
/** The order of the rows, as one of the columns says it; empty as they come. */
const sort = defineModel<string>('sort', { default: '' });
const emit = defineEmits<{ open: [row: Row]; pick: [row: Row]; pickPage: []; widen: [] }>();

/** The column of the marks. */
const PICK = 'picked';
const slots = useSlots();
const { at, move, first, enter } = usePointedRow(
  () => rows,
  () => busy,
  (row) => emit('open', row),
);
const list = useTemplateRef('list');
useInSight(list, 'tr.on', () => at.value);
useSearchFirst(list);
const pages = computed(() => Math.max(1, Math.ceil((count ?? 0) / perPage)));
const headers = computed(() => [
  ...(picked
    ? [{ key: PICK, title: 'Picked', sortable: false, align: 'start' as const, width: '56px' }]
    : []),
  ...columns.map(({ key, words, right, width }) => ({
    key,
    title: words,
    sortable: false,
    align: right ? ('end' as const) : ('start' as const),
    // Names may be narrow beside a form, but stay words.
    ...(width ? { width } : right ? {} : { minWidth: '150px' }),
  })),
]);
const sortable = computed(() => columns.filter(({ sorts }) => sorts));
const isSorted = (orders: readonly string[] = []) => sort.value !== '' && orders.includes(sort.value);
const arrow = (order: string) => (order.startsWith('-') ? mdiArrowUp : mdiArrowDown);
function sortBy(orders: readonly string[] = []): void {
  sort.value = orders[(orders.indexOf(sort.value) + 1) % orders.length] ?? '';
  page.value = 0;
}
const isPicked = (row: Row): boolean => picked?.has(row.id) ?? false;
const allPicked = computed(() => rows.length > 0 && rows.every(isPicked));
const textOf = (row: Row, key: string): string => String(Reflect.get(row, key) ?? '');

function turn(by: 1 | -1): void {
  const next = page.value + by;
  if (next < 0 || next >= pages.value) return;
  page.value = next;
  first();
}
/** An arrow came last: what follows is meant for its row, unless the hand is in another field. */
let byArrow = false;
useEventListener(document, ['focusin', 'input'], () => (byArrow = false));
const looking = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('[data-search]') !== null;
const forRow = (event: Event): boolean =>
  handIsFree(event) ||
  looking(event.target) ||
  (event.target instanceof HTMLElement && event.target.matches('a, button'));
useKeys(
  'list',
  {
    move: (_event, nth) => {
      byArrow = true;
      move(nth === 0 ? -1 : 1);
    },
    turn: (_event, nth) => {
      byArrow = true;
      turn(nth === 0 ? -1 : 1);
    },
    pick: (event) => {
      const row = rows[at.value];
      if (!picked || !row || !byArrow || !forRow(event)) return false;
      emit('pick', row);
    },
    // In the field that is for looking without an arrow, too; in others Enter is theirs.
    open: (event) => (byArrow ? forRow(event) : looking(event.target)) && enter(),
  },
  { when: () => !slots.instead },
);
/** A press anywhere in a row opens it, but not beside the box that picks it. */
function press({ target }: Event, { item, index }: { item: Row; index: number }): void {
  if (target instanceof Element && target.closest('td')?.querySelector('.check-field')) return;
  at.value = index;
  emit('open', item);
}
const rowProps = ({ index }: { index: number }) => ({
  class: { on: index === at.value },
  'aria-current': index === at.value || undefined,
});
</script>

<template>
  <div ref="list" class="list">
    <header class="head">
      <h1 class="title">{{ title }}</h1>
      <span class="soft" role="status">{{
        count === null ? (busy ? 'Looking …' : '') : counted(count, ...of)
      }}</span>
      <div class="acts"><slot name="acts" /></div>
    </header>
    <div v-if="slots.filters" class="filters"><slot name="filters" /></div>
    <slot name="instead">
      <v-data-table-server
        v-if="rows.length > 0"
        class="table"
        :headers
        :items="[...rows]"
        :items-length="count ?? 0"
        :items-per-page="perPage"
        :loading="busy"
        :row-props="rowProps"
        density="compact"
        fixed-header
        hide-default-footer
        @click:row="press"
      >
        <template #[`header.${PICK}`]>
          <CheckField
            unseen
            label="Pick the whole page"
            :model-value="allPicked"
            @update:model-value="emit('pickPage')"
          />
        </template>
        <template #[`item.${PICK}`]="{ item }">
          <CheckField
            unseen
            :label="`Pick ${nameOf(item)}`"
            :model-value="isPicked(item)"
            @update:model-value="emit('pick', item)"
          />
        </template>
        <template v-for="{ key, words, sorts } in sortable" :key="key" #[`header.${key}`]>
          <button
            type="button"
            class="heading"
            title="In the order of this column"
            :aria-pressed="isSorted(sorts)"
            @click="sortBy(sorts)"
          >
            {{ words }}<v-icon v-if="isSorted(sorts)" :icon="arrow(sort)" size="16" />
          </button>
        </template>
        <template v-for="{ key, right } in columns" :key="key" #[`item.${key}`]="{ item }">
          <!-- For the keyboard and those who cannot see: a press anywhere in the row opens it. -->
          <button v-if="key === columns[0]?.key" type="button" class="open">
            <slot v-if="slots[key]" :name="key" :row="item" /><template v-else>{{
              textOf(item, key)
            }}</template>
          </button>
          <span v-else :class="{ num: right }">
            <slot v-if="slots[key]" :name="key" :row="item" /><template v-else>{{
              textOf(item, key)
            }}</template>
          </span>
        </template>
      </v-data-table-server>
      <NoRows v-else-if="!busy && count !== null" class="none" :narrowed @widen="emit('widen')">
        <slot name="empty" />
      </NoRows>
      <footer v-if="pages > 1" class="pages">
        <v-btn :disabled="page === 0" @click="turn(-1)">Before</v-btn>
        <span class="num">{{ page + 1 }} of {{ pages }}</span>
        <v-btn :disabled="page + 1 >= pages" @click="turn(1)">Next</v-btn>
      </footer>
    </slot>
  </div>
</template>

<style scoped>
.list {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  background: var(--surface);
}
/* Beside a form what can be done stands beneath the title. */
.head {
  flex-wrap: wrap;
  white-space: nowrap;
}
.head .acts {
  margin-left: auto;
}
.filters {
  display: grid;
  gap: 10px;
  padding: 12px 18px;
  border-bottom: var(--group);
}
.table {
  flex: 1;
  min-height: 0;
  overflow: hidden;
}
.table :deep(th) {
  vertical-align: middle;
}
.table :deep(td) {
  vertical-align: baseline;
  padding-block: 7px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
/* A box to tick has no line of its own to stand on. */
.table :deep(td:has(.check-field)) {
  padding-block: 0;
  vertical-align: top;
  cursor: default;
}
/* A figure is one word. */
.table :deep(td .num) {
  white-space: nowrap;
}
/* It is not beneath the headings, which stay. */
.table :deep(tr.on) {
  scroll-margin-top: 60px;
}
.table :deep(tr.on td) {
  background: var(--blue-wash);
}
.table :deep(tr.on td:first-child) {
  box-shadow: inset 6px 0 0 var(--blue);
}
/* Its first line is that of the row. */
.open {
  display: block;
  width: 100%;
  min-height: 0;
  padding-bottom: 3px;
}
.heading {
  min-height: 0;
  padding: 0;
  font: inherit;
  cursor: pointer;
}
.heading:hover {
  text-decoration: underline;
}
.none {
  flex: 1;
}
</style>
