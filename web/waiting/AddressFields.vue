<script setup lang="ts">
import BigField from '../look/BigField.vue';

/** Who gets something, and where. */
defineProps<{
  /** What the ids of its fields begin with. */
  id: string;
  wrong: Readonly<Partial<Record<keyof Address, string | undefined>>>;
}>();
interface Address {
  recipient: string;
  street: string;
  postcode: string;
  city: string;
}
const address = defineModel<Address>({ required: true });
</script>

<template>
  <BigField
    :id="`${id}-recipient`"
    v-model="address.recipient"
    label="Recipient"
    maxlength="80"
    :wrong="wrong.recipient"
  />
  <BigField
    :id="`${id}-street`"
    v-model="address.street"
    label="Street and number"
    maxlength="120"
    :wrong="wrong.street"
  />
  <div class="town">
    <div>
      <BigField
        :id="`${id}-postcode`"
        v-model="address.postcode"
        label="Postcode"
        kind="code"
        maxlength="12"
        :wrong="wrong.postcode"
      />
    </div>
    <div>
      <BigField :id="`${id}-city`" v-model="address.city" label="Town" maxlength="80" :wrong="wrong.city" />
    </div>
  </div>
</template>

<style scoped>
.town {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 8px;
}
</style>
