<script setup lang="ts">
import { computed } from 'vue';
import { piecesWords } from '../../core/drawer/shiftReport.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useClosingStore } from './closingStore.ts';

defineProps<{ wrong: Record<string, string> }>();

const closing = useClosingStore();
const till = useTillStore();
const currency = computed(() => till.facts?.currency);
</script>

<template>
  <div class="fields">
    <v-text-field
      v-model="closing.form.float"
      data-first
      label="Leave in the drawer"
      inputmode="decimal"
      :error-messages="wrong.float"
    />
    <v-text-field
      v-model="closing.form.bagNumber"
      label="Bag number"
      maxlength="20"
      :error-messages="wrong.bagNumber"
    />
  </div>
  <div v-if="closing.plan && currency" class="bag">
    <div>
      <h2 class="label">Leave in the drawer</h2>
      <span class="num big" data-test="kept">{{ till.money(closing.plan.kept) }}</span>
      <p>{{ piecesWords(closing.plan.keep, currency) }}</p>
    </div>
    <div>
      <h2 class="label">Into bank bag {{ closing.form.bagNumber }}</h2>
      <span class="num big" data-test="banked">{{ till.money(closing.plan.banked) }}</span>
      <p>{{ piecesWords(closing.plan.bag, currency) }}</p>
    </div>
  </div>
  <p v-if="closing.plan?.outcome === 'above'" class="verdict off">
    <b>The pieces cannot make {{ till.money(closing.float ?? 0) }}.</b> {{ till.money(closing.plan.kept) }} is
    the nearest above.
  </p>
  <p v-if="closing.plan?.outcome === 'short'" class="verdict off">
    <b>There is less than {{ till.money(closing.float ?? 0) }}.</b> Everything stays in the drawer.
  </p>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
}
.bag {
  border: var(--group);
  background: var(--surface);
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.bag > div {
  padding: 12px 16px;
}
.bag > div + div {
  border-left: var(--group);
}
.bag .big {
  font-size: 30px;
  font-weight: 600;
}
</style>
