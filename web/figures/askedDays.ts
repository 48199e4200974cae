import { computed, reactive, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import {
  COMPARISONS,
  dayOfSale,
  PERIODS,
  type Comparison,
  type PeriodName,
} from '../../core/figures/period.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay, shopTimeOfDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/**
 * Days of which part of the shop are asked for, beside which others. They stand in the address, with what else a page
 * asks for: it can be kept and sent on. Days that are asked for by a word are worked out anew whenever the page is
 * opened.
 * @param more what else is asked for, with what counts as nothing said
 */
export function useAskedDays<More extends Record<string, string | number>>(
  usual: PeriodName,
  compare: Comparison,
  more: More,
) {
  const till = useTillStore();
  const route = useRoute();
  const router = useRouter();
  const facts = till.facts?.shop;
  const zone = facts?.timezone ?? 'UTC';
  const hour = Number(shopTimeOfDay(houseNow(), zone).slice(0, 2));
  const today = dayOfSale(shopDay(houseNow(), zone), hour, facts?.dayEnds ?? 0);
  const text = (key: string): string => {
    const value = route.query[key];
    return typeof value === 'string' ? value : '';
  };
  const named = (name: string): name is PeriodName => Object.hasOwn(PERIODS, name);
  const wanted = text('days');
  const days: PeriodName | '' = named(wanted) ? wanted : text('from') ? '' : usual;
  const period = days ? PERIODS[days].of(today) : { from: text('from'), to: text('to') || text('from') };
  const besides = text('compare');
  const asked = reactive({
    days: days as PeriodName | '',
    ...period,
    compare: (Object.hasOwn(COMPARISONS, besides) ? besides : compare) as Comparison,
    place: Number(text('place')) || 0,
    till: Number(text('till')) || 0,
  });
  const also = reactive(
    Object.fromEntries(
      Object.entries(more).map(([key, nothing]) => [
        key,
        typeof nothing === 'number' ? Number(text(key)) || nothing : text(key) || nothing,
      ]),
    ),
  ) as More;

  /** Whoever chooses a word has its days; whoever changes a day has no word any more. */
  watch(
    () => asked.days,
    (name) => {
      if (name) Object.assign(asked, PERIODS[name].of(today));
    },
  );
  watch(
    () => [asked.from, asked.to],
    ([from, to]) => {
      const of = asked.days && PERIODS[asked.days].of(today);
      if (of && (of.from !== from || of.to !== to)) asked.days = '';
    },
  );
  const said = computed(() =>
    Object.fromEntries(
      Object.entries({
        ...(asked.days ? { days: asked.days } : { from: asked.from, to: asked.to }),
        compare: asked.compare,
        place: asked.place || '',
        till: asked.till || '',
        ...Object.fromEntries(
          Object.entries(also).map(([key, value]) => [key, value === more[key] ? '' : value]),
        ),
      }).flatMap(([key, value]) => (value === '' ? [] : [[key, String(value)]])),
    ),
  );
  /** What the server is asked. */
  const query = computed(() => {
    const { days: _, ...rest } = asked;
    return new URLSearchParams(
      Object.entries({ ...rest, ...also }).flatMap(([key, value]) => (value ? [[key, String(value)]] : [])),
    ).toString();
  });
  const complete = computed(() => asked.from !== '' && asked.to >= asked.from);
  watch(said, (now) => void router.replace({ query: now }));

  return { asked, also, query, said, complete, today };
}
