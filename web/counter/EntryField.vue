<script setup lang="ts">
import { mdiCameraOutline } from '@mdi/js';
import { useEventListener } from '@vueuse/core';
import { computed, defineAsyncComponent, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { parseEntry } from '../../core/counter/entry.ts';
import type { Item } from '../../core/goods/item.ts';
import FoundList from './FoundList.vue';
import { catalogue } from '../sale/catalogue/thread.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { atCounter, useEntryKinds } from './entryKinds.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { ENTRY } from '../keys/entry.ts';

// Loaded when somebody scans with a camera.
const CameraScan = defineAsyncComponent(() => import('./CameraScan.vue'));

const LISTED = 10;

const ringUp = useRingUpStore();
const basket = useBasketStore();
const router = useRouter();
const takeEntry = useEntryKinds();
const input = useTemplateRef<HTMLInputElement>('input');
const text = ref('');
const found = shallowRef<Item[]>([]);
/** The words that the list belongs to. */
const foundFor = ref('');
const at = ref(0);
let turn = 0;
const camera = ref(false);
/** Whether this device has a camera that a page may use. */
const hasCamera = ref(false);
onMounted(async () => {
  const devices = await navigator.mediaDevices?.enumerateDevices().catch(() => []);
  hasCamera.value = devices?.some(({ kind }) => kind === 'videoinput') ?? false;
});

const searched = computed(() => parseEntry(text.value).text);
const open = computed(() => searched.value !== '' && foundFor.value !== '' && found.value.length > 0);

/** Letters that follow each other faster than this come from a scanner: what they spell is not searched on the way. */
const FASTER_MS = 40;
let lastLetter = 0;
let waiting: ReturnType<typeof setTimeout> | undefined;

watch(searched, (words) => {
  const now = performance.now();
  const fast = words !== '' && now - lastLetter < FASTER_MS;
  lastLetter = now;
  clearTimeout(waiting);
  if (fast) waiting = setTimeout(() => void search(words), FASTER_MS * 2);
  else void search(words);
});

async function search(words: string): Promise<void> {
  const mine = ++turn;
  at.value = 0;
  const items = words ? await catalogue.search(words, LISTED) : [];
  if (mine !== turn) return;
  // What was pointed at meanwhile stays pointed at.
  const pointed = at.value > 0 ? found.value[at.value] : undefined;
  at.value = Math.max(
    0,
    items.findIndex(({ id }) => id === pointed?.id),
  );
  found.value = items;
  foundFor.value = words;
}

function clear(): void {
  text.value = '';
  // The rows stay, hidden, to be filled with what is found next.
  foundFor.value = '';
  turn += 1;
  clearTimeout(waiting);
}

/** What Enter would do with the sign or quantity in front, said before it is pressed. */
const understood = computed(() => {
  const typed = text.value.trim();
  if (isMinus(typed))
    return basket.chosen ? `Enter: one less of ${basket.chosen.name}` : 'Comes back: −1*number';
  const { quantity } = parseEntry(typed);
  if (quantity === undefined) return /^[-\u2212]/.test(typed) ? 'Comes back: −1*number' : '';
  return `${formatQuantity(Math.abs(quantity))} × ${quantity < 0 ? 'comes back' : ''}`;
});
/** What was typed and not taken; the list is there to choose from. */
const refused = ref('');
const refusal = computed(() => {
  if (refused.value === '' || text.value !== refused.value) return '';
  return /^[\d.,\s*]+$/.test(text.value)
    ? 'No item has this number. ↓ chooses one.'
    : 'Enter takes the first, ↓ another.';
});
const isMinus = (typed: string): boolean => typed === '-' || typed === '\u2212';

/**
 * Takes what is in the field: the item that is pointed at, if the list was used, or whatever the text means. By its
 * name goods are taken only if they stood first in the list when Enter came; else the words stay, and the list comes.
 */
async function submit(): Promise<void> {
  const typed = text.value;
  const seen = open.value && foundFor.value === searched.value ? found.value[at.value] : undefined;
  const pointed = open.value && at.value > 0 ? found.value[at.value] : undefined;
  clear();
  if (typed.trim() === '') return;
  if (isMinus(typed.trim())) return basket.chosen ? basket.step(-1) : undefined;
  if (!pointed) {
    const taken = await takeEntry(typed, { seen });
    if (!taken && text.value === '') {
      text.value = typed;
      refused.value = typed;
    }
    return;
  }
  await atCounter(router, () => ringUp.add(pointed, parseEntry(typed).quantity));
}

async function take(item: Item): Promise<void> {
  const { quantity } = parseEntry(text.value);
  clear();
  input.value?.focus();
  await atCounter(router, () => ringUp.add(item, quantity));
}

useKeys(
  'entry',
  {
    chooseFound: (_event, nth) => {
      if (!open.value) return false;
      at.value = Math.min(found.value.length - 1, Math.max(0, at.value + (nth === 0 ? -1 : 1)));
    },
    clear: () => (text.value ? clear() : false),
  },
  { within: input },
);

function focusEntry(): void {
  input.value?.focus();
}

onMounted(focusEntry);
useKeys('entry', {
  focus: ({ target }) =>
    target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement ? false : focusEntry(),
});
// The entry field has the focus whenever nothing else has it.
useEventListener(document, 'focusout', () => {
  setTimeout(() => {
    if (document.activeElement === document.body && document.hasFocus()) focusEntry();
  });
});
// Heard last, so that keys which mean something to the page are not taken for text.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const inField = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
  if (
    !inField &&
    !event.defaultPrevented &&
    event.key !== ' ' &&
    event.key.length === 1 &&
    !event.ctrlKey &&
    !event.metaKey &&
    !event.altKey
  ) {
    focusEntry();
  }
});
</script>

<template>
  <form class="entry" role="search" @submit.prevent="submit">
    <div class="line">
      <KeyHint of="entry.focus" aria-hidden="true" />
      <input
        ref="input"
        v-model="text"
        :name="ENTRY"
        :data-found-for="foundFor"
        role="combobox"
        aria-label="Entry field: scan or type an item"
        aria-autocomplete="list"
        aria-controls="found"
        :aria-expanded="open"
        :aria-activedescendant="open ? `found-${at}` : undefined"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        placeholder="Scan or type anything: item, number, name, receipt…"
      />
      <span v-if="refusal" class="understood refusal" role="alert">{{ refusal }}</span>
      <span v-else-if="understood" class="understood num" role="status">{{ understood }}</span>
      <span v-else class="hint" aria-hidden="true"><KeyHint of="entry.quantity" /> quantity first</span>
      <v-btn
        v-if="hasCamera"
        variant="text"
        :icon="mdiCameraOutline"
        aria-label="Scan with the camera"
        title="Scan with the camera"
        @click="camera = !camera"
      />
    </div>
    <CameraScan v-if="camera" @code="takeEntry($event, { scanned: true })" @close="camera = false" />
    <FoundList :open="open" :words="foundFor" :items="found" :at="at" @take="take" />
    <p
      v-if="searched.length > 1 && foundFor === searched && found.length === 0"
      class="hidden-text"
      role="status"
    >
      Nothing found
    </p>
  </form>
</template>

<style scoped>
.entry {
  min-width: 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 100%;
  padding: 0 18px;
  container-type: inline-size;
}
.line input {
  flex: 1;
  min-width: 0;
  height: 100%;
  font-size: 20px;
  background: transparent;
  color: var(--ink);
  border: 0;
  outline: 0;
}
.line input::placeholder {
  color: var(--soft);
  opacity: 1;
  text-overflow: ellipsis;
}
.line:focus-within {
  box-shadow: inset 0 -6px 0 var(--blue);
}
.understood {
  font-size: 17px;
  font-weight: 700;
  white-space: nowrap;
}
.refusal {
  color: var(--red);
}
.hint {
  font-size: 13px;
  color: var(--soft);
  white-space: nowrap;
}
/* What is said stands beside the field then. */
@container (max-width: 700px) {
  .hint {
    display: none;
  }
  .understood {
    max-width: 55%;
    font-size: 14px;
    line-height: 1.15;
    white-space: normal;
  }
}
</style>
