<script setup lang="ts">
import { nextTick, onMounted, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { ReturnableLine } from '../../contract/returns.ts';
import { formatQuantity, ONE } from '../../core/quantity.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { typesEntry } from '../keys/entry.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import BigField from '../look/BigField.vue';
import FindReturn from './FindReturn.vue';
import ReturnReason from './ReturnReason.vue';
import { useReturnStore } from './returnStore.ts';
import RowButton from '../look/RowButton.vue';
import StepperField from '../look/StepperField.vue';
import WaitButton from '../look/WaitButton.vue';

const returns = useReturnStore();
const work = useBasketWorkStore();
const till = useTillStore();
const countersigns = useCountersignStore();
const panel = useTemplateRef<HTMLElement>('panel');
const shown = ref('');
const busy = ref(false);

onMounted(async () => {
  await nextTick();
  panel.value?.querySelector<HTMLElement>(returns.sale ? '.list-row:not(:disabled)' : 'input')?.focus();
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
    leave: (event) => (typesEntry(event) ? false : work.leave()),
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
      <ol class="lines ruled">
        <li v-for="(line, at) in returns.lines" :key="line.position">
          <RowButton
            picks
            :on="Boolean(returns.chosen[line.position])"
            :disabled="line.left === 0"
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
          </RowButton>
          <div v-if="returns.chosen[line.position] && !line.whole" class="step">
            <StepperField
              :less="`One less of ${line.name}`"
              :more="`One more of ${line.name}`"
              :no-more="(returns.chosen[line.position] ?? 0) >= line.left"
              @step="(by) => step(line, by)"
            >
              <b class="num">{{ formatQuantity(returns.chosen[line.position] ?? 0) }}</b>
            </StepperField>
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
        <RowButton picks :on="returns.way === 'share'" @click="returns.way = 'share'">
          <span class="what">What was paid for it</span
          ><b class="num">{{ till.money(returns.worth(returns.quote.chosen)) }}</b>
        </RowButton>
        <RowButton picks :on="returns.way === 're-price'" @click="returns.way = 're-price'">
          <span class="what">Less what the rest costs without it</span
          ><b class="num">{{ till.money(returns.worth(returns.quote.other)) }}</b>
        </RowButton>
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
          <WaitButton class="go" :loading="busy" @click="does(returns.put)"
            >Take back <KeyHint of="returning.takeBack"
          /></WaitButton>
        </div>
      </footer>
    </template>
    <FindReturn v-else />
  </section>
</template>

<style scoped>
.step {
  padding: 8px 12px 8px 48px;
}
/* It belongs to the row above it. */
.step,
.serial {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.serial {
  display: grid;
  gap: 4px;
  padding: 0 12px 10px 48px;
  font-size: 14px;
}
.panel .list-row {
  padding-inline: 12px;
}
.ways {
  border: var(--group);
  border-bottom: 0;
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
  padding: 8px 18px 18px;
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
