<script setup lang="ts">
import { computed } from 'vue';
import { piecesWords } from '../../core/drawer/shiftReport.ts';
import { useTillStore } from '../shop/tillStore.ts';
import HowManyField from '../look/HowManyField.vue';
import { useClosingStore } from './closingStore.ts';
import { useDrawerStore } from './drawerStore.ts';

defineProps<{ wrong: Record<string, string> }>();

const closing = useClosingStore();
const till = useTillStore();
const drawer = useDrawerStore();
const currency = computed(() => till.facts?.currency);
/** What was counted, from the largest piece to the smallest. */
const counted = computed(() =>
  Object.entries(drawer.pieces)
    .filter(([, count]) => count > 0)
    .toSorted(([a], [b]) => Number(b) - Number(a)),
);
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
      <p v-if="drawer.total === null">{{ piecesWords(closing.plan.keep, currency) }}</p>
    </div>
    <div>
      <h2 class="label">Into bank bag {{ closing.form.bagNumber }}</h2>
      <span class="num big" data-test="banked">{{ till.money(closing.plan.banked) }}</span>
      <p v-if="drawer.total === null">{{ piecesWords(closing.plan.bag, currency) }}</p>
    </div>
  </div>
  <details v-if="drawer.total === null && counted.length > 0" class="hand" :open="closing.form.keep !== null">
    <summary>Choose the pieces that stay by hand</summary>
    <ul>
      <li v-for="[value, count] in counted" :key="value">
        <label class="num" :for="`keep-${value}`">{{ till.money(Number(value)) }}</label>
        <HowManyField
          :id="`keep-${value}`"
          :label="`How many of ${till.money(Number(value))} stay`"
          :model-value="String(closing.plan?.keep[value] ?? 0)"
          @focus="($event.target as HTMLInputElement).select()"
          @change="
            closing.keepByHand(value, Math.trunc(Number(($event.target as HTMLInputElement).value) || 0))
          "
        />
        <span class="soft">of {{ count }} stay</span>
      </li>
    </ul>
    <v-btn v-if="closing.form.keep" @click="closing.planAgain()">Plan it again</v-btn>
  </details>
  <p v-if="closing.form.keep && closing.plan && closing.plan.kept !== closing.float" class="verdict off">
    <b>{{ till.money(closing.plan.kept) }} stays,</b> not {{ till.money(closing.float ?? 0) }}.
  </p>
  <p v-if="closing.plan?.outcome === 'above'" class="verdict off">
    <b>The pieces cannot make {{ till.money(closing.float ?? 0) }}.</b> {{ till.money(closing.plan.kept) }} is
    the nearest above.
  </p>
  <p v-if="closing.plan?.outcome === 'short'" class="verdict off">
    <b>There is less than {{ till.money(closing.float ?? 0) }}.</b> Everything stays in the drawer.
  </p>
</template>

<style scoped>
.hand {
  border: var(--group);
  background: var(--surface);
  padding: 10px 16px;
}
.hand summary {
  font-weight: 650;
  cursor: pointer;
}
.hand ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 24px;
  padding: 10px 0;
}
.hand li {
  display: grid;
  grid-template-columns: 70px 76px 1fr;
  gap: 10px;
  align-items: center;
}
.hand input {
  height: 40px;
  border: 1.5px solid var(--ink);
  text-align: center;
  background: var(--surface);
  color: var(--ink);
}
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
