<script setup lang="ts">
import { watchImmediate } from '@vueuse/core';
import equal from 'fast-deep-equal';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import type { KeptOffer, OfferDraft } from '../../contract/offers.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { nothingUnsaved } from '../net/unsaved.ts';
import { useLook } from '../notices/look.ts';
import { wasChanged } from '../net/problem.ts';
import { useAttempt } from '../notices/attempt.ts';
import { follow } from '../notices/follow.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import ConditionsForm from './ConditionsForm.vue';
import { newOffer, type EditableOffer } from './newOffer.ts';
import OfferCodes from './OfferCodes.vue';
import OfferPreview from './OfferPreview.vue';
import { useOffersStore } from './offersStore.ts';
import RuleForm from './RuleForm.vue';
import { stateWords } from './stateWords.ts';
import { useRememberedInTurn } from '../look/remembered.ts';
import TypedBefore from '../look/TypedBefore.vue';
import StepButton from '../look/StepButton.vue';
import { useWayOn } from '../look/wayOn.ts';

const route = useRoute();
const goOn = useWayOn();
const offers = useOffersStore();
const basket = useBasketStore();
const work = useBasketWorkStore();
const session = useSessionStore();
const { wrong, attempt } = useAttempt();
const draft = ref<EditableOffer>(newOffer());
/** Whether it is here: nothing can be typed into a form that is still to become another one. */
const ready = ref(false);
/** The offer as it was looked at when the form was last as it is kept; nothing for a new one. */
let seen: KeptOffer | null = null;
const kept = computed(() => offers.offers?.find(({ id }) => String(id) === route.params.id) ?? null);
const mayEdit = computed(() => session.may('offers.edit') && kept.value?.state !== 'ended');
const { remembered, begin: remember } = useRememberedInTurn();
/** Whether something was changed that is not kept yet. */
const changed = computed(() => !kept.value || !equal(draft.value, plain(kept.value)));

function plain(offer: KeptOffer): EditableOffer {
  const { name, rule, combines, conditions, limits, needs, points, onReturn } = offer;
  return structuredClone({
    name,
    rule,
    combines,
    conditions,
    limits,
    needs,
    points,
    onReturn,
  }) as EditableOffer;
}

/** What was changed elsewhere is in the form, but where it was changed here as well. */
function look(): void {
  if (seen && kept.value) follow(draft.value, plain(seen), plain(kept.value));
  seen = kept.value;
}

/** Does something with the offer; where another one has changed it meanwhile, that is looked at first. */
async function tryTo(work: Promise<unknown>, done: string): Promise<boolean> {
  const looked = (problem: unknown): never => {
    if (wasChanged(problem)) look();
    throw problem;
  };
  return attempt(work.catch(looked), done);
}

const begin = useLook(async () => {
  await offers.load();
  const copied = offers.offers?.find(({ id }) => String(id) === route.query.copy);
  seen = kept.value;
  draft.value = seen ? plain(seen) : copied ? { ...plain(copied), name: '' } : newOffer();
  remember(`offer ${seen?.id ?? 'new'}`, () => kept.value?.name || 'A new offer', draft.value);
  // Whoever comes back from trying it goes on writing.
  if (offers.tried === (seen?.id ?? 0)) remembered.value?.putBack();
  offers.tried = null;
  ready.value = true;
});
watchImmediate(
  () => route.params.id,
  () => {
    // One that was just made is the one that is written.
    ready.value &&= !changed.value;
    void begin();
  },
);

/** @returns whether the offer is kept as it is written */
async function keep(): Promise<boolean> {
  const id = seen?.id ?? null;
  let made = id;
  const done = await tryTo(
    offers.keep(seen, draft.value as OfferDraft).then((number) => (made = number)),
    seen?.state === 'live' ? 'Kept: it applies so from now on.' : 'Kept.',
  );
  if (done) remembered.value?.kept();
  if (done && made !== id) await goOn({ path: `/offers/${made}`, replace: true });
  else if (done) look();
  return done;
}

async function setState(state: KeptOffer['state'], done: string): Promise<void> {
  if (changed.value && !(await keep())) return;
  if (seen) await tryTo(offers.setState(seen, state), done);
}

async function practise(): Promise<void> {
  const plainDraft = JSON.parse(JSON.stringify(draft.value)) as OfferDraft;
  work.leave();
  // It is tried as it is written.
  nothingUnsaved();
  offers.tried = kept.value?.id ?? 0;
  await basket.practise({ ...plainDraft, name: plainDraft.name || 'A new offer', id: kept.value?.id ?? 0 });
  await goOn('/counter');
}

async function rehearse(): Promise<void> {
  if (changed.value && !(await keep())) return;
  await goOn(`/offers/${kept.value?.id ?? ''}/rehearsal`);
}
</script>

<template>
  <div v-if="ready" class="offer">
    <section class="zone scroll form" aria-labelledby="offer-title">
      <header>
        <router-link to="/offers" class="word">All offers</router-link>
        <h1 id="offer-title" class="title">{{ kept?.name || 'A new offer' }}</h1>
        <b v-if="kept" class="state">{{ stateWords(kept) }}</b>
      </header>
      <form novalidate aria-labelledby="offer-title" @submit.prevent="keep">
        <TypedBefore v-if="remembered" :of="remembered" />
        <fieldset :disabled="!mayEdit">
          <v-text-field
            v-model="draft.name"
            label="Name, printed as the reason"
            maxlength="60"
            :error-messages="wrong.name"
          />
          <h2 class="label">What it gives</h2>
          <RuleForm v-model="draft.rule" :wrong="wrong" />
          <h2 class="label">When, where, for whom, how often</h2>
          <ConditionsForm v-model="draft" :wrong="wrong" />
        </fieldset>
        <button type="submit" hidden />
      </form>
      <OfferCodes v-if="kept && kept.needs === 'code' && session.may('offers.edit')" :offer="kept" />
    </section>
    <aside class="zone" aria-label="What it does">
      <div class="scroll">
        <OfferPreview :offer="draft as OfferDraft" :offer-id="kept?.id ?? null" />
      </div>
      <div v-if="session.may('offers.edit')" class="steps">
        <template v-if="mayEdit">
          <StepButton v-if="changed" @click="keep">Keep it</StepButton>
          <StepButton v-else-if="kept?.state === 'draft'" @click="setState('live', `${kept.name} applies.`)"
            >Switch it on</StepButton
          >
          <StepButton
            v-else-if="kept"
            class="quiet"
            @click="setState('draft', `${kept.name} is switched off.`)"
            >Switch it off</StepButton
          >
        </template>
        <div class="more">
          <v-btn @click="practise">Try at this till</v-btn>
          <v-btn @click="rehearse">Rehearse</v-btn>
          <v-btn v-if="kept" :href="`/api/offers/${kept.id}/labels.pdf`" target="_blank">Labels</v-btn>
          <v-btn v-if="kept" :to="`/offers/new?copy=${kept.id}`">Copy</v-btn>
          <v-btn
            v-if="kept && kept.state !== 'ended'"
            class="stop"
            @click="setState('ended', `${kept.name} is over.`)"
            >End it</v-btn
          >
        </div>
      </div>
    </aside>
  </div>
</template>

<style scoped>
.offer {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
}
.form {
  padding: 18px 22px;
  display: grid;
  gap: 16px;
  align-content: start;
}
header {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.state {
  margin-left: auto;
}
form {
  display: grid;
  gap: 14px;
}
fieldset {
  border: 0;
  padding: 0;
  display: grid;
  gap: 14px;
}
.form :deep(.group),
.form :deep(.pair) {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 12px;
  align-items: start;
}
.form :deep(.group:not(.counted)) {
  grid-auto-flow: row;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
}
.form :deep(.wide) {
  grid-column: span 2;
}
.form :deep(.more) {
  justify-self: start;
}
aside {
  border-left: var(--rule);
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
}
aside .scroll {
  padding: 18px;
}
.steps {
  border-top: var(--rule);
}
.next-step {
  width: 100%;
}
.next-step.quiet {
  background: var(--surface);
  color: var(--ink);
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 12px 18px;
}
@media (max-width: 900px) {
  .offer {
    grid-template-columns: 1fr;
    overflow-y: auto;
  }
}
</style>
