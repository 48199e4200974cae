<script setup lang="ts">
import { useSessionStore } from './staff/sessionStore.ts';
import Frame from './frame/Frame.vue';

const session = useSessionStore();
</script>

<template>
  <v-app>
    <Frame v-if="session.person" />
    <router-view v-else />
  </v-app>
</template>
