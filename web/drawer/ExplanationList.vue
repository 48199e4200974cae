<script setup lang="ts">
import type { VarianceFound } from '../../contract/drawer.ts';
import ChipButton from '../look/ChipButton.vue';

const { explanations } = defineProps<{
  explanations: VarianceFound['explanations'];
  /** What following one up would do, in a word; nothing where it cannot be followed here. */
  followWords: (one: VarianceFound['explanations'][number]) => string;
  busy: boolean;
}>();
defineEmits<{ follow: [one: VarianceFound['explanations'][number]] }>();

const likely = (likelihood: number) =>
  likelihood >= 0.5 ? 'very likely' : likelihood >= 0.25 ? 'likely' : 'possible';
</script>

<template>
  <section v-if="explanations.length > 0" aria-labelledby="explanations-title">
    <h2 id="explanations-title" class="label">What it may have been</h2>
    <ol>
      <li v-for="(one, at) in explanations" :key="at">
        <kbd>{{ at + 1 }}</kbd>
        <div>
          <p>{{ one.words }}</p>
          <p class="soft">
            {{ likely(one.likelihood) }}
            <template v-for="link in one.links" :key="link.to">
              · <router-link class="word num" :to="link.to">{{ link.name }}</router-link></template
            >
          </p>
        </div>
        <ChipButton
          v-if="followWords(one)"
          :disabled="busy"
          :title="`Alt+${at + 1}`"
          @click="$emit('follow', one)"
        >
          {{ followWords(one) }}
        </ChipButton>
      </li>
    </ol>
    <p class="soft small">These are places to look at, found from the figures alone.</p>
  </section>
</template>

<style scoped>
ol {
  border-top: var(--group);
  background: var(--surface);
}
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 12px;
  align-items: center;
  padding: 8px 12px;
  border-bottom: var(--hair);
}
.small,
.soft {
  font-size: 14px;
}
</style>
