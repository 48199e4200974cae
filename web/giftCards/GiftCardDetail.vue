<script setup lang="ts">
import { computed, ref } from 'vue';
import type { StoredValueMove, StoredValueView } from '../../contract/giftCards.ts';
import { STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import WaitButton from '../look/WaitButton.vue';
import { problemWords } from '../net/problem.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { typesEntry } from '../keys/entry.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useGiftCardsStore } from './giftCardsStore.ts';
import { stateWords } from './stateWords.ts';

/** A card: what is on it, how that came about, and what is done when it is lost. */
const { card } = defineProps<{ card: { value: StoredValueView; moves: StoredValueMove[] } }>();
const emit = defineEmits<{ moved: [from: number, to: { id: number }]; leave: [] }>();

const values = useGiftCardsStore();
const session = useSessionStore();
const till = useTillStore();
const notices = useNoticeStore();
const { wrong, attempt } = useAttempt();
const newNumber = ref('');
const moving = ref(false);

const value = computed(() => card.value);
const changes = computed(() => session.may('gift-card.manage') && value.value.balance > 0);

async function change(what: 'freeze' | 'unfreeze'): Promise<void> {
  await values.change(value.value.id, what).catch((error: unknown) => notices.failed(problemWords(error)));
}

async function move(): Promise<void> {
  const from = value.value.id;
  let fresh: { id: number } | undefined;
  moving.value = true;
  const done = values.move(from, newNumber.value).then((made) => (fresh = made));
  const moved = await attempt(done, 'What was left is on the new card.');
  moving.value = false;
  if (moved && fresh) emit('moved', from, fresh);
}
useKeys('form', { leave: (event) => (typesEntry(event) ? false : emit('leave')) });
</script>

<template>
  <section class="panel" aria-labelledby="card-title">
    <header class="top">
      <h2 id="card-title" class="title num">{{ value.number }}</h2>
      <b class="num title" data-test="balance">{{ till.money(value.balance) }}</b>
    </header>
    <p>
      {{ STORED_VALUE_NAMES[value.kind] }}{{ value.customer ? ` of ${value.customer}` : '' }} ·
      {{ stateWords(value, till) }}{{ value.singleUse ? ' · can be used once' : '' }}
    </p>
    <div class="acts">
      <v-btn @click="emit('leave')">Close <KeyHint of="form.leave" /></v-btn>
      <template v-if="changes">
        <v-btn v-if="value.state === 'active'" class="stop" @click="change('freeze')">Lost: freeze it</v-btn>
        <v-btn v-else-if="value.state === 'frozen'" @click="change('unfreeze')">Found: use it again</v-btn>
      </template>
    </div>
    <form v-if="changes" class="move" novalidate @submit.prevent="move">
      <p id="move-words">Lost or broken: move what is left to a new card.</p>
      <v-text-field
        v-model="newNumber"
        label="Scan the new card, or let a number be made"
        maxlength="40"
        aria-describedby="move-words"
        :error-messages="wrong.number"
      />
      <WaitButton type="submit" :loading="moving">Move</WaitButton>
    </form>
    <h3 class="label">History</h3>
    <ul class="ruled">
      <li v-for="(one, at) in card.moves" :key="at">
        <span
          >{{ one.kind }}<template v-if="one.by">, {{ one.by }}</template>
          <router-link v-if="one.saleId" class="word num" :to="`/journal/${one.saleId}`">{{
            one.sale
          }}</router-link>
          <span class="soft under">{{ till.time(one.at, 'full') }}</span></span
        >
        <span class="num right">{{ till.money(one.amount) }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.panel {
  border: 0;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.move {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: start;
}
.move p {
  grid-column: 1 / -1;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px;
  padding: 6px 0;
  border-bottom: var(--hair);
}
li .word {
  min-height: 0;
}
</style>
