<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import type { FoundCustomer } from '../../contract/people.ts';
import { problemWords } from '../net/problem.ts';
import { useScans } from '../sale/scanner.ts';
import BigField from '../look/BigField.vue';
import { useCustomerStore } from './customerStore.ts';

/**
 * Somebody found by name, phone, mail or a scanned card; arrows choose, Enter takes whoever was in sight. Where
 * nobody is found, Enter asks for somebody new.
 */
const {
  id,
  except = null,
  scans = false,
} = defineProps<{
  /** What the ids of the field and its list begin with. */
  id: string;
  label: string;
  /** Who is not offered. */
  except?: number | null;
  /** Whether a card that is scanned is looked for here; else it goes where cards go. */
  scans?: boolean;
}>();
const emit = defineEmits<{ choose: [customer: FoundCustomer]; nobody: [] }>();
/** What is typed. */
const typed = defineModel<string>({ default: '' });

const customers = useCustomerStore();
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
const found = shallowRef<FoundCustomer[]>([]);
const at = ref(0);
const wrong = ref('');
let turn = 0;
defineExpose({ focus: () => field.value?.focus() });

/** The search that is under way; Enter waits for it. */
let searching: Promise<void> = Promise.resolve();
watch(typed, (text) => (searching = search(text)), { flush: 'sync', immediate: true });

async function search(text: string): Promise<void> {
  const mine = ++turn;
  [at.value, wrong.value] = [0, ''];
  try {
    const listed = text.trim() ? await customers.search(text) : [];
    if (mine === turn) found.value = listed.filter((one) => one.id !== except);
  } catch (error) {
    if (mine === turn) wrong.value = problemWords(error);
  }
}
const none = computed(() => typed.value.trim().length > 1 && found.value.length === 0);

/** Takes who is pointed at. Who was not in sight when Enter came is taken only if nobody else is meant. */
async function accept(): Promise<void> {
  const [words, inSight] = [typed.value, found.value];
  await searching;
  if (typed.value !== words) return;
  const one = found.value === inSight || found.value.length === 1 ? found.value[at.value] : undefined;
  if (one) emit('choose', one);
  else if (none.value) emit('nobody');
}
function move(by: 1 | -1): void {
  at.value = Math.min(found.value.length - 1, Math.max(0, at.value + by));
}
useScans(
  (code) => {
    typed.value = code;
    void accept();
  },
  () => scans,
);
</script>

<template>
  <div class="find-customer">
    <BigField
      :id="`${id}-search`"
      ref="field"
      v-model="typed"
      :label
      :wrong
      role="combobox"
      :aria-controls="`${id}s-found`"
      :aria-expanded="found.length > 0"
      :aria-activedescendant="found.length > 0 ? `${id}-${at}` : undefined"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="accept"
    />
    <ul v-show="found.length > 0" :id="`${id}s-found`" role="listbox" aria-label="Found customers">
      <li
        v-for="(one, index) in found"
        :id="`${id}-${index}`"
        :key="one.id"
        role="option"
        :aria-selected="index === at"
        :class="{ on: index === at }"
        @mousedown.prevent
        @click="emit('choose', one)"
      >
        <b>{{ one.name }}</b>
        <span class="soft">{{ [one.company, one.phone].filter(Boolean).join(' · ') }}</span>
        <span v-if="one.groups.length > 0" class="why">{{ one.groups.join(', ') }}</span>
      </li>
    </ul>
    <slot v-if="none" name="nobody"><p class="soft">No customer found.</p></slot>
  </div>
</template>

<style scoped>
.find-customer {
  display: grid;
  gap: 8px;
}
ul {
  list-style: none;
  border-top: var(--group);
  max-height: 46vh;
  overflow-y: auto;
}
li {
  display: grid;
  justify-items: start;
  gap: 2px;
  padding: 8px 10px;
  min-height: 46px;
  border-bottom: var(--hair);
  cursor: pointer;
  overflow-wrap: anywhere;
}
li span {
  font-size: 14px;
}
li.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
</style>
