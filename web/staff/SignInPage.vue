<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { mdiBackspaceOutline } from '@mdi/js';
import { useIntervalFn, useLocalStorage } from '@vueuse/core';
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useSessionStore } from './sessionStore.ts';
import WaitButton from '../look/WaitButton.vue';

const session = useSessionStore();
const route = useRoute();
const router = useRouter();

const pin = ref('');
const problem = ref('');
const busy = ref(false);
const waits = ref(0);
const field = useTemplateRef<HTMLInputElement>('field');
const tillId = useLocalStorage<number>('mondrel.till', session.welcome?.tills[0]?.id ?? 0);

const tills = computed(() =>
  (session.welcome?.tills ?? []).map(({ id, number, place }) => ({
    value: id,
    title: `Till ${number} · ${place}`,
  })),
);
if (!tills.value.some(({ value }) => value === tillId.value)) tillId.value = tills.value[0]?.value ?? 0;

useIntervalFn(() => {
  if (waits.value === 0) return;
  waits.value -= 1;
  if (waits.value === 0) problem.value = '';
}, 1000);

onMounted(() => field.value?.focus());

function press(digit: string): void {
  if (pin.value.length < 8) pin.value += digit;
  field.value?.focus();
}

async function signIn(): Promise<void> {
  if (busy.value || waits.value > 0 || pin.value.length < 4) return;
  busy.value = true;
  problem.value = '';
  try {
    await session.signIn({ pin: pin.value, tillId: tillId.value });
    await router.replace(typeof route.query.to === 'string' ? route.query.to : '/counter');
  } catch (error) {
    problem.value = problemWords(error);
    const told = error instanceof ApiProblem ? error.data('wait', 'wrong-pin') : undefined;
    if (told) waits.value = told.seconds;
  } finally {
    pin.value = '';
    busy.value = false;
    field.value?.focus();
  }
}
useKeys('form', { accept: signIn });
</script>

<template>
  <main class="sign-in">
    <section class="who">
      <img src="/mark.svg" alt="" width="72" height="72" />
      <h1>{{ session.welcome?.shopName }}</h1>
      <p class="soft">Type your PIN to begin, or to take over this till. The basket stays.</p>
      <v-select v-model="tillId" :items="tills" label="This is" />
      <table v-if="session.welcome?.demoPins.length" class="pins">
        <caption>
          Made-up shop: these PINs work here
        </caption>
        <tbody>
          <tr v-for="one in session.welcome.demoPins" :key="one.pin">
            <th scope="row" class="num">{{ one.pin }}</th>
            <td>{{ one.name }}</td>
            <td class="soft">{{ one.role }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <form class="pad" @submit.prevent="signIn">
      <label class="label" for="pin">PIN</label>
      <input
        id="pin"
        ref="field"
        v-model="pin"
        class="pin num"
        type="password"
        inputmode="numeric"
        autocomplete="off"
        maxlength="8"
        aria-describedby="pin-problem"
        @input="pin = pin.replace(/\D/g, '')"
      />
      <p id="pin-problem" class="problem" role="alert">
        {{ waits > 0 ? `Too many wrong PINs. Wait ${counted(waits, 'second')}.` : problem }}
      </p>
      <div class="digits">
        <button
          v-for="digit in '123456789'"
          :key="digit"
          type="button"
          class="num"
          tabindex="-1"
          @click="press(digit)"
        >
          {{ digit }}
        </button>
        <button type="button" tabindex="-1" @click="pin = ''">Clear</button>
        <button type="button" class="num" tabindex="-1" @click="press('0')">0</button>
        <button
          type="button"
          tabindex="-1"
          aria-label="Delete the last digit"
          @click="pin = pin.slice(0, -1)"
        >
          <v-icon :icon="mdiBackspaceOutline" />
        </button>
      </div>
      <WaitButton
        type="submit"
        class="go"
        height="64"
        block
        :disabled="pin.length < 4 || waits > 0"
        :loading="busy"
      >
        Sign in <KeyHint of="form.accept" />
      </WaitButton>
    </form>
  </main>
</template>

<style scoped>
.sign-in {
  display: grid;
  grid-template-columns: 1fr 400px;
  height: 100vh;
  background: var(--paper);
}
.who {
  padding: 64px;
  display: flex;
  flex-direction: column;
  gap: 18px;
  max-width: 640px;
}
.who h1 {
  font-size: 44px;
  font-weight: 750;
  line-height: 1.1;
}
.who .v-select {
  flex: none;
  max-width: 420px;
  margin-top: 16px;
}
.pins {
  margin-top: auto;
  max-width: 420px;
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
}
.pins caption {
  font-weight: 700;
}
.pins th,
.pins td {
  padding: 7px 14px;
}
.pad {
  border-left: var(--rule);
  background: var(--surface);
  padding: 40px 32px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  justify-content: center;
}
.pin {
  height: 72px;
  font-size: 40px;
  letter-spacing: 0.3em;
  text-align: center;
  border: var(--group);
  background: var(--surface);
  color: var(--ink);
  width: 100%;
}
.problem {
  min-height: 44px;
  color: var(--red);
  font-weight: 650;
}
.digits {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 0;
  border-top: var(--group);
  border-left: var(--group);
  margin-bottom: 16px;
}
.pad .v-btn {
  flex: none;
}
.digits button {
  text-align: center;
  height: 68px;
  font-size: 24px;
  font-weight: 600;
  border-right: var(--group);
  border-bottom: var(--group);
}
.digits button:not(.num) {
  font-size: 16px;
}
.digits button:active {
  background: var(--blue-wash);
}
@media (max-width: 800px) {
  .sign-in {
    grid-template-columns: 1fr;
    overflow-y: auto;
  }
  .who {
    padding: 24px;
  }
  .pad {
    border-left: 0;
    border-top: var(--rule);
  }
}
</style>
