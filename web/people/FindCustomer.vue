<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue';
import type { FoundCustomer } from '../../contract/people.ts';
import LookUp from '../look/LookUp.vue';
import { useScans } from '../sale/scanner.ts';
import { useCustomerStore } from './customerStore.ts';

/** Somebody found by name, phone, mail or a scanned card. Where nobody is found, Enter asks for somebody new. */
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
const lookUp = useTemplateRef<{ focus: () => void; accept: () => Promise<void> }>('lookUp');
defineExpose({ focus: () => lookUp.value?.focus() });

const search = async (words: string) => (await customers.search(words)).filter((one) => one.id !== except);
const of = (one: FoundCustomer) => ({
  key: one.id,
  name: one.name,
  beneath: [one.company, one.phone].filter(Boolean).join(' · '),
  why: one.groups.join(', '),
});
useScans(
  async (code) => {
    typed.value = code;
    await nextTick();
    await lookUp.value?.accept();
  },
  () => scans,
);
</script>

<template>
  <LookUp
    :id
    ref="lookUp"
    v-model="typed"
    class="find-customer"
    :label
    :search
    :of
    :wait="0"
    keeps
    listed="Found customers"
    @take="(one) => emit('choose', one)"
    @nobody="emit('nobody')"
  >
    <template #nobody>
      <slot name="nobody"><p class="soft">No customer found.</p></slot>
    </template>
  </LookUp>
</template>
