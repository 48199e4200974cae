<script setup lang="ts" generic="Row extends { id: number | string }">
import { computed, useId, useTemplateRef } from 'vue';
import { useKeys } from '../keys/useKeys.ts';
import { useInSight } from './inSight.ts';
import NoRows from './NoRows.vue';
import { usePassedRow } from './passedRow.ts';
import RowButton from './RowButton.vue';
import { useSearchFirst } from './searchFirst.ts';

/**
 * A list in the left column, beside the one of its rows that is looked at: what is listed, what narrows it, and its
 * rows, in parts or without. Arrows look at the row before or after.
 */
const {
  parts,
  open = null,
  pass,
  counted = null,
  more = '',
  narrowed = false,
} = defineProps<{
  title: string;
  /** How many there are, in words; nothing before that is known. */
  counted?: string | null;
  /** Before what there is is known, nothing is said to be missing. */
  known: boolean;
  parts: readonly { words?: string; rows: readonly Row[] }[];
  /** The row that is looked at. */
  open?: Row['id'] | null | undefined;
  /** An arrow goes on to a row: looks at it, or asks first about what is typed beside the list. */
  pass: (row: Row) => unknown;
  /** What a press asks for that is not listed yet; without words there is no more. */
  more?: string;
  /** Something narrows it: where nothing fits, a press asks for everything (`widen`). */
  narrowed?: boolean;
}>();
const emit = defineEmits<{
  open: [row: Row];
  more: [];
  widen: [];
}>();

const id = useId();
const list = useTemplateRef<HTMLElement>('list');
const column = useTemplateRef<HTMLElement>('column');
const rows = computed(() => parts.flatMap((part) => part.rows));
const filled = computed(() => parts.filter((part) => part.rows.length > 0));

const move = usePassedRow(
  () => rows.value,
  () => open,
  (row) => pass(row),
);
/** Whoever types beside the list stays there. */
const typesBeside = ({ target }: Event): boolean =>
  target instanceof HTMLInputElement && target.value !== '' && !column.value?.contains(target);
useKeys('column', {
  move: (event, nth) => {
    // Something else may stand in its place.
    if (!list.value || typesBeside(event)) return false;
    void move(nth === 0 ? -1 : 1);
  },
});
useInSight(list, '.list-row.on', () => open);
useSearchFirst(column, () => !open);
</script>

<template>
  <section ref="column" class="zone" :aria-labelledby="id">
    <slot name="above" />
    <header class="head">
      <slot name="way" />
      <h1 :id class="title">{{ title }}</h1>
      <span class="soft" role="status">{{ known ? counted : 'Looking …' }} <slot name="sum" /></span>
      <div v-if="$slots['acts']" class="acts"><slot name="acts" /></div>
    </header>
    <div v-if="$slots['find']" class="find"><slot name="find" /></div>
    <slot name="instead">
      <div v-if="filled.length > 0" ref="list" class="scroll rows">
        <section v-for="(part, nth) in filled" :key="part.words ?? nth">
          <h2 v-if="part.words" class="label part">{{ part.words }}</h2>
          <ol>
            <li v-for="row in part.rows" :key="row.id">
              <RowButton :on="row.id === open" @click="emit('open', row)">
                <slot name="row" :row="row" />
              </RowButton>
            </li>
          </ol>
        </section>
        <v-btn v-if="more" class="more" @click="emit('more')">{{ more }}</v-btn>
      </div>
      <NoRows v-else-if="known" :narrowed @widen="emit('widen')">
        <slot name="empty" />
        <template #hint><slot name="hint" /></template>
      </NoRows>
    </slot>
  </section>
</template>

<style scoped>
.title {
  margin-right: auto;
}
.find {
  display: grid;
  gap: 10px;
  padding: 12px 18px;
  border-bottom: var(--group);
}
.rows {
  flex: 1;
}
.part {
  position: sticky;
  top: 0;
  padding: 6px 18px;
  background: var(--paper);
  border-bottom: var(--hair);
}
/* The heading of its part stays in sight. */
.list-row {
  scroll-margin-top: 40px;
}
.more {
  margin: 12px 18px;
}
</style>
