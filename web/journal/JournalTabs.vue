<script setup lang="ts">
import { useSessionStore } from '../staff/sessionStore.ts';

const session = useSessionStore();
</script>

<template>
  <nav class="page-tabs" aria-label="Journal">
    <router-link to="/journal" active-class="on">Sales</router-link>
    <router-link v-if="session.may('card.list')" to="/card-payments" active-class="on"
      >Card payments</router-link
    >
    <router-link to="/gift-cards" active-class="on">Gift cards</router-link>
    <router-link v-if="session.may('books.see')" to="/books" active-class="on">Books</router-link>
  </nav>
</template>
