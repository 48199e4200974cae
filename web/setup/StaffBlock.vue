<script setup lang="ts">
import { reactive, ref } from 'vue';
import type { SetupFacts, StaffMember } from '../../contract/setup.ts';
import { PIN_DIGITS } from '../../core/staff/pinDelay.ts';
import { ROLES, type Role } from '../../core/staff/rights.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useSetupStore } from './setupStore.ts';

defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const { wrong, attempt } = useAttempt();
const { wrong: added, attempt: attemptToAdd } = useAttempt();
const person = reactive({ name: '', role: 'cashier' as Role, pin: '' });
const pins = reactive<Record<number, string>>({});
/** Whose row what is wrong belongs to. */
const changing = ref(0);
/** A PIN of six digits that nobody chose; it is shown until it is saved. */
const suggested = ref('');
function suggest(): void {
  const digits = crypto.getRandomValues(new Uint32Array(PIN_DIGITS));
  suggested.value = Array.from(digits, (digit) => digit % 10).join('');
  person.pin = suggested.value;
}
const roles = ROLES.map((role) => ({ value: role, title: role }));

async function addPerson(): Promise<void> {
  if (await attemptToAdd(setup.addStaff({ ...person }), `${person.name} can sign in.`)) {
    Object.assign(person, { name: '', pin: '' });
    suggested.value = '';
  }
}

async function signOutEverywhere(member: StaffMember): Promise<void> {
  changing.value = member.id;
  await attempt(setup.signOutEverywhere(member.id), `${member.name} is signed out on every till.`);
}

async function change(member: StaffMember, words: string): Promise<void> {
  const pin = pins[member.id];
  changing.value = member.id;
  if (await attempt(setup.changeStaff({ ...member, ...(pin ? { pin } : {}) }), words)) pins[member.id] = '';
}
</script>

<template>
  <section class="block" aria-labelledby="staff-title">
    <h2 id="staff-title" class="title">Staff</h2>
    <ul class="people">
      <li v-for="member in facts.staff" :key="member.id" :class="{ soft: !member.active }">
        <b>{{ member.name }}</b>
        <v-select
          :model-value="member.role"
          :items="roles"
          label="Role"
          :aria-label="`Role of ${member.name}`"
          :disabled="!member.active"
          @update:model-value="change({ ...member, role: $event }, `${member.name} is ${$event} now.`)"
        />
        <v-text-field
          v-model="pins[member.id]"
          label="New PIN"
          :aria-label="`New PIN for ${member.name}`"
          type="password"
          inputmode="numeric"
          autocomplete="new-password"
          :disabled="!member.active"
          :error-messages="changing === member.id ? wrong.pin : undefined"
          @keydown.enter="change(member, `${member.name} has a new PIN.`)"
        />
        <v-btn
          :class="{ stop: member.active }"
          @click="
            change(
              { ...member, active: !member.active },
              member.active ? `${member.name} can no longer sign in.` : `${member.name} can sign in again.`,
            )
          "
        >
          {{ member.active ? 'Works here no more' : 'Works here again' }}
        </v-btn>
        <v-btn :disabled="!member.active" @click="signOutEverywhere(member)">Sign out everywhere</v-btn>
      </li>
    </ul>
    <form class="adding" novalidate @submit.prevent="addPerson">
      <v-text-field v-model="person.name" label="New person" :error-messages="added.name" />
      <v-select v-model="person.role" :items="roles" label="Role" />
      <v-text-field
        v-model="person.pin"
        label="PIN"
        type="password"
        inputmode="numeric"
        autocomplete="new-password"
        :error-messages="added.pin"
      />
      <v-btn @click="suggest">Suggest a PIN</v-btn>
      <v-btn class="go" type="submit">Add person</v-btn>
    </form>
    <p v-if="suggested && person.pin === suggested" class="soft">
      The suggested PIN is <b class="num">{{ suggested }}</b>. Six digits are safest; four are possible.
    </p>
  </section>
</template>

<style scoped>
.people li {
  display: grid;
  grid-template-columns: 150px 1fr 1fr auto auto;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
  border-top: var(--hair);
}
@media (max-width: 1100px) {
  .people li {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
