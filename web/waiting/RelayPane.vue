<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue';
import { parseMoney } from '../../core/money.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import AddressFields from './AddressFields.vue';
import RelaySending from './RelaySending.vue';
import { usualSending, type Sending } from './relaySending.ts';
import { useRelayStore } from './relayStore.ts';

/** An order that a partner carries out, near whoever gets it. */
const basket = useBasketStore();
const work = useBasketWorkStore();
const relays = useRelayStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const panel = ref<InstanceType<typeof FormPanel>>();
const form = reactive({
  goods: '',
  price: '',
  recipient: '',
  street: '',
  postcode: '',
  city: '',
  phone: '',
  wishes: '',
  card: '',
});
const sending = ref<Sending>({ partnerId: 0, day: '', part: '' });
const price = computed(() => parseMoney(form.price, till.digits));
const busy = ref(false);
const customer = computed(() => basket.basket.customer);
void attempt(relays.load(), '');

// Whoever delivers there on the first day that they can is most likely; what was chosen stays where it can.
watch([() => form.postcode, price, () => relays.partners], () => {
  const of = { postcode: form.postcode, price: price.value ?? 0, digits: till.digits };
  const { chosen } = sending.value;
  sending.value = {
    ...usualSending(relays.partners, of, chosen ? sending.value : undefined),
    ...(chosen && { chosen }),
  };
});

async function take(): Promise<void> {
  const part = parseMoney(sending.value.part || '0', till.digits);
  wrong.value = {
    ...(!form.goods.trim() && { goods: 'What is wanted?' }),
    ...(price.value === null && { price: `Type an amount, for example ${till.example(50)}.` }),
    ...(!form.recipient.trim() && { recipient: 'Who gets it?' }),
    ...(!form.street.trim() && { street: 'Street and number are missing.' }),
    ...(!form.postcode.trim() && { postcode: 'The postcode is missing.' }),
    ...(!form.city.trim() && { city: 'The town is missing.' }),
    ...(!sending.value.partnerId && { partnerId: 'To which partner?' }),
    ...(part === null && { part: `Type an amount, for example ${till.example(40)}.` }),
  };
  if (Object.keys(wrong.value).length > 0 || !customer.value) return panel.value?.focusWrong();
  const { partnerId, day } = sending.value;
  const terms = { ...form, price: price.value ?? 0, partnerId, day, part: part ?? 0 };
  busy.value = true;
  const done = await attempt(
    relays.place(customer.value.id, terms),
    'It goes out as soon as it is paid.',
  ).finally(() => (busy.value = false));
  if (done) work.leave();
  else void panel.value?.focusWrong();
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="Pass an order on"
    done="Take it"
    :busy
    :disabled="!customer || basket.lines.length > 0"
    :wrong="wrong.whole ?? wrong.customerId"
    :remembers="`relay of basket ${basket.basket.id}`"
    :fields="form"
    @accept="take"
    @leave="work.leave()"
  >
    <p v-if="basket.lines.length > 0" class="bad">Finish the basket first, or put it on hold.</p>
    <p v-else-if="customer">
      Ordered by <b>{{ customer.name }}</b>
    </p>
    <div v-else class="say">
      <b>Whose order is it?</b>
      <v-btn @click="work.begin('customer')">Choose the customer</v-btn>
    </div>
    <BigField
      id="relay-goods"
      v-model="form.goods"
      label="What is wanted"
      maxlength="500"
      :wrong="wrong.goods"
    />
    <BigField id="relay-price" v-model="form.price" label="Price" kind="figure" :wrong="wrong.price" />
    <AddressFields id="relay" v-model="form" :wrong />
    <RelaySending
      v-if="form.postcode.trim()"
      v-model="sending"
      :postcode="form.postcode"
      :price="price ?? 0"
      :wrong
    />
    <BigField id="relay-phone" v-model="form.phone" label="Telephone (optional)" maxlength="40" />
    <BigField id="relay-wishes" v-model="form.wishes" label="Wishes (optional)" maxlength="200" />
    <BigField id="relay-card" v-model="form.card" label="Words on the card (optional)" maxlength="300" />
  </FormPanel>
</template>
