<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import type { SendReceipt } from '../../contract/payment.ts';
import BigField from '../look/BigField.vue';
import CheckField from '../look/CheckField.vue';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useJournalStore } from './journalStore.ts';
import ChipButton from '../look/ChipButton.vue';
import RowButton from '../look/RowButton.vue';
import WaitButton from '../look/WaitButton.vue';

/** @param print whether printing is offered here, too */
const { sale, print = true } = defineProps<{ sale: JournalSale; print?: boolean }>();
const journal = useJournalStore();
const emit = defineEmits<{ sent: [] }>();

const notices = useNoticeStore();
const by = ref<'mail' | 'text' | null>(null);
const to = ref('');
const remember = ref(false);
const wrong = ref('');
const busy = ref(false);

watch(
  () => sale.id,
  () => {
    by.value = null;
  },
);

function ask(how: 'mail' | 'text'): void {
  by.value = by.value === how ? null : how;
  to.value = (how === 'mail' ? sale.receiptCustomer?.mail : sale.receiptCustomer?.phone) ?? '';
  wrong.value = '';
}

/** The address of the customer, unless it went there already. */
const known = computed(() => {
  const { mail = '' } = sale.receiptCustomer ?? {};
  return sale.sent.some(({ recipient }) => recipient === mail) ? '' : mail;
});

async function sendTo(mail: string): Promise<void> {
  to.value = mail;
  remember.value = false;
  await send('mail');
}

function doneWords(how: SendReceipt['by']): string {
  if (how === 'none')
    return `${sale.receiptCustomer?.name ?? ''} gets no receipts from now on, unless asked for.`;
  const goes = how === 'print' || how === 'gift' ? 'goes to the printer' : `goes to ${to.value}`;
  return `The ${how === 'gift' ? 'gift receipt' : 'receipt'} ${goes}.`;
}

async function send(how: SendReceipt['by']): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    const asked: SendReceipt = {
      by: how,
      to: to.value,
      remember: remember.value && sale.receiptCustomer !== null,
    };
    await journal.send(sale.id, asked);
    notices.say(doneWords(how));
    by.value = null;
    emit('sent');
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? (error.field('to') ?? error.words) : problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="send">
    <div class="chips ways">
      <ChipButton v-if="print" :disabled="busy" @click="send('print')">Print</ChipButton>
      <ChipButton :on="by === 'mail'" @click="ask('mail')">E-mail</ChipButton>
      <ChipButton :on="by === 'text'" @click="ask('text')">Text message</ChipButton>
      <ChipButton :disabled="busy" @click="send('gift')">Gift receipt</ChipButton>
      <ChipButton
        v-if="sale.receiptCustomer"
        :on="sale.receiptCustomer.by === 'none'"
        :disabled="busy"
        :title="`No receipts for ${sale.receiptCustomer.name} from now on`"
        @click="send('none')"
      >
        None
      </ChipButton>
    </div>
    <RowButton
      v-if="known && by === null"
      class="known"
      :disabled="busy"
      :title="`Mail it to ${known}`"
      @click="sendTo(known)"
    >
      <span class="what">Mail it to {{ known }}</span>
    </RowButton>
    <form v-if="by" novalidate @submit.prevent="send(by)">
      <BigField
        v-model="to"
        :label="by === 'mail' ? 'Mail address' : 'Telephone number'"
        :type="by === 'mail' ? 'email' : 'tel'"
        :wrong
      />
      <CheckField
        v-if="sale.receiptCustomer"
        v-model="remember"
        :label="`Always for ${sale.receiptCustomer.name}`"
      />
      <WaitButton class="go" type="submit" :loading="busy">Send it</WaitButton>
    </form>
    <p v-else-if="wrong" class="bad" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.send {
  background: var(--surface);
  border-bottom: var(--group);
}
.ways {
  padding: 10px 18px;
}
.known {
  border-top: var(--hair);
}
form {
  display: grid;
  gap: 10px;
  padding: 12px 18px;
  border-top: 1px solid var(--ink);
}
</style>
