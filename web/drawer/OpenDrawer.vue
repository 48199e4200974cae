<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { problemWords } from '../net/api.ts';
import { useTillStore } from '../setup/tillStore.ts';
import CountSheet from './CountSheet.vue';
import PastShifts from './PastShifts.vue';
import { useDrawerStore } from './drawerStore.ts';

const drawer = useDrawerStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const busy = ref(false);

const usual = computed(() => till.facts?.shop.openingFloat ?? 0);
const fromSafe = computed(() => drawer.counted - (drawer.state?.left ?? 0));

onMounted(async () => {
  await nextTick();
  document.querySelector<HTMLInputElement>('.sheet input')?.focus();
});

async function open(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  try {
    await drawer.open();
    notices.say(`The drawer is open with a float of ${till.money(drawer.state?.shift?.float ?? 0)}.`);
    await router.push('/counter');
  } catch (error) {
    notices.failed(problemWords(error));
    await drawer.look();
  } finally {
    busy.value = false;
  }
}

useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== 'F9') return;
  event.preventDefault();
  (document.activeElement as HTMLElement | null)?.dispatchEvent(new Event('change'));
  void open();
});
</script>

<template>
  <div class="two">
    <CountSheet title="Count the float" @done="open" />
    <section class="zone scroll right-side">
      <div class="body">
        <h2 class="title">Open the drawer</h2>
        <p class="soft">Count what is in the drawer by notes and coins. Cash can be taken once it is open.</p>
        <dl class="facts">
          <dt>Left by the last shift</dt>
          <dd class="num">{{ till.money(drawer.state?.left ?? 0) }}</dd>
          <dt>Usual float</dt>
          <dd class="num">{{ till.money(usual) }}</dd>
          <dt>Counted now</dt>
          <dd class="num strong">{{ till.money(drawer.counted) }}</dd>
        </dl>
        <p v-if="fromSafe !== 0" class="note">
          {{
            fromSafe > 0
              ? `${till.money(fromSafe)} is booked as brought from the safe.`
              : `${till.money(-fromSafe)} less than was left is booked as put into the safe.`
          }}
        </p>
        <div class="acts">
          <v-btn @click="drawer.clearCount()">Start the count again</v-btn>
          <v-btn class="go" :loading="busy" @click="open"
            >Open with {{ till.money(drawer.counted) }} <kbd>F9</kbd></v-btn
          >
        </div>
        <PastShifts />
      </div>
    </section>
  </div>
</template>

<style scoped>
.body {
  padding: 22px;
  display: grid;
  gap: 16px;
  align-content: start;
}
.strong {
  font-weight: 700;
}
.note {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 14px;
}
</style>
