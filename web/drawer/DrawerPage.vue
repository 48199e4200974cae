<script setup lang="ts">
import { useDrawerStore } from './drawerStore.ts';
import CloseShift from './CloseShift.vue';
import OpenDrawer from './OpenDrawer.vue';

const drawer = useDrawerStore();
</script>

<template>
  <CloseShift v-if="drawer.state?.shift" :key="drawer.state.shift.id" />
  <OpenDrawer v-else-if="drawer.state" />
</template>
