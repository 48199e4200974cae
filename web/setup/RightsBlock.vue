<script setup lang="ts">
import type { SetupFacts } from '../../contract/setup.ts';
import { RIGHTS, ROLES, type Right, type Role } from '../../core/staff/rights.ts';
import CheckField from '../look/CheckField.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useSetupStore } from './setupStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { attempt } = useAttempt();
const has = (role: Role, right: string) => facts.rights[role].includes(right as Right);

/** A refused change shows the table as it is. */
async function setRight(role: Role, right: Right, granted: boolean): Promise<void> {
  if (!(await attempt(setup.setRight(role, right, granted), ''))) await setup.load();
}
</script>

<template>
  <section class="block" aria-labelledby="rights-title">
    <h2 id="rights-title" class="title">Rights</h2>
    <p class="soft">Who lacks a right can have a step approved in place by somebody who has it.</p>
    <table>
      <thead>
        <tr>
          <th scope="col">May</th>
          <th v-for="role in ROLES" :key="role" scope="col">{{ role }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(words, right) in RIGHTS" :key="right">
          <th scope="row">{{ words }}</th>
          <td v-for="role in ROLES" :key="role">
            <CheckField
              unseen
              :label="`${role}: ${words}`"
              :model-value="has(role, right)"
              @update:model-value="(on) => setRight(role, right, on)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
tbody th {
  font-weight: 400;
}
thead th:not(:first-child),
td {
  text-align: center;
  width: 130px;
}
td {
  padding-block: 0;
}
td label {
  display: grid;
  place-items: center;
  min-height: 44px;
  cursor: pointer;
}
</style>
