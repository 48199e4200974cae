<script setup lang="ts">
import { useTillStore } from '../shop/tillStore.ts';
import SignatureField from './SignatureField.vue';
import { useClosingStore } from './closingStore.ts';

defineProps<{ wrong: Record<string, string> }>();

const closing = useClosingStore();
const till = useTillStore();
</script>

<template>
  <p class="title">
    {{ closing.words === 'no difference' ? 'No difference' : closing.words }} ·
    {{ till.money(closing.plan?.banked ?? 0) }} to the bank · {{ till.money(closing.plan?.kept ?? 0) }} stays
  </p>
  <v-textarea
    v-model="closing.form.note"
    data-first
    label="Note for the next shift (optional)"
    rows="2"
    auto-grow
    maxlength="500"
    :error-messages="wrong.note"
  />
  <div class="signs">
    <div>
      <v-text-field
        v-model="closing.form.name"
        label="Name"
        maxlength="60"
        :error-messages="wrong['signature.name']"
      />
      <SignatureField v-model="closing.form.path" />
    </div>
    <div>
      <v-text-field
        v-model="closing.form.witnessName"
        label="Witness (optional)"
        maxlength="60"
        :error-messages="wrong['witness.name']"
      />
      <SignatureField
        v-if="closing.form.witnessName"
        v-model="closing.form.witnessPath"
        label="Witness signs here"
      />
    </div>
  </div>
</template>

<style scoped>
.signs {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(400px, 1fr));
  gap: 16px;
}
</style>
