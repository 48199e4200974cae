<script setup lang="ts">
/** Who somebody is, and how they are reached. */
defineProps<{ wrong: Readonly<Record<string, string>> }>();
const person = defineModel<{ name: string; mail: string; phone: string }>({ required: true });
</script>

<template>
  <v-text-field v-model="person.name" label="Name" maxlength="120" :error-messages="wrong.name" />
  <v-text-field
    v-model="person.mail"
    label="Mail"
    inputmode="email"
    maxlength="120"
    :error-messages="wrong.mail"
  />
  <v-text-field
    v-model="person.phone"
    label="Phone"
    inputmode="tel"
    maxlength="40"
    :error-messages="wrong.phone"
  />
</template>
