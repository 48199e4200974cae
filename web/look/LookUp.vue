<script setup lang="ts" generic="T">
import { refDebounced } from '@vueuse/core';
import { computed, useId, useTemplateRef } from 'vue';
import BigField from './BigField.vue';
import { useLookUp } from './lookUp.ts';

/** What is said of something that was found. */
interface Found {
  key: string | number;
  name: string;
  beneath?: string;
  figures?: string;
  why?: string;
}

/** Something that is found by what is typed: arrows choose, Enter takes what is pointed at. */
const {
  id = useId(),
  search,
  wait = 150,
  keeps = false,
  wrong = '',
} = defineProps<{
  label: string;
  /** Asks for what fits some words. */
  search: (words: string) => Promise<readonly T[]>;
  of: (one: T) => Found;
  /** What the ids of the field and its list begin with. */
  id?: string;
  /** Milliseconds that nobody types before it is asked. */
  wait?: number;
  /** Whether what is typed stays when something was taken. */
  keeps?: boolean;
  /** What is wrong with what was taken. */
  wrong?: string | undefined;
  /** What is said to be found. */
  listed?: string;
}>();
const emit = defineEmits<{ take: [one: T]; nobody: [] }>();
/** What is typed. */
const typed = defineModel<string>({ default: '' });

const field = useTemplateRef<{ focus: () => void }>('field');
const lookUp = useLookUp(typed, (words) => search(words), wait);
const { found, at, looking, none } = lookUp;
/** A line that is slow: to say so at once would be a flicker. */
const slow = refDebounced(looking, 400);
const trouble = computed(() => lookUp.wrong.value || wrong);

async function accept(): Promise<void> {
  const one = await lookUp.pointedAt();
  if (one !== undefined) take(one);
  else if (none.value) emit('nobody');
}
function take(one: T): void {
  if (!keeps) typed.value = '';
  emit('take', one);
}
const attributes = computed(() => ({
  id: `${id}-search`,
  role: 'combobox',
  'aria-controls': `${id}s-found`,
  'aria-busy': looking.value,
  'aria-expanded': found.value.length > 0,
  'aria-activedescendant': found.value.length > 0 ? `${id}-${at.value}` : undefined,
}));
defineExpose({ focus: () => field.value?.focus(), accept });
</script>

<template>
  <div class="look-up">
    <BigField
      ref="field"
      v-model="typed"
      :label
      :wrong="trouble"
      v-bind="attributes"
      @keydown.down.prevent="lookUp.move(1)"
      @keydown.up.prevent="lookUp.move(-1)"
      @keydown.enter.prevent="accept"
    />
    <ul
      v-show="found.length > 0"
      :id="`${id}s-found`"
      class="offered"
      role="listbox"
      :aria-label="listed ?? 'Found'"
    >
      <li
        v-for="(one, index) in found"
        :id="`${id}-${index}`"
        :key="of(one).key"
        role="option"
        :aria-selected="index === at"
        :class="{ on: index === at }"
        @mousedown.prevent
        @click="take(one)"
      >
        <span class="what">
          <b>{{ of(one).name }}</b>
          <span v-if="of(one).beneath" class="soft">{{ of(one).beneath }}</span>
          <span v-if="of(one).why" class="why">{{ of(one).why }}</span>
        </span>
        <span v-if="of(one).figures" class="num">{{ of(one).figures }}</span>
      </li>
    </ul>
    <p v-if="looking && slow && found.length === 0" class="soft">Looking …</p>
    <slot v-if="none" name="nobody"><p class="soft">Nothing is found.</p></slot>
  </div>
</template>

<style scoped>
.look-up {
  display: grid;
  gap: 8px;
}
ul {
  border-top: var(--group);
  max-height: 46vh;
  overflow-y: auto;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  padding: 8px 10px;
  min-height: 46px;
  border-bottom: var(--hair);
  cursor: pointer;
  overflow-wrap: anywhere;
}
li > .num {
  white-space: nowrap;
}
.what {
  display: grid;
  justify-items: start;
  gap: 2px;
}
.what > span {
  font-size: 14px;
}
li.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
</style>
