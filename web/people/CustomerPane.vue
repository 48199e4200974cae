<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { FoundCustomer } from '../../contract/people.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { problemWords } from '../net/problem.ts';
import CustomerFacts from './CustomerFacts.vue';
import NewCustomerForm from './NewCustomerForm.vue';
import { useCustomerStore } from './customerStore.ts';

const customers = useCustomerStore();
const work = useBasketWorkStore();
const panel = useTemplateRef('panel');
const mode = ref<'facts' | 'search' | 'new'>(customers.id === null ? 'search' : 'facts');
const typed = ref('');
const found = shallowRef<FoundCustomer[]>([]);
const at = ref(0);
const wrong = ref('');
let turn = 0;

async function focusField(): Promise<void> {
  await nextTick();
  const inputs = [...(panel.value?.querySelectorAll('input') ?? [])];
  (inputs.find(({ value }) => value === '') ?? inputs[0])?.focus();
}
onMounted(focusField);
watch(mode, focusField);
// A card that is scanned meanwhile. Of somebody new there is nothing to see yet.
watch(
  () => customers.id,
  (id) => {
    if (id === null) return;
    if (mode.value === 'new') work.leave();
    else mode.value = 'facts';
  },
);

/** The search that is under way; Enter waits for it. */
let searching: Promise<void> = Promise.resolve();
watch(
  typed,
  (text) => {
    searching = search(text);
  },
  { flush: 'sync' },
);

async function search(text: string): Promise<void> {
  const mine = ++turn;
  at.value = 0;
  wrong.value = '';
  try {
    const listed = text.trim().length > 0 ? await customers.search(text) : [];
    if (mine === turn) found.value = listed;
  } catch (error) {
    if (mine === turn) wrong.value = problemWords(error);
  }
}
const none = computed(() => typed.value.trim().length > 1 && found.value.length === 0);

async function choose(customer: FoundCustomer | undefined): Promise<void> {
  if (!customer) return;
  await customers.choose(customer);
  mode.value = 'facts';
}

function keyDown(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault();
    const by = event.key === 'ArrowDown' ? 1 : -1;
    at.value = Math.min(found.value.length - 1, Math.max(0, at.value + by));
  } else if (event.key === 'Enter') {
    event.preventDefault();
    void accept();
  }
}

/** Takes who is pointed at. Who was not in sight when Enter came is taken only if nobody else is meant. */
async function accept(): Promise<void> {
  const words = typed.value;
  const inSight = found.value;
  await searching;
  if (typed.value !== words) return;
  if (found.value === inSight || found.value.length === 1) {
    if (found.value.length > 0) return choose(found.value[at.value]);
    if (none.value) mode.value = 'new';
  } else if (none.value) mode.value = 'new';
}
useKeys('form', { leave: () => work.leave() }, { within: panel });
</script>

<template>
  <section ref="panel" class="panel" aria-labelledby="customer-title">
    <CustomerFacts v-if="mode === 'facts'" @other="mode = 'search'" />
    <template v-else-if="mode === 'search'">
      <h2 id="customer-title" class="title">Customer</h2>
      <label for="customer-search">Name, phone, mail, or scan the card</label>
      <input
        id="customer-search"
        v-model="typed"
        class="big-field"
        autocomplete="off"
        role="combobox"
        aria-controls="customers-found"
        :aria-expanded="found.length > 0"
        :aria-activedescendant="found.length > 0 ? `customer-${at}` : undefined"
        @keydown="keyDown"
      />
      <p class="bad" role="alert">{{ wrong }}</p>
      <ul v-show="found.length > 0" id="customers-found" role="listbox" aria-label="Found customers">
        <li
          v-for="(one, index) in found"
          :id="`customer-${index}`"
          :key="one.id"
          role="option"
          :aria-selected="index === at"
          :class="{ on: index === at }"
          @mousedown.prevent
          @click="choose(one)"
        >
          <b>{{ one.name }}</b>
          <span class="soft">{{ [one.company, one.phone].filter(Boolean).join(' · ') }}</span>
          <span v-if="one.groups.length > 0" class="why">{{ one.groups.join(', ') }}</span>
        </li>
      </ul>
      <p v-if="none" class="soft">No customer found. <kbd>Enter</kbd> makes a new customer.</p>
      <div class="acts">
        <v-btn @click="work.leave()">Cancel <KeyHint of="form.leave" /></v-btn>
        <v-btn class="go" @click="mode = 'new'">New customer</v-btn>
      </div>
    </template>
    <NewCustomerForm
      v-else
      :typed="typed"
      :make="customers.create"
      back="Back to search"
      @back="mode = 'search'"
      @use="(customer) => customers.choose(customer)"
    />
  </section>
</template>

<style scoped>
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
li.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
li span {
  font-size: 14px;
}
</style>
