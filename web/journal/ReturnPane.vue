<script setup lang="ts">
import { nextTick, onMounted, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { ReturnableLine } from '../../contract/returns.ts';
import { formatQuantity, ONE } from '../../core/quantity.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { ENTRY } from '../sale/scanner.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import BigField from '../look/BigField.vue';
import FindReturn from './FindReturn.vue';
import ReturnReason from './ReturnReason.vue';
import { useReturnStore } from './returnStore.ts';

const returns = useReturnStore();
const work = useBasketWorkStore();
const till = useTillStore();
const countersigns = useCountersignStore();
const panel = useTemplateRef<HTMLElement>('panel');
const shown = ref('');
const busy = ref(false);

onMounted(async () => {
  await nextTick();
  panel.value?.querySelector<HTMLElement>(returns.sale ? '.line:not(:disabled)' : 'input')?.focus();
});

/** Takes a line back, one unit to begin with, or leaves it after all. */
function toggle(line: ReturnableLine): void {
  returns.take(line, returns.chosen[line.position] ? 0 : ONE);
}

function step(line: ReturnableLine, by: number): void {
  returns.take(line, (returns.chosen[line.position] ?? 0) + by * ONE);
}

async function does(act: () => Promise<unknown>): Promise<void> {
  shown.value = returns.wrong();
  if (shown.value || busy.value) return;
  busy.value = true;
  await act();
  busy.value = false;
}

/** Digits and letters are text in a field. */
const isTyped = ({ target }: KeyboardEvent) => target instanceof HTMLInputElement || !returns.sale;
// Wherever the hand is: a receipt that is scanned leaves it in the entry field.
useKeys(
  'returning',
  {
    choose: (event, nth) => {
      const line = isTyped(event) ? undefined : returns.lines[nth];
      return line && line.left > 0 ? toggle(line) : false;
    },
    swap: (event) => (isTyped(event) ? false : does(returns.swap)),
    takeBack: () => (returns.sale ? does(returns.put) : false),
    // What is being typed into the entry field is cleared first.
    leave: ({ target }) =>
      target instanceof HTMLInputElement && target.name === ENTRY && target.value ? false : work.leave(),
  },
  { when: () => !countersigns.asking },
);
</script>

<template>
  <section ref="panel" class="panel" aria-labelledby="return-title" tabindex="-1">
    <template v-if="returns.sale">
      <h2 id="return-title" class="title">
        Return from <span class="num">{{ returns.sale.receipt }}</span>
      </h2>
      <p class="soft">
        {{ till.time(returns.sale.soldAt, 'full') }}
        <template v-if="returns.sale.customer"> · {{ returns.sale.customer.name }}</template>
      </p>
      <p v-if="returns.sale.late" class="say">
        <b>The time for returns has passed.</b> Somebody with more rights can approve it.
      </p>
      <ol class="lines">
        <li
          v-for="(line, at) in returns.lines"
          :key="line.position"
          :class="{ on: returns.chosen[line.position] }"
        >
          <button
            type="button"
            class="line"
            :disabled="line.left === 0"
            :aria-pressed="Boolean(returns.chosen[line.position])"
            :title="line.why"
            @click="toggle(line)"
          >
            <kbd>{{ at + 1 }}</kbd>
            <span class="what"
              ><b>{{ line.name }}</b>
              <span class="soft">{{
                line.why
                  ? line.why
                  : line.left === 0
                    ? 'came back already'
                    : `${formatQuantity(line.left)} of ${formatQuantity(line.quantity)} can come back`
              }}</span></span
            >
            <span class="num">{{ till.money(line.net) }}</span>
          </button>
          <div v-if="returns.chosen[line.position] && !line.whole" class="step">
            <button type="button" :aria-label="`One less of ${line.name}`" @click="step(line, -1)">−</button>
            <b class="num">{{ formatQuantity(returns.chosen[line.position] ?? 0) }}</b>
            <button
              type="button"
              :aria-label="`One more of ${line.name}`"
              :disabled="(returns.chosen[line.position] ?? 0) >= line.left"
              @click="step(line, 1)"
            >
              +
            </button>
          </div>
          <div v-if="returns.chosen[line.position] && line.serial !== null" class="serial">
            <BigField
              :model-value="returns.serials[line.position] ?? ''"
              label="Serial number on the goods"
              kind="code"
              maxlength="40"
              @update:model-value="(typed) => (returns.serials[line.position] = typed)"
            />
          </div>
        </li>
      </ol>
      <BigField id="return-reason" v-model="returns.reason" label="Why" maxlength="120" />
      <ReturnReason />
      <div v-if="returns.quote?.other" class="ways" role="group" aria-label="How the refund is worked out">
        <button type="button" :aria-pressed="returns.way === 'share'" @click="returns.way = 'share'">
          <span>What was paid for it</span
          ><b class="num">{{ till.money(returns.worth(returns.quote.chosen)) }}</b>
        </button>
        <button type="button" :aria-pressed="returns.way === 're-price'" @click="returns.way = 're-price'">
          <span>Less what the rest costs without it</span
          ><b class="num">{{ till.money(returns.worth(returns.quote.other)) }}</b>
        </button>
      </div>
      <footer class="foot">
        <p class="bad" role="alert">{{ shown }}</p>
        <p class="refund">
          <span>Refund</span
          ><b class="num" data-test="refund">{{ till.money(returns.worth(returns.figures)) }}</b>
        </p>
        <div class="acts">
          <v-btn @click="work.leave()">Leave <KeyHint of="returning.leave" /></v-btn>
          <v-btn :disabled="returns.parts.length === 0" @click="does(returns.swap)"
            >Swap <KeyHint of="returning.swap"
          /></v-btn>
          <v-btn class="go" :loading="busy" @click="does(returns.put)"
            >Take back <KeyHint of="returning.takeBack"
          /></v-btn>
        </div>
      </footer>
    </template>
    <FindReturn v-else />
  </section>
</template>

<style scoped>
.lines {
  list-style: none;
  border-top: var(--group);
}
.lines li {
  border-bottom: var(--hair);
}
.lines .on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.line {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: 52px;
  padding: 6px 12px;
}
.line:disabled {
  color: var(--soft);
}
.what {
  min-width: 0;
  display: grid;
}
.what .soft {
  font-size: 14px;
}
.step {
  display: grid;
  grid-template-columns: 52px 60px 52px;
  text-align: center;
  align-items: center;
  padding: 0 12px 8px 48px;
}
.step button {
  min-height: 44px;
  border: 1.5px solid var(--ink);
  font-size: 22px;
  text-align: center;
  background: var(--surface);
}
.serial {
  display: grid;
  gap: 4px;
  padding: 0 12px 10px 48px;
  font-size: 14px;
}
.ways {
  display: grid;
  border: var(--group);
}
.ways button {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 10px 12px;
  min-height: 48px;
  align-items: center;
}
.ways button + button {
  border-top: 1px solid var(--ink);
}
.ways button[aria-pressed='true'] {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.refund {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  font-size: 18px;
  font-weight: 700;
}
.refund .num {
  font-size: 34px;
}
.foot {
  position: sticky;
  bottom: -18px;
  margin: auto -18px -18px;
  padding: 8px 18px 14px;
  background: var(--paper);
  border-top: var(--group);
}
.foot .acts {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 8px;
}
.foot :deep(.v-btn) {
  padding-inline: 8px;
}
.say {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 12px;
}
</style>
