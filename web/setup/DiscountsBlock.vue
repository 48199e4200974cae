<script setup lang="ts">
import { reactive, ref } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { parseMoney } from '../../core/money.ts';
import { sizeWords } from '../../core/pricing/discount.ts';
import { formatRate, parseRate } from '../../core/rate.ts';
import { ROLES, type Role } from '../../core/staff/rights.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import WordButton from '../look/WordButton.vue';

defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const { wrong: limitWrong, attempt: attemptLimit } = useAttempt();
const preset = reactive({
  name: '',
  kind: 'percent' as 'percent' | 'amount',
  value: '',
  who: 'all' as 'all' | 'customer' | number,
});
/** Whose limit what is wrong belongs to. */
const changing = ref<Role>('cashier');

async function addPreset(): Promise<void> {
  const value = preset.kind === 'percent' ? parseRate(preset.value) : parseMoney(preset.value, till.digits);
  if (value === null) {
    wrong.value = {
      value:
        preset.kind === 'percent'
          ? 'Type a percentage, for example 10.'
          : `Type an amount, for example ${till.example(5)}.`,
    };
    return;
  }
  const { name, kind, who } = preset;
  const groupId = typeof who === 'number' ? who : null;
  const wanted = { name, kind, value, needsCustomer: who !== 'all', groupId };
  if (await attempt(setup.addPreset(wanted), `${name} can be given.`))
    Object.assign(preset, { name: '', value: '' });
}

async function setLimit(role: Role, text: string): Promise<void> {
  changing.value = role;
  const rate = parseRate(text);
  if (rate === null) limitWrong.value = { rate: 'Type a percentage, for example 10.' };
  else
    await attemptLimit(
      setup.setDiscountLimit(role, rate),
      `A ${role} gives up to ${formatRate(rate)} alone.`,
    );
}
</script>

<template>
  <section class="block" aria-labelledby="discounts-title">
    <h2 id="discounts-title" class="title">Discounts</h2>
    <p class="soft">
      What each role gives alone. Above it, somebody who may approves it. Ready discounts need no approval.
    </p>
    <div class="adding">
      <v-text-field
        v-for="role in ROLES"
        :key="role"
        :model-value="formatRate(facts.discountLimits[role])"
        :label="`Up to, ${role}`"
        :error-messages="changing === role ? limitWrong.rate : undefined"
        @change="setLimit(role, ($event.target as HTMLInputElement).value)"
      />
    </div>
    <ul>
      <li v-for="one in facts.discountPresets" :key="one.id">
        <b>{{ one.name }}</b>
        <span class="num">{{ sizeWords(one.size, till.digits) }}</span>
        <span class="soft">{{
          one.group ? `for ${one.group}` : one.needsCustomer ? 'for known customers' : 'for all'
        }}</span>
        <WordButton @click="attempt(setup.endPreset(one.id), `${one.name} is given no more.`)">
          Give it no more
        </WordButton>
      </li>
    </ul>
    <form class="adding" novalidate @submit.prevent="addPreset">
      <v-text-field
        v-model="preset.name"
        label="Name, as printed"
        maxlength="60"
        :error-messages="wrong.name"
      />
      <v-select
        v-model="preset.kind"
        :items="[
          { value: 'percent', title: 'per cent' },
          { value: 'amount', title: 'amount' },
        ]"
        label="Kind"
      />
      <v-text-field
        v-model="preset.value"
        label="How much"
        inputmode="decimal"
        :error-messages="wrong.value"
      />
      <v-select
        v-model="preset.who"
        :items="[
          { value: 'all', title: 'everybody' },
          { value: 'customer', title: 'known customers' },
          ...facts.groups.map(({ id, name }) => ({ value: id, title: name })),
        ]"
        label="For whom"
        :error-messages="wrong.groupId"
      />
      <v-btn class="go" type="submit">Add discount</v-btn>
    </form>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 120px 1fr auto;
  gap: 12px;
  align-items: center;
  border-top: var(--hair);
}
</style>
