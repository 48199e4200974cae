<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useId, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { KeyName } from '../keys/keyTable.ts';
import { useRemembered } from './remembered.ts';
import TypedBefore from './TypedBefore.vue';
import WaitButton from './WaitButton.vue';

/**
 * A question in the right column: fields, what is wrong, and the two ways out. Its keys act while the hand is in it.
 * What is accepted is accepted once: until that is done with, neither Enter nor the button does it again.
 */
const {
  busy = false,
  done = '',
  doneKey = 'form.accept',
  focus = true,
  title,
  remembers,
  fields,
  onAccept,
} = defineProps<{
  title: string;
  /** What the blue button says; without it there is none. */
  done?: string;
  /** The key that stands on it. */
  doneKey?: KeyName;
  leave?: string;
  busy?: boolean;
  disabled?: boolean;
  /** What is wrong with the whole, or with its only field. */
  wrong?: string | undefined;
  /** Whether the first field takes the focus when the panel comes. */
  focus?: boolean;
  /** By what name what is typed here is remembered until it is kept: `supplier 5`. Then `fields` says what that is. */
  remembers?: string;
  /** What the fields are bound to. */
  fields?: object | readonly object[];
  /** What hears `accept`. */
  onAccept?: () => unknown;
}>();
const emit = defineEmits<{ leave: [] }>();

const id = useId();
const panel = useTemplateRef('panel');

/**
 * Puts the hand into the first field, or on the blue button; what stands there is chosen, so that typing takes its
 * place.
 */
async function focusFirst(): Promise<void> {
  await nextTick();
  // A question low on the page comes into sight whole.
  panel.value?.scrollIntoView({ block: 'nearest' });
  const first = panel.value?.querySelector<HTMLElement>('input:not([type="checkbox"]), .go');
  first?.focus();
  if (first instanceof HTMLInputElement) first.select();
}
onMounted(() => (focus ? focusFirst() : undefined));

/** A field with something wrong, by what it says itself or by the message that stands under it. */
const WRONG = '[aria-invalid="true"], .v-input--error input, .v-input--error textarea';
/** Puts the hand where something is wrong. */
async function focusWrong(): Promise<void> {
  await nextTick();
  panel.value?.querySelector<HTMLElement>(WRONG)?.focus();
}
const remembered = remembers && fields ? useRemembered(remembers, () => title, fields) : null;

const accepting = ref(false);
const waits = computed(() => busy || accepting.value);
async function accept(): Promise<void> {
  if (waits.value || !done) return;
  accepting.value = true;
  const work = () => onAccept?.();
  try {
    await (remembered ? remembered.send(work) : work());
  } finally {
    accepting.value = false;
  }
}
function goAway(): void {
  remembered?.left();
  emit('leave');
}
defineExpose({ focusFirst, focusWrong, accept, goAway });
useKeys('form', { accept, leave: goAway }, { within: panel });
</script>

<template>
  <form ref="panel" class="panel" :aria-labelledby="`${id}-title`" novalidate @submit.prevent="accept">
    <h2 :id="`${id}-title`" class="title">{{ title }}</h2>
    <TypedBefore v-if="remembered" :of="remembered" />
    <slot />
    <div class="panel-foot foot">
      <slot name="foot" />
      <p class="bad" role="alert">{{ wrong }}</p>
      <div class="acts">
        <v-btn @click="goAway">{{ leave ?? 'Cancel' }} <KeyHint of="form.leave" /></v-btn>
        <WaitButton v-if="done" class="go" type="submit" :loading="waits" :disabled
          >{{ done }} <KeyHint :of="doneKey"
        /></WaitButton>
      </div>
    </div>
    <slot name="after" />
  </form>
</template>

<style scoped>
/* What the hand comes to stops above the foot, not under it. */
.panel :deep(input),
.panel :deep(button) {
  scroll-margin-bottom: 110px;
}
.foot {
  display: grid;
  gap: 8px;
}
</style>
