<script setup lang="ts">
import { computed, ref } from 'vue';
import type { CustomerGroup } from '../../contract/people.ts';
import { formatCount } from '../../core/locale.ts';
import { ruleWords } from '../../core/people/record.ts';
import ListColumn from '../look/ListColumn.vue';
import { useLook } from '../notices/look.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import GroupForm from './GroupForm.vue';
import { useGroupStore } from './groupStore.ts';

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
    <ListColumn
      title="Groups"
      :known="store.listed !== null"
      :parts="[{ rows: store.groups }]"
      :open="formKey"
      @open="(group) => (chosen = group)"
      :pass="(group) => (chosen = group)"
    >
      <template #way><router-link class="word" to="/people">All people</router-link></template>
      <template #acts>
        <v-btn v-if="session.may('people.manage')" class="go" @click="chosen = 'new'">New group</v-btn>
      </template>
      <template #row="{ row }">
        <span class="what"
          ><b>{{ row.name }}</b> <span class="soft">{{ words(row) }}</span></span
        >
        <span class="num">{{ formatCount(row.count) }}</span>
      </template>
      <template #empty>
        <b>No groups yet</b>
        <p>Groups have prices, discounts and offers of their own: members, teachers, schools.</p>
      </template>
    </ListColumn>
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
