<script setup lang="ts">
import { reactive, ref } from 'vue';
import TypedBefore from '../look/TypedBefore.vue';
import { useRemembered } from '../look/remembered.ts';
import { useAttempt } from '../notices/attempt.ts';

/** Something is said to a partner. */
const { partner, about, say } = defineProps<{
  partner: string;
  /** The relay that it is about. */
  about: string;
  say: (words: string) => Promise<unknown>;
}>();
const { wrong, attempt } = useAttempt();
const words = ref('');
const remembered = useRemembered(`say about ${about}`, () => `Say to ${partner}`, reactive({ words }));
async function send(): Promise<void> {
  if (await attempt(say(words.value), 'It is on its way to the partner.')) words.value = '';
}
</script>

<template>
  <form class="say" @submit.prevent="send">
    <TypedBefore :of="remembered" />
    <v-text-field
      v-model="words"
      :label="`Say to ${partner}`"
      maxlength="500"
      :error-messages="wrong.words"
    />
    <v-btn type="submit">Say it</v-btn>
  </form>
</template>

<style scoped>
.say {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
}
</style>
