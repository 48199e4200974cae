<script setup lang="ts">
import BigField from '../look/BigField.vue';
import UsualWords from '../look/UsualWords.vue';
import { useTillStore } from '../shop/tillStore.ts';

/** Why an order goes on without what was to be paid first. */
defineProps<{ missing: number; wrong?: string | undefined }>();
const reason = defineModel<string>({ required: true });
const till = useTillStore();
const REASONS = ['Pays it all now', 'We know the customer', 'The payment failed there'];
</script>

<template>
  <div class="excuse">
    <p>
      <b>A deposit of {{ till.money(missing) }} is missing.</b> Somebody with the right to it can let it go
      on.
    </p>
    <BigField id="excuse-reason" v-model="reason" label="Why without it" maxlength="120" :wrong />
    <UsualWords v-model="reason" :words="REASONS" label="Usual reasons without it" />
  </div>
</template>

<style scoped>
.excuse {
  display: grid;
  gap: 10px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
  padding: 10px 12px;
}
</style>
