<script setup lang="ts">
import { onUnmounted } from 'vue';
import CloseShift from './CloseShift.vue';
import DeskTills from './DeskTills.vue';
import OpenDrawer from './OpenDrawer.vue';
import { useDrawerStore } from './drawerStore.ts';

const drawer = useDrawerStore();
void drawer.look(false).catch(() => {});
// The Counter goes by this till's own drawer.
onUnmounted(() => void drawer.leaveDesk().catch(() => {}));
</script>

<template>
  <div class="drawer">
    <DeskTills />
    <CloseShift v-if="drawer.state?.shift" :key="drawer.state.shift.id" class="rest" />
    <OpenDrawer v-else-if="drawer.state && drawer.deskTillId === null" class="rest" />
    <div v-else class="empty">
      <b>This drawer is closed</b>
      <p>Choose another one, or open it at its own till.</p>
    </div>
  </div>
</template>

<style scoped>
.drawer {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.rest {
  flex: 1;
  min-height: 0;
}
</style>
