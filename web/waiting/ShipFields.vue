<script setup lang="ts">
import type { ShipWanted } from '../../contract/orders.ts';
import BigField from '../look/BigField.vue';

/** Where a parcel goes. */
const ship = defineModel<ShipWanted>({ required: true });
defineProps<{ wrong: Readonly<Record<string, string | undefined>> }>();
</script>

<template>
  <BigField
    id="ship-recipient"
    v-model="ship.recipient"
    label="Recipient"
    maxlength="80"
    :wrong="wrong['ship.recipient']"
  />
  <BigField
    id="ship-street"
    v-model="ship.street"
    label="Street and number"
    maxlength="120"
    :wrong="wrong['ship.street']"
  />
  <div class="town">
    <div>
      <BigField
        id="ship-postcode"
        v-model="ship.postcode"
        label="Postcode"
        kind="code"
        maxlength="12"
        :wrong="wrong['ship.postcode']"
      />
    </div>
    <div>
      <BigField id="ship-city" v-model="ship.city" label="Town" maxlength="80" :wrong="wrong['ship.city']" />
    </div>
  </div>
  <BigField id="ship-phone" v-model="ship.phone" label="Telephone (optional)" maxlength="40" />
  <BigField id="ship-wishes" v-model="ship.wishes" label="Wishes (optional)" maxlength="200" />
  <v-checkbox v-model="ship.gift" label="A gift: no prices in the parcel" hide-details />
</template>

<style scoped>
.town {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 8px;
}
</style>
