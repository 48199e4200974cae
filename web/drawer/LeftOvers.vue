<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed } from 'vue';
import CheckField from '../look/CheckField.vue';
import { useClosingStore } from './closingStore.ts';
import { useDrawerStore } from './drawerStore.ts';

/** @param brief only what has to be decided, where the rest was read before */
const { brief = false } = defineProps<{ brief?: boolean }>();

const drawer = useDrawerStore();
const closing = useClosingStore();
const all = computed(() => drawer.state?.leftOvers ?? []);
const held = computed(() => all.value.some(({ kind }) => kind === 'held'));
</script>

<template>
  <div v-if="all.length > 0" class="verdict off" role="status">
    <b>{{
      brief
        ? `${counted(all.length, 'thing is', 'things are')} left over.`
        : 'Deal with this before the shift ends:'
    }}</b>
    <ul v-if="!brief">
      <li v-for="(one, at) in all" :key="at">
        {{ one.words }} <router-link class="word" :to="one.link">Go there</router-link>
      </li>
    </ul>
    <CheckField
      v-if="held"
      v-model="closing.form.keepHeld"
      class="keep"
      label="Held baskets wait for the next shift"
    />
  </div>
</template>

<style scoped>
ul {
  padding-left: 20px;
  margin: 6px 0;
}
.keep {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
</style>
