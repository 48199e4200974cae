<script setup lang="ts">
import type { CombinationReward, OfferRule } from '../../core/offers/offer.ts';
import CountField from '../look/CountField.vue';
import GoodsField from './GoodsField.vue';
import MoneyField from '../look/MoneyField.vue';
import { newReward, newRule, REWARD_KINDS, RULE_KINDS, type Editable } from './newOffer.ts';
import OffField from './OffField.vue';
import RateField from '../look/RateField.vue';
import WordButton from '../look/WordButton.vue';

const rule = defineModel<Editable<OfferRule>>({ required: true });
const { wrong } = defineProps<{ wrong: Readonly<Record<string, string>> }>();

/** What is wrong with a part of the rule. */
const wrongAt = (...paths: string[]) => paths.map((path) => wrong[`rule.${path}`]).find(Boolean);

function chooseKind(kind: OfferRule['kind']): void {
  if (kind !== rule.value.kind) rule.value = newRule(kind, rule.value);
}

type Together = Extract<Editable<OfferRule>, { kind: 'together' }>;

function chooseReward(of: Together, kind: CombinationReward['kind']): void {
  if (kind !== of.reward.kind) of.reward = newReward(kind, of.groups.length);
}

function addGroup(of: Together): void {
  of.groups.push({ goods: { itemIds: [], categories: [] }, count: 1 });
  if (of.reward.kind === 'percent') of.reward.rates.push(100_000);
}

function removeGroup(of: Together, at: number): void {
  of.groups.splice(at, 1);
  if (of.reward.kind === 'percent') of.reward.rates.splice(at, 1);
}

function addTier(of: Extract<Editable<OfferRule>, { kind: 'quantity' | 'spend' }>): void {
  if (of.kind === 'quantity') {
    const last = of.tiers.at(-1) ?? { from: 5, rate: 50_000 };
    of.tiers.push({ from: last.from * 2, rate: Math.min(1_000_000, last.rate + 50_000) });
  } else {
    const last = of.tiers.at(-1);
    of.tiers.push({
      from: (last?.from ?? 50_00) * 2,
      off: { ...(last?.off ?? { kind: 'amount', amount: 5_00 }) },
    });
  }
}
</script>

<template>
  <v-select
    :model-value="rule.kind"
    :items="RULE_KINDS"
    label="What kind of offer"
    @update:model-value="chooseKind"
  />
  <template v-if="rule.kind === 'together'">
    <div v-for="(group, at) in rule.groups" :key="at" class="group counted">
      <CountField v-model="group.count" label="Units" :wrong="wrongAt(`groups[${at}].count`)" />
      <GoodsField
        v-model="group.goods"
        :label="rule.groups.length > 1 ? `of these goods, group ${at + 1}` : 'of these goods'"
        :wrong="wrongAt(`groups[${at}].goods`, 'goods')"
      />
      <RateField
        v-if="rule.reward.kind === 'percent'"
        v-model="rule.reward.rates[at] as number"
        label="Off these"
        :wrong="wrongAt(`reward.rates[${at}]`, 'reward.rates')"
      />
      <WordButton
        v-if="rule.groups.length > 1"
        :aria-label="`Remove group ${at + 1}`"
        @click="removeGroup(rule, at)"
      >
        Remove
      </WordButton>
    </div>
    <v-btn v-if="rule.groups.length < 5" class="more" @click="addGroup(rule)">Another group</v-btn>
    <div class="group">
      <v-select
        :model-value="rule.reward.kind"
        :items="REWARD_KINDS"
        class="wide"
        label="Then"
        @update:model-value="chooseReward(rule, $event)"
      />
      <template v-if="rule.reward.kind === 'cheapest'">
        <CountField v-model="rule.reward.count" label="How many" :wrong="wrongAt('reward.count')" />
        <RateField v-model="rule.reward.rate" label="Off them" :wrong="wrongAt('reward.rate')" />
      </template>
      <MoneyField
        v-else-if="rule.reward.kind === 'amount'"
        v-model="rule.reward.amount"
        label="Amount"
        :wrong="wrongAt('reward.amount')"
      />
      <MoneyField
        v-else-if="rule.reward.kind === 'price'"
        v-model="rule.reward.price"
        label="Price together"
        :wrong="wrongAt('reward.price')"
      />
    </div>
  </template>
  <template v-else>
    <GoodsField v-model="rule.goods" label="On these goods" :wrong="wrongAt('goods')" />
    <OffField
      v-if="rule.kind === 'each'"
      v-model="rule.off"
      with-price
      :wrong="wrongAt('off.rate', 'off.amount', 'off.price')"
    />
    <template v-else-if="rule.kind === 'quantity'">
      <div v-for="(tier, at) in rule.tiers" :key="at" class="group">
        <CountField
          v-model="tier.from"
          label="From how many"
          :wrong="wrongAt(`tiers[${at}].from`, 'tiers')"
        />
        <RateField v-model="tier.rate" label="Off all of them" :wrong="wrongAt(`tiers[${at}].rate`)" />
        <WordButton v-if="rule.tiers.length > 1" @click="rule.tiers.splice(at, 1)"> Remove </WordButton>
      </div>
    </template>
    <template v-else>
      <div v-for="(tier, at) in rule.tiers" :key="at" class="group">
        <MoneyField
          v-model="tier.from"
          label="From what amount"
          :wrong="wrongAt(`tiers[${at}].from`, 'tiers')"
        />
        <OffField
          v-model="tier.off as Extract<typeof tier.off, object>"
          :wrong="wrongAt(`tiers[${at}].off.rate`, `tiers[${at}].off.amount`)"
        />
        <WordButton v-if="rule.tiers.length > 1" @click="rule.tiers.splice(at, 1)"> Remove </WordButton>
      </div>
    </template>
    <v-btn v-if="rule.kind !== 'each' && rule.tiers.length < 5" class="more" @click="addTier(rule)">
      Another step
    </v-btn>
  </template>
</template>

<style scoped>
.group.counted {
  grid-template-columns: 100px minmax(0, 1fr);
  grid-auto-columns: 130px;
}
</style>
