<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import type { FoundCustomer } from '../../contract/people.ts';
import { problemWords } from '../net/problem.ts';
import { usePointsStore } from './pointsStore.ts';

/** Somebody found by name, phone, mail or a scanned card; arrows choose, Enter takes. */
defineProps<{ label: string }>();
const emit = defineEmits<{ choose: [customer: FoundCustomer]; leave: [] }>();

const points = usePointsStore();
const field = useTemplateRef<HTMLInputElement>('field');
const typed = ref('');
const found = shallowRef<FoundCustomer[]>([]);
const at = ref(0);
const wrong = ref('');
let turn = 0;
defineExpose({ focus: () => field.value?.focus() });

/** The search that is under way; Enter waits for it. */
let searching: Promise<void> = Promise.resolve();
watch(typed, (text) => (searching = search(text)), { flush: 'sync' });

async function search(text: string): Promise<void> {
  const mine = ++turn;
  [at.value, wrong.value] = [0, ''];
  try {
    const listed = text.trim() ? await points.search(text) : [];
    if (mine === turn) found.value = listed;
  } catch (error) {
    if (mine === turn) wrong.value = problemWords(error);
  }
}
const none = computed(() => typed.value.trim().length > 1 && found.value.length === 0);

/** Takes who is pointed at; who was not in sight when Enter came, only if nobody else is meant. */
async function accept(): Promise<void> {
  const [words, inSight] = [typed.value, found.value];
  await searching;
  if (typed.value !== words) return;
  const one = found.value === inSight || found.value.length === 1 ? found.value[at.value] : undefined;
  if (one) emit('choose', one);
}
function move(by: 1 | -1): void {
  at.value = Math.min(found.value.length - 1, Math.max(0, at.value + by));
}
</script>

<template>
  <div class="find-customer">
    <label :for="`find-customer`">{{ label }}</label>
    <input
      id="find-customer"
      ref="field"
      v-model="typed"
      name="takes-scans"
      class="big-field"
      autocomplete="off"
      role="combobox"
      aria-controls="customers-to-take"
      :aria-expanded="found.length > 0"
      :aria-activedescendant="found.length > 0 ? `take-${at}` : undefined"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="accept"
      @keydown.esc.stop="emit('leave')"
    />
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <p v-if="none" class="soft">No customer found.</p>
    <ul v-show="found.length > 0" id="customers-to-take" role="listbox" aria-label="Found customers">
      <li
        v-for="(one, index) in found"
        :id="`take-${index}`"
        :key="one.id"
        role="option"
        :aria-selected="index === at"
        :class="{ on: index === at }"
        @mousedown.prevent
        @click="emit('choose', one)"
      >
        <b>{{ one.name }}</b>
        <span class="soft">{{ [one.company, one.phone].filter(Boolean).join(' · ') }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.find-customer {
  display: grid;
  gap: 6px;
}
ul {
  list-style: none;
  border-top: var(--group);
  max-height: 30vh;
  overflow-y: auto;
}
li {
  display: grid;
  gap: 2px;
  padding: 8px 10px;
  min-height: 46px;
  border-bottom: var(--hair);
  cursor: pointer;
  overflow-wrap: anywhere;
}
li.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
</style>
