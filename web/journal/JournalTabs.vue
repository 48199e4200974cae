<script setup lang="ts">
import { useMayOpen } from '../staff/mayOpen.ts';

const mayOpen = useMayOpen();
</script>

<template>
  <nav class="page-tabs" aria-label="Journal">
    <router-link v-if="mayOpen('/journal')" to="/journal" active-class="on">Sales</router-link>
    <router-link v-if="mayOpen('/card-payments')" to="/card-payments" active-class="on"
      >Card payments</router-link
    >
    <router-link v-if="mayOpen('/gift-cards')" to="/gift-cards" active-class="on">Gift cards</router-link>
    <router-link v-if="mayOpen('/books')" to="/books" active-class="on">Books</router-link>
  </nav>
</template>
