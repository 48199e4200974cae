<script setup lang="ts">
import { computed, nextTick, onUnmounted, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { writeFiguresAs } from '../../core/locale.ts';
import { formatMoney } from '../../core/money.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { editionHere, loadAnew } from '../net/edition.ts';
import { customerChannel, type CustomerAnswer, type CustomerSight } from './customerDisplay.ts';

const route = useRoute();
const sight = shallowRef<CustomerSight | null>(null);
const list = useTemplateRef<HTMLElement>('list');
const channel = customerChannel(Number(route.params.till));
const answer = (what: CustomerAnswer) => channel.postMessage(what);
channel.addEventListener('message', ({ data }: MessageEvent<CustomerSight | CustomerAnswer>) => {
  if ('kind' in data) return;
  followTill(data.edition);
  writeFiguresAs(data.locale);
  sight.value = data;
});
answer({ kind: 'hello' });
onUnmounted(() => channel.close());

/** Where the window of this device keeps for which edition it was loaded. */
const LOADED_FOR = 'mondrel.edition';

/** The till has other pages than this window: they are taken over, once. */
function followTill(edition: string): void {
  if (edition === editionHere() || sessionStorage.getItem(LOADED_FOR) === edition) return;
  sessionStorage.setItem(LOADED_FOR, edition);
  void loadAnew(route.fullPath);
}

const money = (amount: number) => formatMoney(amount, sight.value?.digits ?? 2);
const idle = computed(() => !sight.value || (sight.value.phase !== 'done' && sight.value.lines.length === 0));

// The newest line stays in sight.
watch(sight, async () => {
  await nextTick();
  list.value?.scrollTo({ top: list.value.scrollHeight });
});
</script>

<template>
  <main class="display">
    <h1 class="shop">{{ sight?.shop || 'Mondrel' }}</h1>
    <p v-if="idle" class="hello">Welcome</p>
    <section v-else-if="sight?.phase === 'done'" class="thanks" role="status">
      <p class="big">Thank you</p>
      <p>
        Paid <b class="num">{{ money(sight.total) }} {{ sight.currency }}</b> · receipt
        <span class="num">{{ sight.number }}</span>
      </p>
      <p v-if="sight.points">{{ sight.points }}</p>
      <p v-if="sight.change > 0" class="change">
        Your change <b class="num">{{ money(sight.change) }}</b>
      </p>
    </section>
    <template v-else-if="sight">
      <ol ref="list" class="lines">
        <li v-for="line in sight.lines" :key="line.id">
          <span class="num q"
            >{{ formatQuantity(line.quantity) }}{{ line.unit === 'each' ? '' : ` ${line.unit}` }}</span
          >
          <span class="name"
            >{{ line.name
            }}<small v-for="(record, at) in line.records" :key="at"
              >{{ record.why }} <span class="num">{{ money(record.amount) }}</span></small
            ></span
          >
          <span class="num net">{{ money(line.net) }}</span>
        </li>
      </ol>
      <div v-if="sight.roundUp" class="round">
        <p>
          Round up by <b class="num">{{ money(sight.roundUp.amount) }}</b> for<br />{{ sight.roundUp.fund }}?
        </p>
        <button type="button" @click="answer({ kind: 'round-up', yes: true })">Yes</button>
        <button type="button" @click="answer({ kind: 'round-up', yes: false })">No thanks</button>
      </div>
      <p v-if="sight.given" class="given">
        Thank you for <b class="num">{{ money(sight.given.amount) }}</b> to {{ sight.given.fund }}
      </p>
      <footer class="sum">
        <span v-if="sight.saved > 0" class="saved"
          >You save <b class="num">{{ money(sight.saved) }}</b></span
        >
        <span class="total"
          >{{ sight.left !== sight.total && sight.phase === 'paying' ? 'Left to pay' : 'Total' }}
          <b class="num">{{ money(sight.phase === 'paying' ? sight.left : sight.total) }}</b></span
        >
      </footer>
    </template>
  </main>
</template>

<style scoped>
.display {
  height: 100vh;
  display: flex;
  flex-direction: column;
  background: var(--paper);
  font-size: 24px;
}
.shop {
  background: var(--band);
  color: var(--on-band);
  padding: 18px 32px;
  font-size: 28px;
  font-weight: 700;
}
.hello,
.thanks {
  margin: auto;
  text-align: center;
  font-size: 40px;
}
.hello,
.thanks .big {
  font-size: 96px;
  font-weight: 700;
}
.change b {
  font-size: 72px;
}
.lines {
  flex: 1;
  overflow-y: auto;
  background: var(--surface);
}
.lines li {
  display: grid;
  grid-template-columns: 110px 1fr auto;
  gap: 18px;
  padding: 14px 32px;
  border-bottom: var(--hair);
}
.name small {
  display: block;
  font-size: 18px;
  border-left: 5px solid var(--yellow);
  background: var(--yellow-wash);
  padding: 2px 8px;
  width: fit-content;
  margin-top: 4px;
}
.net {
  font-weight: 600;
}
.round {
  background: var(--yellow);
  color: var(--on-yellow);
  border-top: var(--rule);
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 16px;
  align-items: center;
  padding: 20px 32px;
}
.round button {
  border: 3px solid currentColor;
  padding: 16px 32px;
  font-weight: 700;
}
.given {
  background: var(--yellow-wash);
  padding: 12px 32px;
}
.sum {
  border-top: var(--rule);
  padding: 18px 32px;
  display: flex;
  justify-content: space-between;
  align-items: end;
}
.total {
  margin-left: auto;
  font-weight: 700;
}
.total b {
  font-size: 84px;
  line-height: 1;
  margin-left: 18px;
}
</style>
