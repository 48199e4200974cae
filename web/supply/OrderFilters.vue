<script setup lang="ts">
import ChipChoice from '../look/ChipChoice.vue';
import { useSupplyStore } from './supplyStore.ts';

/** Which orders are listed, or deliveries. */
const store = useSupplyStore();
const SHOWN = [
  { value: 'open', words: 'Open orders' },
  { value: 'all', words: 'All orders' },
  { value: 'deliveries', words: 'Deliveries' },
] as const;
</script>

<template>
  <v-text-field
    v-model="store.listed.find"
    label="Supplier, goods, number, or scan the code"
    data-search
    autocomplete="off"
    clearable
    @click:clear="store.listed.find = ''"
  />
  <ChipChoice v-model="store.listed.show" label="What is shown" :options="SHOWN" />
</template>
