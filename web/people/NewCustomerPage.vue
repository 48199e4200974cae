<script setup lang="ts">
import { useRouter } from 'vue-router';
import type { NewCustomer } from '../../contract/people.ts';
import { useKeys } from '../keys/useKeys.ts';
import { typesEntry } from '../keys/entry.ts';
import { useCustomerStore } from './customerStore.ts';
import { useDirectoryStore } from './directoryStore.ts';
import NewCustomerForm from './NewCustomerForm.vue';
import { useWayOn } from '../look/wayOn.ts';

const customers = useCustomerStore();
const people = useDirectoryStore();
const router = useRouter();
const goOn = useWayOn();

async function make(customer: NewCustomer): Promise<void> {
  const { id } = await customers.add(customer);
  await goOn({ path: `/people/${id}`, replace: true });
}
const leave = () => router.push('/people');
useKeys('form', { leave: (event) => (typesEntry(event) ? false : leave()) });
</script>

<template>
  <div class="scroll page">
    <div class="panel">
      <NewCustomerForm
        :typed="people.filter.find"
        :make="make"
        back="Cancel"
        @back="leave"
        @use="({ id }) => router.replace(`/people/${id}`)"
      />
    </div>
  </div>
</template>

<style scoped>
.page {
  background: var(--surface);
}
.panel {
  max-width: 560px;
}
</style>
