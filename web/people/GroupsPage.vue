<script setup lang="ts">
import { computed, ref } from 'vue';
import type { CustomerGroup } from '../../contract/people.ts';
import { formatCount } from '../../core/locale.ts';
import { ruleWords } from '../../core/people/record.ts';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import GroupForm from './GroupForm.vue';
import { useGroupStore } from './groupStore.ts';
import RowButton from '../look/RowButton.vue';

const store = useGroupStore();
const till = useTillStore();
const session = useSessionStore();
void useLook(store.load)();

/** The group that is changed; nothing for a new one. */
const chosen = ref<CustomerGroup | 'new' | null>(null);
const formKey = computed(() => (chosen.value && chosen.value !== 'new' ? chosen.value.id : 0));

function words({ rule, filledOn }: CustomerGroup): string {
  if (!rule) return 'Filled by hand';
  const since = filledOn ? `, looked at on ${till.calendarDay(filledOn)}` : '';
  return `Whoever has ${ruleWords(rule, till.money)}${since}`;
}
</script>

<template>
  <div class="two">
    <section class="zone" aria-labelledby="groups-title">
      <header class="head">
        <router-link class="word" to="/people">All people</router-link>
        <h1 id="groups-title" class="title">Groups</h1>
        <v-btn v-if="session.may('people.manage')" class="go" @click="chosen = 'new'">New group</v-btn>
      </header>
      <ul v-if="store.groups.length > 0" class="scroll">
        <li v-for="group in store.groups" :key="group.id">
          <RowButton :on="chosen !== 'new' && chosen?.id === group.id" @click="chosen = group">
            <span class="what"
              ><b>{{ group.name }}</b> <span class="soft">{{ words(group) }}</span></span
            >
            <span class="num">{{ formatCount(group.count) }}</span>
          </RowButton>
        </li>
      </ul>
      <div v-else-if="store.listed" class="empty">
        <b>No groups yet</b>
        <p>Groups have prices, discounts and offers of their own: members, teachers, schools.</p>
      </div>
    </section>
    <section class="zone" aria-label="The group">
      <GroupForm
        v-if="chosen"
        :key="formKey"
        :group="chosen === 'new' ? null : chosen"
        @leave="chosen = null"
      />
      <p v-else-if="store.groups.length > 0" class="empty">Choose a group to see or change it.</p>
    </section>
  </div>
</template>
