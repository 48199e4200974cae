<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, reactive, ref } from 'vue';
import type { ChannelFacts } from '../../contract/channels.ts';
import { ORDER_PAYS, type OrderPay } from '../../core/promises/order.ts';
import MoneyField from '../look/MoneyField.vue';
import RateField from '../look/RateField.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import SettingsForm from './SettingsForm.vue';
import { newChannelKey } from './channelKey.ts';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';
import WordButton from '../look/WordButton.vue';

/** A channel, its key, and what it has paid out; nothing is a new one. */
const { channel } = defineProps<{ channel: ChannelFacts | null }>();

const setup = useSetupStore();
const till = useTillStore();
const notices = useNoticeStore();
const { wrong: settledWrong, attempt } = useAttempt();
const { form, wrong, remembered, keep } = useSettingsForm(
  channel?.name ?? 'A new channel',
  () => setup.facts,
  ({ channels }) => {
    const kept = channels.find(({ id }) => id === channel?.id);
    return {
      name: kept?.name ?? '',
      prefix: kept?.prefix ?? '',
      pay: kept?.pay ?? ('full' as OrderPay),
      leastDeposit: kept?.leastDeposit ?? 250_000,
      active: kept?.active ?? true,
    };
  },
);
/** Shown once: it is kept nowhere. */
const key = ref('');
const settled = reactive({ gross: NaN, fees: 0 });
const PAYS = (Object.keys(ORDER_PAYS) as OrderPay[]).map((value) => ({ value, title: ORDER_PAYS[value] }));

async function save(): Promise<void> {
  wrong.value = Number.isNaN(form.leastDeposit) ? { leastDeposit: 'Type a rate from 0 to 100 %.' } : {};
  if (Object.keys(wrong.value).length > 0) return;
  if (channel) {
    await keep((seen) => setup.saveChannel(channel.id, { ...form }, seen), `${form.name} is set.`);
    return;
  }
  const made = newChannelKey();
  if (!(await keep(() => setup.addChannel({ ...form, key: made }), `${form.name} can send orders.`))) return;
  // It stays in sight here until somebody looks elsewhere.
  key.value = made;
}

async function renew(): Promise<void> {
  if (!channel) return;
  const made = newChannelKey();
  if (await attempt(setup.renewChannelKey(channel.id, made), 'It has another key; the one before is dead.'))
    key.value = made;
}

async function settle(): Promise<void> {
  if (!channel) return;
  settledWrong.value = Number.isNaN(settled.gross) ? { gross: 'How much was settled?' } : {};
  if (Object.keys(settledWrong.value).length > 0) return;
  if (await attempt(setup.settleChannel(channel.id, { ...settled }), 'It is in the books.'))
    Object.assign(settled, { gross: NaN, fees: 0 });
}

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(key.value);
  notices.say('The key is copied.');
}
const address = computed(() => `${location.origin}/api/channel`);
</script>

<template>
  <div>
    <SettingsForm :remembered :title="channel?.name ?? 'A new channel'" @save="save">
      <v-text-field v-model="form.name" label="Name" maxlength="60" :error-messages="wrong.name" />
      <v-text-field
        v-model="form.prefix"
        label="Its numbers begin with"
        placeholder="WEB"
        maxlength="5"
        :error-messages="wrong.prefix"
      />
      <v-select v-model="form.pay" :items="PAYS" label="Paid before it is picked" />
      <RateField
        v-if="form.pay === 'deposit'"
        v-model="form.leastDeposit"
        label="Least deposit"
        :wrong="wrong.leastDeposit"
      />
      <v-checkbox v-model="form.active" label="It takes orders" hide-details />
      <div class="whole">
        <div v-if="key" class="key" role="status">
          <p><b>Its key is shown once: copy it now.</b> It sends to {{ address }}.</p>
          <code class="num">{{ key }}</code>
          <v-btn @click="copy">Copy the key</v-btn>
        </div>
        <template v-if="channel">
          <p>
            Its key ends with <b class="num">{{ channel.keyEnd }}</b>.
            <WordButton @click="renew">Give it another key</WordButton>
          </p>
          <p v-if="channel.address">
            It is told at <span class="num">{{ channel.address }}</span>.
            <span v-if="channel.untold > 0" :class="channel.trouble ? 'bad' : 'soft'"
              >{{ counted(channel.untold, 'change is', 'changes are') }} on the way<template
                v-if="channel.trouble"
                >: {{ channel.trouble }}</template
              ></span
            >
          </p>
          <p v-else class="soft">It has not said yet where it is told how its orders stand.</p>
        </template>
      </div>
    </SettingsForm>
    <form v-if="channel" class="settle" aria-label="Paid out" @submit.prevent="settle">
      <h3 class="label">Paid out</h3>
      <p>
        Customers have paid <b class="num">{{ till.money(channel.owed) }}</b> there that the shop has not got
        yet.
      </p>
      <div class="row">
        <MoneyField v-model="settled.gross" label="Settled" :wrong="settledWrong.gross" />
        <MoneyField v-model="settled.fees" label="Of which it kept" :wrong="settledWrong.fees" />
        <v-btn type="submit" :disabled="channel.owed <= 0">It was paid out</v-btn>
      </div>
    </form>
  </div>
</template>

<style scoped>
.whole {
  grid-column: 1 / -1;
  display: grid;
  gap: 10px;
}
.key {
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
  padding: 10px 14px;
  display: grid;
  gap: 8px;
  justify-items: start;
}
.key code {
  overflow-wrap: anywhere;
}
.settle {
  display: grid;
  gap: 10px;
  margin-top: 18px;
}
.row {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
}
</style>
