import { sum } from '../../money.ts';
import type { Formed, FreeUnits, Give } from '../givenUnits.ts';
import type { OfferRule } from '../offer.ts';
import { howMany } from '../offerUnits.ts';
import type { Forming } from './kind.ts';

/** Complete combinations for as long as another one earns something, in the order of the units. */
export function combined(
  rule: Extract<OfferRule, { kind: 'together' }>,
  free: readonly FreeUnits[],
  { limit, formed }: Pick<Forming, 'limit' | 'formed'>,
): Formed {
  const left = new Map(free.map(({ place, count }) => [place, count]));
  // The group with the fewest to choose from chooses first.
  const groups = rule.groups
    .map(({ count }, group) => {
      const meant = free.filter(({ groups: of }) => of.includes(group));
      return { group, count, places: meant.map(({ place }) => place), many: howMany(meant), next: 0 };
    })
    .sort((a, b) => a.many / a.count - b.many / b.count || a.group - b.group);
  const found: Give[] = [];
  let value = 0;
  for (let done = 0; done < limit;) {
    const combination: Give[] = [];
    let again = Number.POSITIVE_INFINITY;
    for (const one of groups) {
      let missing = one.count;
      for (; missing > 0; one.next++) {
        const place = one.places[one.next];
        if (place === undefined) return { gives: merged(found), value };
        const have = left.get(place) ?? 0;
        const count = Math.min(missing, have);
        if (count === 0) continue;
        left.set(place, have - count);
        combination.push({ place, group: one.group, count });
        missing -= count;
        if (have > count) break;
      }
    }
    for (const { place } of combination) {
      const needed = sum(combination.filter((one) => one.place === place).map(({ count }) => count));
      again = Math.min(again, 1 + Math.floor((left.get(place) ?? 0) / needed));
    }
    const alone = formed(combination).value;
    if (alone > 0) again = Math.min(again, limit - done);
    for (const { place, count } of combination) left.set(place, (left.get(place) ?? 0) - count * (again - 1));
    if (alone <= 0) continue;
    found.push(...combination.map((one) => ({ ...one, count: one.count * again })));
    value += alone * again;
    done += again;
  }
  return { gives: merged(found), value };
}

/** The same units for the same group as one. */
function merged(gives: readonly Give[]): Give[] {
  const byUnit = new Map<string, Give>();
  for (const give of gives) {
    const key = `${give.place} ${give.group}`;
    const known = byUnit.get(key);
    if (known) known.count += give.count;
    else byUnit.set(key, { ...give });
  }
  return [...byUnit.values()];
}
