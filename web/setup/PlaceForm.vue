<script setup lang="ts">
import TimeField from '../look/TimeField.vue';
import { WEEKDAYS } from '../../core/locale.ts';
import type { OrderPlace } from '../../core/promises/order.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

/** Where a place is, and when it is open. */
const { place } = defineProps<{ place: OrderPlace }>();
const emit = defineEmits<{ done: [] }>();
const setup = useSetupStore();

const { form, wrong, remembered, keep } = useSettingsForm(
  place.name,
  () => setup.facts,
  ({ places }) => {
    const { street, postcode, city, at, hours } = places.find(({ id }) => id === place.id) ?? place;
    return {
      street,
      postcode,
      city,
      latitude: at ? String(at.latitude) : '',
      longitude: at ? String(at.longitude) : '',
      always: hours.length === 0,
      hours: WEEKDAYS.map((_day, nth) => ({
        open: hours.length === 0 ? nth < 6 : Boolean(hours[nth]),
        from: hours[nth]?.from ?? '09:00',
        to: hours[nth]?.to ?? '18:00',
      })),
    };
  },
);

async function save(): Promise<void> {
  const degrees = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));
  const [latitude, longitude] = [degrees(form.latitude), degrees(form.longitude)];
  wrong.value = {
    ...(Number.isNaN(latitude) && { latitude: 'Degrees, for example 42.03.' }),
    ...(Number.isNaN(longitude) && { longitude: 'Degrees, for example -66.12.' }),
  };
  if (Object.keys(wrong.value).length > 0) return;
  const details = {
    street: form.street,
    postcode: form.postcode,
    city: form.city,
    latitude,
    longitude,
    hours: form.always ? [] : form.hours.map(({ open, from, to }) => (open ? { from, to } : null)),
  };
  if (await keep((seen) => setup.savePlace(place.id, details, seen), `${place.name} is kept.`)) emit('done');
}
</script>

<template>
  <form class="place" novalidate @submit.prevent="save">
    <TypedBefore :of="remembered" />
    <v-text-field v-model="form.street" label="Street and number" :error-messages="wrong.street" />
    <div class="side-by-side">
      <v-text-field v-model="form.postcode" label="Postcode" :error-messages="wrong.postcode" />
      <v-text-field v-model="form.city" label="Town" :error-messages="wrong.city" />
    </div>
    <div class="side-by-side">
      <v-text-field v-model="form.latitude" label="Latitude" :error-messages="wrong.latitude" />
      <v-text-field v-model="form.longitude" label="Longitude" :error-messages="wrong.longitude" />
    </div>
    <v-checkbox v-model="form.always" label="Goods can be collected at any time" hide-details />
    <template v-if="!form.always">
      <div v-for="(day, nth) in form.hours" :key="nth" class="day">
        <v-checkbox v-model="day.open" :label="WEEKDAYS[nth]" hide-details />
        <TimeField
          v-model="day.from"
          :disabled="!day.open"
          :label="`${WEEKDAYS[nth]}, from`"
          :wrong="wrong[`hours[${nth}].from`] ?? wrong[`hours[${nth}]`]"
        />
        <TimeField
          v-model="day.to"
          :disabled="!day.open"
          :label="`${WEEKDAYS[nth]}, to`"
          :wrong="wrong[`hours[${nth}].to`]"
        />
      </div>
    </template>
    <div class="acts">
      <v-btn @click="emit('done')">Cancel</v-btn>
      <v-btn class="go" type="submit">Keep {{ place.name }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
.place {
  padding: 10px 0 18px;
  display: grid;
  gap: 12px;
}
.day {
  display: grid;
  grid-template-columns: 180px 150px 150px;
  gap: 10px;
  align-items: center;
  padding: 3px 0;
}
.acts {
  display: flex;
  gap: 10px;
  margin-top: 10px;
}
</style>
