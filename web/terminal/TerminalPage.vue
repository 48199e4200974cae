<script setup lang="ts">
import SignaturePad from 'signature_pad';
import { computed, nextTick, onUnmounted, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { oneLook } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useRoute } from 'vue-router';
import type { TerminalFace, TerminalPress } from '../../devices/terminal/face/face.ts';
import { BANK_ANSWERS, LINES, SAMPLE_CARDS } from '../../devices/terminal/face/sampleCards.ts';
import { formatMoney } from '../../core/money.ts';
import { tipChoices } from '../../core/payment/tips.ts';
import { luhnDigit } from '../../core/giftCards/storedValue.ts';
import { formatRate } from '../../core/rate.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useTerminalFaceStore } from './terminalFaceStore.ts';

const LOOK_MS = 400;
const PIN = /^\d{4}$/;

const terminals = useTerminalFaceStore();
const route = useRoute();
const serial = computed(() => String(route.params.serial ?? ''));
const [face, showFace] = shown<TerminalFace | null>(null);
const known = shallowRef<{ serial: string; name: string }[]>([]);
/** What was pressed and refused: it stands until the next press. */
const trouble = ref('');
/** Why the terminal cannot be looked at; it is looked at again and again. */
const unseen = ref('');
const cardId = ref(SAMPLE_CARDS[0]?.id ?? '');
const pin = ref('');
const keyed = reactive({ number: '', wrong: '' });
const pad = useTemplateRef<HTMLCanvasElement>('pad');
let drawing: SignaturePad | undefined;

async function look(): Promise<void> {
  try {
    if (serial.value) await showFace(terminals.look(serial.value));
    else known.value = await terminals.known();
    unseen.value = '';
  } catch (error) {
    unseen.value = problemWords(error);
  }
}

async function press(what: TerminalPress): Promise<void> {
  try {
    await showFace(terminals.press(serial.value, what));
    trouble.value = '';
  } catch (error) {
    trouble.value = problemWords(error);
  }
}

async function unpack(): Promise<void> {
  try {
    const fresh = await terminals.unpack();
    window.location.assign(`/terminal/${fresh.serial}`);
  } catch (error) {
    trouble.value =
      error instanceof ApiProblem && error.details.status === 401
        ? 'Sign in here first, as somebody who sets up the shop.'
        : problemWords(error);
  }
}

void look();
watch(serial, look);
const clock = setInterval(oneLook(look), LOOK_MS);
onUnmounted(() => clearInterval(clock));

const request = computed(() => face.value?.request ?? null);
const money = (amount: number) => formatMoney(amount, request.value?.digits ?? 2);
const name = computed(() => known.value.find((one) => one.serial === serial.value)?.name ?? serial.value);
void terminals.known().then(
  (all) => (known.value = all),
  () => {},
);
const total = computed(() => {
  const { answer } = face.value ?? {};
  return (request.value?.amount ?? 0) + (answer?.tip ?? 0) + (answer?.roundUp ?? 0);
});
const tips = computed(() => (request.value ? tipChoices(request.value.amount, request.value.tips) : []));

watch(
  () => face.value?.step,
  async (step, before) => {
    if (step === before) return;
    pin.value = '';
    Object.assign(keyed, { number: '', wrong: '' });
    if (step !== 'signature') return;
    await nextTick();
    if (pad.value) drawing = new SignaturePad(pad.value, { penColor: '#15171c' });
  },
);

async function typePin(digit: string): Promise<void> {
  if (pin.value.length < 4) pin.value += digit;
}

async function enterPin(): Promise<void> {
  if (!PIN.test(pin.value)) return;
  // The stand-in's sample cards all have this PIN; it is compared here, as on a real terminal.
  await press({ press: 'pin', right: pin.value === '1234' });
  pin.value = '';
}

async function sign(): Promise<void> {
  if (!drawing || drawing.isEmpty()) {
    trouble.value = 'Sign in the field, please.';
    return;
  }
  const path = drawing
    .toData()
    .map(({ points }) =>
      points.map(({ x, y }, at) => `${at ? 'L' : 'M'}${Math.round(x)} ${Math.round(y)}`).join(' '),
    )
    .join(' ');
  await press({ press: 'signature', path });
}

/** The number that is keyed stays on this page: only its last four digits and a token of the bank's leave it. */
async function key(): Promise<void> {
  const digits = keyed.number.replaceAll(/\D/g, '');
  if (digits.length < 12 || luhnDigit(digits.slice(0, -1)) !== Number(digits.at(-1))) {
    keyed.wrong = 'The number is not right: type it again.';
    return;
  }
  keyed.number = '';
  await press({
    press: 'keyed',
    card: {
      token: `tok-${crypto.randomUUID()}`,
      brand: 'Lantern',
      lastFour: digits.slice(-4),
      kind: 'credit',
    },
  });
}
</script>

<template>
  <main v-if="!serial" class="shelf">
    <h1>Card terminals</h1>
    <ul>
      <li v-for="one in known" :key="one.serial">
        <router-link :to="`/terminal/${one.serial}`"
          >{{ one.name }} <span class="num">{{ one.serial }}</span></router-link
        >
      </li>
    </ul>
    <v-btn @click="unpack">Unpack a new terminal</v-btn>
    <p class="bad" role="alert">{{ trouble || unseen }}</p>
  </main>
  <main v-else class="table">
    <section class="device" aria-label="Terminal">
      <header>
        <b>{{ name }}</b><span class="num">{{ serial }}</span>
      </header>
      <div class="screen" :data-step="face?.step" aria-live="polite">
        <template v-if="face?.pairingCode">
          <p>Type this code in Setup</p>
          <p class="num huge" data-test="pairing-code">{{ face.pairingCode }}</p>
        </template>
        <template v-else-if="!request || face?.step === 'idle'">
          <p class="huge">Ready</p>
          <p>Waiting for a till</p>
        </template>
        <template v-else>
          <p class="from">{{ request.from }}</p>
          <p class="num huge">
            {{ money(total) }} <small>{{ request.currency }}</small>
          </p>
          <template v-if="face?.step === 'round-up'">
            <p>
              Round up by <b class="num">{{ money(request.roundUp?.amount ?? 0) }}</b> for
              {{ request.roundUp?.fund }}?
            </p>
            <div class="keys two">
              <button type="button" class="yes" @click="press({ press: 'round-up', yes: true })">Yes</button>
              <button type="button" @click="press({ press: 'round-up', yes: false })">No</button>
            </div>
          </template>
          <template v-else-if="face?.step === 'tip'">
            <p>Add a tip?</p>
            <div class="keys two">
              <button
                v-for="tip in tips"
                :key="tip.rate"
                type="button"
                @click="press({ press: 'tip', amount: tip.amount })"
              >
                {{ formatRate(tip.rate) }} <span class="num">{{ money(tip.amount) }}</span>
              </button>
              <button type="button" @click="press({ press: 'tip', amount: 0 })">No tip</button>
            </div>
          </template>
          <p v-else-if="face?.step === 'card'" class="say">Tap, insert or swipe</p>
          <form v-else-if="face?.step === 'key-card'" class="keyed" @submit.prevent="key">
            <label for="card-number">Card number</label>
            <input
              id="card-number"
              v-model="keyed.number"
              class="num"
              inputmode="numeric"
              autocomplete="off"
            />
            <p v-if="keyed.wrong" role="alert">{{ keyed.wrong }}</p>
            <button type="submit" class="yes">OK</button>
          </form>
          <template v-else-if="face?.step === 'pin'">
            <p>
              PIN <span class="num">{{ '•'.repeat(pin.length) || '····' }}</span>
            </p>
            <div class="keys three">
              <button
                v-for="digit in ['1', '2', '3', '4', '5', '6', '7', '8', '9']"
                :key="digit"
                type="button"
                @click="typePin(digit)"
              >
                {{ digit }}
              </button>
              <button type="button" @click="pin = ''">Clear</button>
              <button type="button" @click="typePin('0')">0</button>
              <button type="button" class="yes" @click="enterPin">OK</button>
            </div>
          </template>
          <template v-else-if="face?.step === 'signature'">
            <canvas ref="pad" width="300" height="110" aria-label="Sign here" />
            <div class="keys two">
              <button type="button" @click="drawing?.clear()">Clear</button>
              <button type="button" class="yes" @click="sign">OK</button>
            </div>
          </template>
          <p v-else-if="face?.step === 'working'" class="say">Asking the bank …</p>
          <p v-else class="say result" :class="face?.answer?.state">{{ face?.answer?.words }}</p>
        </template>
        <p v-if="trouble || unseen" class="trouble" role="alert">{{ trouble || unseen }}</p>
      </div>
      <footer>
        <button type="button" class="stop" @click="press({ press: 'stop' })">Stop</button>
        <button v-if="face?.step === 'result'" type="button" class="yes" @click="press({ press: 'wake' })">
          Done
        </button>
      </footer>
    </section>
    <section class="around" aria-label="The customer and the bank">
      <h2>The customer's card</h2>
      <div class="cards" role="group" aria-label="Card">
        <button
          v-for="card in SAMPLE_CARDS"
          :key="card.id"
          type="button"
          :class="card.kind"
          :aria-pressed="card.id === cardId"
          @click="cardId = card.id"
        >
          <b>{{ card.brand }}</b><span class="num">·· {{ card.lastFour }}</span
          ><small>{{ card.kind }}{{ card.needsPin ? ', PIN 1234' : '' }}</small>
        </button>
      </div>
      <div class="acts">
        <v-btn :disabled="face?.step !== 'card'" @click="press({ press: 'card', entry: 'tap', cardId })"
          >Tap</v-btn
        >
        <v-btn :disabled="face?.step !== 'card'" @click="press({ press: 'card', entry: 'insert', cardId })"
          >Insert</v-btn
        >
        <v-btn :disabled="face?.step !== 'card'" @click="press({ press: 'card', entry: 'swipe', cardId })"
          >Swipe</v-btn
        >
      </div>
      <h2>The bank</h2>
      <div class="choices" role="group" aria-label="The bank">
        <button
          v-for="(words, answer) in BANK_ANSWERS"
          :key="answer"
          type="button"
          :aria-pressed="face?.bank === answer"
          @click="press({ press: 'set', bank: answer })"
        >
          {{ words }}
        </button>
      </div>
      <h2>The line</h2>
      <div class="choices" role="group" aria-label="The line">
        <button
          v-for="(words, line) in LINES"
          :key="line"
          type="button"
          :aria-pressed="face?.line === line"
          @click="press({ press: 'set', line })"
        >
          {{ words }}
        </button>
      </div>
      <v-btn v-if="face?.step === 'working'" @click="press({ press: 'answer-now' })"
        >The bank answers now</v-btn
      >
      <p class="soft">This terminal stands in for a real one. No money moves.</p>
    </section>
  </main>
</template>

<style scoped>
.shelf {
  padding: 32px;
  display: grid;
  gap: 18px;
  justify-items: start;
  font-size: 18px;
}
.shelf a {
  display: block;
  padding: 12px 0;
  color: var(--ink);
}
.table {
  display: grid;
  grid-template-columns: 380px minmax(0, 520px);
  gap: 48px;
  padding: 28px;
  justify-content: center;
  min-height: 100vh;
  background: var(--paper);
  overflow-y: auto;
}
.device {
  background: #2b2e36;
  color: #fff;
  padding: 18px;
  border: 6px solid #15171c;
  display: flex;
  flex-direction: column;
  gap: 14px;
  height: 620px;
}
.device header,
.device footer {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.screen {
  flex: 1;
  background: #f4efe2;
  color: #15171c;
  padding: 16px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  font-size: 19px;
}
.huge {
  font-size: 44px;
  font-weight: 700;
  line-height: 1.1;
}
.huge small {
  font-size: 18px;
}
.from {
  font-weight: 700;
}
.say {
  font-size: 24px;
  font-weight: 650;
  margin: auto 0;
}
.result.approved {
  color: #1b4b9b;
}
.result.declined,
.result.cancelled,
.trouble {
  color: #bf2f1d;
}
.keys {
  display: grid;
  gap: 8px;
  margin-top: auto;
}
.keys.two {
  grid-template-columns: 1fr 1fr;
}
.keys.three {
  grid-template-columns: repeat(3, 1fr);
}
.keys button,
.keyed button,
.device footer button {
  border: 2px solid #15171c;
  background: #fff;
  color: #15171c;
  min-height: 52px;
  text-align: center;
  font-weight: 700;
  padding: 0 14px;
}
.device .yes {
  background: #1b4b9b;
  color: #fff;
}
.device .stop {
  background: #bf2f1d;
  color: #fff;
}
.keyed {
  display: grid;
  gap: 10px;
}
.keyed input {
  border: 2px solid #15171c;
  min-height: 48px;
  padding: 0 10px;
  font-size: 20px;
  background: #fff;
}
canvas {
  background: #fff;
  border: 2px solid #15171c;
  touch-action: none;
}
.around {
  display: grid;
  gap: 12px;
  align-content: start;
}
.around h2 {
  font-weight: 700;
  font-size: 18px;
}
.cards,
.acts,
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.cards button {
  width: 150px;
  height: 92px;
  border: 2px solid var(--ink);
  padding: 10px;
  display: grid;
  background: var(--surface);
}
.cards button[aria-pressed='true'],
.choices button[aria-pressed='true'] {
  background: var(--blue);
  color: var(--on-blue);
}
.choices button {
  border: 1.5px solid var(--ink);
  background: var(--surface);
  min-height: 40px;
  padding: 0 12px;
}
@media (max-width: 900px) {
  .table {
    grid-template-columns: 380px;
  }
}
</style>
