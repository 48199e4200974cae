<script setup lang="ts">
import { computed } from 'vue';
import type { ShipWanted } from '../../contract/orders.ts';
import BigField from '../look/BigField.vue';
import AddressFields from './AddressFields.vue';

/** Where a parcel goes. */
const ship = defineModel<ShipWanted>({ required: true });
const { wrong } = defineProps<{ wrong: Readonly<Record<string, string | undefined>> }>();
const address = computed(() => ({
  recipient: wrong['ship.recipient'],
  street: wrong['ship.street'],
  postcode: wrong['ship.postcode'],
  city: wrong['ship.city'],
}));
</script>

<template>
  <AddressFields id="ship" v-model="ship" :wrong="address" />
  <BigField id="ship-phone" v-model="ship.phone" label="Telephone (optional)" maxlength="40" />
  <BigField id="ship-wishes" v-model="ship.wishes" label="Wishes (optional)" maxlength="200" />
  <v-checkbox v-model="ship.gift" label="A gift: no prices in the parcel" hide-details />
</template>
