<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { PromiseView } from '../../contract/promises.ts';
import type { RelayTryView } from '../../contract/relay.ts';
import { parseMoney } from '../../core/money.ts';
import { RELAY_SAYINGS, RELAY_STATES, resendProblem } from '../../core/promises/relay.ts';
import { isOpen } from '../../core/promises/state.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import PartnerMessages from './PartnerMessages.vue';
import RelaySending from './RelaySending.vue';
import { usualSending, type Sending } from './relaySending.ts';
import { useRelayStore } from './relayStore.ts';
import SayToPartner from './SayToPartner.vue';

/** A relay: who gets what, to whom it was sent, and what was said. */
const { view } = defineProps<{ view: PromiseView }>();
const relays = useRelayStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const relay = computed(() => view.relay);
const last = computed(() => relay.value?.tries[0]);
const sending = ref<Sending>({ partnerId: 0, day: '', part: '' });
/** What was refused is sent again, to the same partner or another. */
const again = computed(
  () =>
    isOpen(view.state) &&
    view.state !== 'begun' &&
    relay.value !== null &&
    resendProblem(relay.value.state) === null,
);
/** What the partner said who was asked last, where they have refused it. */
const refusal = computed(() => last.value?.messages.findLast(({ kind }) => kind === 'refused'));
void attempt(relays.load(), '');
watch(
  [() => view.id, () => last.value?.id, () => relays.partners],
  () => {
    if (!relay.value || !last.value) return;
    const of = { postcode: relay.value.postcode, price: view.lines[0]?.net ?? 0, digits: till.digits };
    sending.value = usualSending(relays.partners, of, last.value);
  },
  { immediate: true },
);

function send(): Promise<boolean> {
  const part = parseMoney(sending.value.part || '0', till.digits) ?? -1;
  const { partnerId, day } = sending.value;
  return attempt(relays.sendAgain(view.id, { partnerId, day, part }), 'It is on its way again.');
}
defineExpose({ send });

const stateOf = ({ state, trouble }: RelayTryView): string => {
  const plain = state === 'withdrawn' ? 'Taken back' : RELAY_STATES[state];
  return trouble ? `${plain}: ${trouble}` : plain;
};
</script>

<template>
  <div v-if="relay" class="relay">
    <dl class="facts">
      <dt>What</dt>
      <dd>
        <b>{{ relay.goods }}</b>
      </dd>
      <dt>For</dt>
      <dd>
        <b>{{ relay.recipient }}</b>, {{ relay.street }}, <span class="num">{{ relay.postcode }}</span>
        {{ relay.city }}
      </dd>
      <template v-if="relay.phone">
        <dt>Telephone</dt>
        <dd class="num">{{ relay.phone }}</dd>
      </template>
      <template v-if="relay.wishes">
        <dt>Wishes</dt>
        <dd>{{ relay.wishes }}</dd>
      </template>
      <template v-if="relay.card">
        <dt>Card</dt>
        <dd>{{ relay.card }}</dd>
      </template>
    </dl>
    <form v-if="again" class="again" aria-label="Send it again" @submit.prevent="send">
      <p v-if="refusal">
        <b>{{ last?.partner }}: {{ RELAY_SAYINGS.refused }}</b
        ><template v-if="refusal.words">. {{ refusal.words }}</template>
      </p>
      <RelaySending v-model="sending" :postcode="relay.postcode" :price="view.lines[0]?.net ?? 0" :wrong />
    </form>
    <table v-for="one in relay.tries" :key="one.id">
      <caption class="label">
        {{
          one.partner
        }},
        {{
          till.calendarDay(one.day)
        }}
      </caption>
      <tbody>
        <tr>
          <td class="soft when">{{ till.time(one.madeAt, 'full') }}</td>
          <td>
            <b>{{ stateOf(one) }}</b> <span class="soft">{{ one.by }}</span>
          </td>
          <td class="num right">{{ till.money(one.part) }}</td>
        </tr>
        <PartnerMessages :messages="one.messages" :partner="one.partner" />
      </tbody>
    </table>
    <SayToPartner
      v-if="last && last.state !== 'waiting'"
      :partner="last.partner"
      :about="view.id"
      :say="(said) => relays.reply(view.id, said)"
    />
  </div>
</template>

<style scoped>
.relay {
  display: grid;
  gap: 18px;
}
.facts {
  grid-template-columns: auto 1fr;
}
.again {
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
  padding: 10px 12px;
}
.when {
  white-space: nowrap;
  font-size: 14px;
}
</style>
