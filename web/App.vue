<script setup lang="ts">
import { watchEffect } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import Frame from './frame/Frame.vue';
import { useSessionStore } from './staff/sessionStore.ts';

const session = useSessionStore();
const route = useRoute();
const router = useRouter();

// Locked here, or ended on the server: the way back leads to the page that was open.
watchEffect(() => {
  if (session.person || route.matched.length === 0 || route.meta.open || route.meta.bare) return;
  void router.replace({ path: '/sign-in', query: { to: route.fullPath } });
});
</script>

<template>
  <v-app>
    <router-view v-if="route.meta.bare" />
    <Frame v-else-if="session.person" />
    <router-view v-else-if="route.meta.open" />
    <p v-else-if="session.trouble" class="empty" role="status">{{ session.trouble }} Trying again …</p>
  </v-app>
</template>
