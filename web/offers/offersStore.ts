import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import type {
  KeptOffer,
  NewCodes,
  OfferCode,
  OfferDraft,
  OfferState,
  Rehearsal,
} from '../../contract/offers.ts';
import { groupsOf } from '../../core/offers/offer.ts';
import type { OfferNames } from '../../core/offers/goodsWords.ts';
import { offerWords } from '../../core/offers/offerWords.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { read, write } from '../net/api.ts';
import { lastAnswer } from '../net/lastAnswer.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** The shop's offers as its manager writes them. */
export const useOffersStore = defineStore('offers', () => {
  const till = useTillStore();
  const offers = shallowRef<KeptOffer[] | null>(null);
  const places = shallowRef<{ id: number; name: string }[]>([]);
  const groups = shallowRef<string[]>([]);
  const itemNames = ref(new Map<number, string>());
  /** The offer that is being tried at this till as it is written, 0 for a new one. */
  const tried = ref<number | null>(null);

  const names = computed<OfferNames>(() => ({
    item: (id) => itemNames.value.get(id) ?? 'an item that is no longer sold',
    place: (id) => places.value.find((place) => place.id === id)?.name ?? '',
    points: till.facts?.points.word ?? 'points',
    digits: till.digits,
  }));

  const last = lastAnswer();
  async function load(): Promise<void> {
    const found = await last(readAll());
    if (!found) return;
    places.value = found.places;
    groups.value = found.groups;
    offers.value = found.offers;
  }

  async function readAll() {
    const [found, choices] = await Promise.all([
      read<KeptOffer[]>('/offers'),
      read<{ places: { id: number; name: string }[]; groups: string[] }>('/offers/choices'),
    ]);
    await learn(found.flatMap(({ rule }) => groupsOf(rule).flatMap(({ goods }) => goods.itemIds)));
    return { offers: found, ...choices };
  }

  /** Learns the names of items. */
  async function learn(ids: readonly number[]): Promise<void> {
    const unknown = [...new Set(ids)].filter((id) => !itemNames.value.has(id));
    for (const { id, name } of await catalogue.find(unknown)) itemNames.value.set(id, name);
  }

  const words = (offer: OfferDraft): string => offerWords({ ...offer, id: 0 }, names.value);

  /** An offer that is changed, as it was looked at. */
  type Seen = Pick<KeptOffer, 'id' | 'version'>;

  /** However a change ends, how the offers stand then is there to be looked at. */
  const then = <T>(work: Promise<T>): Promise<T> => work.finally(load);

  /** Keeps an offer. @param seen the one that is changed; nothing for a new one @returns its number */
  async function keep(seen: Seen | null, offer: OfferDraft): Promise<number> {
    const work = seen
      ? write<{ id: number }>('PUT', `/offers/${seen.id}`, { offer, version: seen.version })
      : write<{ id: number }>('POST', '/offers', offer);
    return (await then(work)).id;
  }

  async function setState({ id, version }: Seen, state: OfferState): Promise<void> {
    await then(write('PUT', `/offers/${id}/state`, { state, version }));
  }

  const codes = (id: number) => read<OfferCode[]>(`/offers/${id}/codes`);

  async function addCodes(id: number, wanted: NewCodes): Promise<string[]> {
    const { codes: added } = await write<{ codes: string[] }>('POST', `/offers/${id}/codes`, wanted);
    await load();
    return added;
  }

  async function withdrawCode(code: string): Promise<void> {
    await write('DELETE', `/offers/codes/${encodeURIComponent(code)}`, {});
    await load();
  }

  const rehearse = (offer: OfferDraft, offerId: number | null, from: string, to: string) =>
    write<Rehearsal>('POST', '/offers/rehearsals', { offer, offerId, from, to });
  const rehearsal = (id: string) => read<Rehearsal>(`/offers/rehearsals/${id}`);
  const cancelRehearsal = (id: string) => write('DELETE', `/offers/rehearsals/${id}`, {});

  return {
    tried,
    offers,
    places,
    groups,
    names,
    load,
    learn,
    words,
    keep,
    setState,
    codes,
    addCodes,
    withdrawCode,
    rehearse,
    rehearsal,
    cancelRehearsal,
  };
});
