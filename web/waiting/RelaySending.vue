<script setup lang="ts">
import { computed } from 'vue';
import { firstRelayDay, partnersFor, relayDayProblem } from '../../core/promises/relay.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { usualSending, type Sending } from './relaySending.ts';
import { useRelayStore } from './relayStore.ts';
import WordButton from '../look/WordButton.vue';

/** To whom something is passed on, for when, and what they get: what is too late is said before it is sent. */
const { postcode, price, wrong } = defineProps<{
  postcode: string;
  /** What the customer pays before tax. */
  price: number;
  wrong: Readonly<Record<string, string | undefined>>;
}>();
const sending = defineModel<Sending>({ required: true });
const relays = useRelayStore();
const till = useTillStore();
const fitting = computed(() => partnersFor(relays.partners, postcode));
const partner = computed(() => fitting.value.find(({ id }) => id === sending.value.partnerId));
const late = computed(() =>
  partner.value && sending.value.day
    ? relayDayProblem(partner.value, sending.value.day, partner.value.now)
    : null,
);
const first = computed(() => (partner.value ? firstRelayDay(partner.value, partner.value.now) : null));
const choices = computed(() =>
  fitting.value.map(({ id, name, city }) => ({ value: id, words: city ? `${name}, ${city}` : name })),
);
/** Another partner has another first day and another part. */
function choose(partnerId: number | null): void {
  const of = { postcode, price, digits: till.digits };
  const { day } = sending.value;
  sending.value = { ...usualSending(relays.partners, of, { partnerId: partnerId ?? 0, day }), chosen: true };
}
</script>

<template>
  <div class="sending">
    <span class="label">Partner</span>
    <ChipChoice
      v-if="choices.length > 0"
      :model-value="sending.partnerId"
      label="Which partner"
      :options="choices"
      @update:model-value="choose"
    />
    <p v-else class="soft">No partner delivers there.</p>
    <p v-if="wrong.partnerId" class="bad" role="alert">{{ wrong.partnerId }}</p>
    <p v-if="partner?.takes" class="soft">{{ partner.takes }}</p>
    <DateField v-model="sending.day" label="Delivered on" :wrong="wrong.day ?? late ?? undefined" />
    <WordButton v-if="late && first" @click="sending = { ...sending, day: first ?? '' }">
      Take {{ till.calendarDay(first) }}
    </WordButton>
    <BigField
      id="relay-part"
      v-model="sending.part"
      label="The partner gets"
      kind="figure"
      :wrong="wrong.part"
    />
  </div>
</template>

<style scoped>
.sending {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.sending > :deep(.v-input),
.sending > :deep(.big-field) {
  width: 100%;
}
</style>
