<script setup lang="ts">
import { onMounted, onUnmounted, reactive } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import CheckField from '../look/CheckField.vue';
import { lookAgain } from '../net/lookAgain.ts';
import { useAttempt } from '../notices/attempt.ts';
import { usePaymentSetupStore } from './paymentSetupStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = usePaymentSetupStore();
const { wrong, attempt } = useAttempt();
const fresh = reactive({ name: '', code: '', tillId: facts.tills[0]?.id ?? 0 });

onMounted(() => setup.load().catch(() => {}));
onUnmounted(lookAgain(['shop-changed'], setup.load));

async function pair(): Promise<void> {
  if (await attempt(setup.pair({ ...fresh }), `${fresh.name} is paired.`))
    Object.assign(fresh, { name: '', code: '' });
}
</script>

<template>
  <section v-if="setup.facts" class="block" aria-labelledby="terminals-title">
    <h2 id="terminals-title" class="title">Card terminals</h2>
    <table class="listed" v-if="setup.facts.terminals.length > 0">
      <thead>
        <tr>
          <th scope="col">Terminal</th>
          <th v-for="till in facts.tills" :key="till.id" scope="col">Till {{ till.number }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="terminal in setup.facts.terminals" :key="terminal.id">
          <th scope="row">
            {{ terminal.name }}
            <a class="word num" :href="`/terminal/${terminal.serial}`" target="_blank">{{
              terminal.serial
            }}</a>
          </th>
          <td v-for="till in facts.tills" :key="till.id">
            <CheckField
              unseen
              :label="`${terminal.name} at till ${till.number}`"
              :model-value="terminal.tillIds.includes(till.id)"
              @update:model-value="(on) => attempt(setup.offer(till.id, terminal.id, on), '')"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">No terminal is paired yet.</p>
    <form class="adding" novalidate @submit.prevent="pair">
      <v-text-field v-model="fresh.name" label="Name of the terminal" :error-messages="wrong.name" />
      <v-text-field
        v-model="fresh.code"
        label="Code that it shows"
        inputmode="numeric"
        :error-messages="wrong.code"
      />
      <v-select
        v-model="fresh.tillId"
        label="For till"
        :items="facts.tills.map(({ id, number, place }) => ({ value: id, title: `${number} · ${place}` }))"
        :error-messages="wrong.tillId"
      />
      <v-btn class="go" type="submit" height="48">Pair it</v-btn>
    </form>
    <p class="soft">
      No terminal at hand? <a class="word" href="/terminal" target="_blank">Open the stand-in</a>. The
      customer’s window:
      <a v-for="till in facts.tills" :key="till.id" class="word" :href="`/display/${till.id}`" target="_blank"
        >till {{ till.number }}
      </a>
    </p>
  </section>
</template>

<style scoped>
.word {
  display: inline;
}
</style>
