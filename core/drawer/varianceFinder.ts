import { formatMoney, type Money } from '../money.ts';
import type { Pieces } from './countSheet.ts';

/** Something that moved cash in a shift, as the books have it. */
export interface ShiftEvent {
  id: string;
  kind: 'sale' | 'refund' | 'cash-in' | 'cash-out' | 'drop' | 'card';
  /** How much cash it brought (above zero) or took; of a card payment, what the card paid. */
  amount: Money;
  /** Of a cash sale: what was handed over as it was typed. */
  handed: Money;
  /** How people know it: a receipt number, or what the cash was for. */
  name: string;
}

/** A cash-out that is made most days. */
export interface Habit {
  reason: string;
  amount: Money;
  /** In how many of the last shifts it was made, and how many there were. */
  seen: number;
  of: number;
}

/** What is known about a shift whose count differs. */
export interface VarianceFacts {
  /** Counted minus expected. */
  variance: Money;
  events: readonly ShiftEvent[];
  counted: Pieces;
  /** Values of the currency's pieces, any order. */
  pieces: readonly { value: Money; roll?: number | undefined }[];
  habits: readonly Habit[];
  /** What the terminals have taken minus what was recorded as card, where they were asked; nothing where not. */
  terminalOff: Money | null;
  digits: number;
}

export const CAUSES = [
  'left-out',
  'twice',
  'wrong-sign',
  'keyed-for-handed',
  'digits-swapped',
  'wrong-piece',
  'roll-missed',
  'cash-as-card',
  'card-as-cash',
  'habit-missing',
  'two-events',
] as const;
export type Cause = (typeof CAUSES)[number];

/** What may explain a difference. Nobody is accused: it says what to look at. */
export interface Explanation {
  cause: Cause;
  /** In words, with the figures. */
  words: string;
  /** From 0 to 1; only to be compared. */
  likelihood: number;
  /** The events that it speaks of. */
  eventIds: string[];
  /** What following it up would record. */
  followUp:
    | { kind: 'cash-out' | 'cash-in'; amount: Money; reason: string }
    | { kind: 'correct-tender'; eventId: string; to: 'cash' | 'card' }
    | { kind: 'count-again'; piece: Money }
    | null;
}

/**
 * How likely a cause is before anything is known of a shift, and how much of that is shared by all events that would
 * fit: what fits many events says little about each.
 */
const BEFORE: Readonly<Record<Cause, number>> = {
  'habit-missing': 0.9,
  'cash-as-card': 0.85,
  'card-as-cash': 0.85,
  'keyed-for-handed': 0.5,
  'wrong-sign': 0.6,
  'roll-missed': 0.55,
  'wrong-piece': 0.42,
  'left-out': 0.4,
  twice: 0.4,
  'digits-swapped': 0.3,
  'two-events': 0.08,
};

const MOST = 12;
/** Pairs are looked for only among so many events. */
const MOST_PAIRED = 2000;

/**
 * The likeliest explanations of a difference, best first.
 *
 * Every cause is tried on every event of the shift; an amount that fits exactly one event is likelier than one that
 * fits many. Works on about 1,500 events well below 100 ms.
 * @returns at most twelve; none where there is no difference
 */
export function explainVariance(facts: VarianceFacts): Explanation[] {
  if (facts.variance === 0) return [];
  const found = [
    ...habitsMissing(facts),
    ...recordedAsAnother(facts),
    ...wrongSign(facts),
    ...keyedForHanded(facts),
    ...piecesMistaken(facts),
    ...rollsMissed(facts),
    ...twiceOrLeftOut(facts),
    ...digitsSwapped(facts),
  ];
  const all = found.some(({ likelihood }) => likelihood >= BEFORE['left-out'])
    ? found
    : [...found, ...twoEvents(facts)];
  return all.toSorted((a, b) => b.likelihood - a.likelihood).slice(0, MOST);
}

const money = ({ digits }: VarianceFacts, amount: Money): string => formatMoney(Math.abs(amount), digits);

/** Several that fit equally well share the likelihood of their cause. */
function shared(cause: Cause, count: number): number {
  return BEFORE[cause] / Math.sqrt(Math.max(1, count));
}

function habitsMissing(facts: VarianceFacts): Explanation[] {
  const { habits, events, variance } = facts;
  return habits.flatMap(({ reason, amount, seen, of }): Explanation[] => {
    if (variance !== 0 - amount || events.some(({ kind, name }) => kind === 'cash-out' && name === reason))
      return [];
    return [
      {
        cause: 'habit-missing',
        words: `“${reason}” was taken out in ${seen} of the last ${of} shifts, ${money(facts, amount)} each time, and not in this one.`,
        likelihood: BEFORE['habit-missing'] * (seen / of),
        eventIds: [],
        followUp: { kind: 'cash-out', amount, reason },
      },
    ];
  });
}

/** A cash sale recorded as card leaves too much cash; the terminal has taken as much less. */
function recordedAsAnother(facts: VarianceFacts): Explanation[] {
  const { variance, events, terminalOff } = facts;
  const asCard = variance > 0;
  const cause: Cause = asCard ? 'cash-as-card' : 'card-as-cash';
  const fits = events.filter(({ kind, amount }) =>
    asCard ? kind === 'card' && amount === variance : kind === 'sale' && amount === 0 - variance,
  );
  const agrees = terminalOff === 0 - variance;
  // Where the terminals say that they took what was recorded, it was not this.
  if (terminalOff !== null && !agrees) return [];
  const base = shared(cause, fits.length) * (agrees ? 1 : 0.4);
  return fits.map(({ id, name, amount }) => ({
    cause,
    words: asCard
      ? `${name} was recorded as card, ${money(facts, amount)}.${agrees ? ' The terminal has as much less.' : ''} It may have been paid in cash.`
      : `${name} was recorded as cash, ${money(facts, amount)}.${agrees ? ' The terminal has as much more.' : ''} It may have been paid by card.`,
    likelihood: base,
    eventIds: [id],
    followUp: {
      kind: 'correct-tender' as const,
      eventId: id,
      to: asCard ? ('cash' as const) : ('card' as const),
    },
  }));
}

const WORDS: Readonly<Record<ShiftEvent['kind'], string>> = {
  sale: 'sale',
  refund: 'refund',
  'cash-in': 'cash in',
  'cash-out': 'cash out',
  drop: 'safe drop',
  card: 'card payment',
};

/** What was booked as in and was out, or the other way round, is off by twice its amount. */
function wrongSign(facts: VarianceFacts): Explanation[] {
  const fits = cashEvents(facts).filter(
    ({ kind, amount }) => kind !== 'sale' && facts.variance === -2 * amount,
  );
  return fits.map(({ id, kind, name, amount }) => ({
    cause: 'wrong-sign',
    words: `${name} (${WORDS[kind]}, ${money(facts, amount)}): half of the difference. It may have gone the other way.`,
    likelihood: shared('wrong-sign', fits.length),
    eventIds: [id],
    followUp:
      amount > 0
        ? { kind: 'cash-out', amount: 2 * amount, reason: `Correction of ${name}` }
        : { kind: 'cash-in', amount: -2 * amount, reason: `Correction of ${name}` },
  }));
}

/** Change was given for another amount than was handed over: most often for a neighbouring note. */
function keyedForHanded(facts: VarianceFacts): Explanation[] {
  const { events, variance, pieces } = facts;
  const notes = pieces.map(({ value }) => value).toSorted((a, b) => a - b);
  const fits = events.flatMap((event) => {
    if (event.kind !== 'sale' || event.handed <= event.amount) return [];
    // Short: less was handed over than was typed, so that too much change went out.
    const meant = event.handed + variance;
    const whole = notes.includes(meant) && notes.includes(event.handed);
    return meant >= event.amount && whole && meant !== event.handed ? [{ event, meant }] : [];
  });
  return fits.map(({ event, meant }) => ({
    cause: 'keyed-for-handed',
    words: `${event.name}: change was given for ${money(facts, event.handed)}. Had ${money(facts, meant)} been handed over, it would fit.`,
    likelihood: shared('keyed-for-handed', fits.length),
    eventIds: [event.id],
    followUp: null,
  }));
}

/** A piece counted as its neighbour is off by so many times what parts them. */
function piecesMistaken(facts: VarianceFacts): Explanation[] {
  const { pieces, counted, variance } = facts;
  const values = pieces.map(({ value }) => value).toSorted((a, b) => a - b);
  const found: Explanation[] = [];
  for (let at = 1; at < values.length; at++) {
    const [small = 0, large = 0] = [values[at - 1], values[at]];
    const apart = large - small;
    if (variance % apart !== 0) continue;
    const count = Math.abs(variance / apart);
    // Over: small ones were counted as large ones. Short: large ones as small ones.
    const as = variance > 0 ? large : small;
    const really = variance > 0 ? small : large;
    if (count > 3 || (counted[as] ?? 0) < count) continue;
    found.push({
      cause: 'wrong-piece',
      words: `Counted as ${money(facts, as)}, may be ${money(facts, really)}: ${count === 1 ? 'one piece' : `${count} pieces`}, ${money(facts, apart)} apart each.`,
      likelihood: BEFORE['wrong-piece'] / count,
      eventIds: [],
      followUp: { kind: 'count-again', piece: as },
    });
  }
  return found;
}

/** A roll or bundle that was overlooked leaves the count short by its whole worth. */
function rollsMissed(facts: VarianceFacts): Explanation[] {
  const { counted, pieces, variance } = facts;
  return pieces.flatMap(({ value, roll }): Explanation[] => {
    if (roll === undefined || variance >= 0 || variance !== 0 - value * roll) return [];
    // Who counted a single coin looked for more of them.
    if (counted[value] === 1) return [];
    return [
      {
        cause: 'roll-missed',
        words: `A roll of ${roll} × ${money(facts, value)} is worth ${money(facts, value * roll)}. One may have been overlooked.`,
        likelihood: BEFORE['roll-missed'],
        eventIds: [],
        followUp: { kind: 'count-again', piece: value },
      },
    ];
  });
}

/** An event that is there twice, or one like it that is not. */
function twiceOrLeftOut(facts: VarianceFacts): Explanation[] {
  const { variance } = facts;
  const events = cashEvents(facts);
  const twice = events.filter(({ amount }) => amount === 0 - variance);
  const doubled = twice.filter(({ kind, amount, id, name }) =>
    events.some(
      (other) =>
        other.id !== id &&
        other.kind === kind &&
        other.amount === amount &&
        (kind === 'sale' || other.name === name),
    ),
  );
  const like = events.filter(({ amount, kind }) => amount === variance && kind !== 'sale');
  return [
    ...twice.map(({ id, kind, name, amount }) => ({
      cause: 'twice' as const,
      words: doubled.some((one) => one.id === id)
        ? `${name} (${WORDS[kind]}, ${money(facts, amount)}) has a twin: it may have been entered twice.`
        : `${name} (${WORDS[kind]}) is for just ${money(facts, amount)}: it may have been entered without the cash moving.`,
      likelihood: shared('twice', twice.length) * (doubled.some((one) => one.id === id) ? 1.5 : 0.8),
      eventIds: [id],
      followUp:
        kind === 'sale' || kind === 'refund'
          ? null
          : amount > 0
            ? { kind: 'cash-out' as const, amount, reason: `Correction of ${name}` }
            : { kind: 'cash-in' as const, amount: 0 - amount, reason: `Correction of ${name}` },
    })),
    ...like.map(({ id, kind, name, amount }) => ({
      cause: 'left-out' as const,
      words: `${name} (${WORDS[kind]}) is for just ${money(facts, amount)}: there may have been a second one that was not entered.`,
      likelihood: shared('left-out', like.length),
      eventIds: [id],
      followUp:
        amount > 0
          ? { kind: 'cash-in' as const, amount, reason: name }
          : { kind: 'cash-out' as const, amount: 0 - amount, reason: name },
    })),
    ...(like.length > 0
      ? []
      : [
          {
            cause: 'left-out' as const,
            words: `Something of ${money(facts, variance)} may not have been entered: a cash ${variance < 0 ? 'out' : 'in'}, or a ${variance < 0 ? 'refund' : 'sale'}.`,
            likelihood: 0.2,
            eventIds: [],
            followUp: {
              kind: variance < 0 ? ('cash-out' as const) : ('cash-in' as const),
              amount: Math.abs(variance),
              reason: '',
            },
          },
        ]),
  ];
}

/** Two figures next to each other that changed places are off by nine times a power of ten. */
function digitsSwapped(facts: VarianceFacts): Explanation[] {
  const { variance } = facts;
  if (variance % 9 !== 0) return [];
  const fits = cashEvents(facts)
    // A sale's amount is worked out; what people type are the other moves.
    .filter(({ kind }) => kind !== 'sale' && kind !== 'refund')
    .flatMap((event) => swaps(Math.abs(event.amount)).map((meant) => ({ event, meant })))
    .filter(
      ({ event, meant }) =>
        // What was meant has the sign of what was typed; the books are off by what parts them.
        Math.sign(event.amount) * meant - event.amount === variance,
    );
  return fits.map(({ event, meant }) => ({
    cause: 'digits-swapped',
    words: `${event.name} (${WORDS[event.kind]}) was typed as ${money(facts, event.amount)}. With two figures swapped, ${money(facts, meant)}, it would fit.`,
    likelihood: shared('digits-swapped', fits.length) + 0.25,
    eventIds: [event.id],
    followUp:
      variance < 0
        ? { kind: 'cash-out' as const, amount: 0 - variance, reason: `Correction of ${event.name}` }
        : { kind: 'cash-in' as const, amount: variance, reason: `Correction of ${event.name}` },
  }));
}

/** The amounts that come of swapping two neighbouring figures. */
function swaps(amount: Money): Money[] {
  const figures = String(amount).split('');
  const found: Money[] = [];
  for (let at = 1; at < figures.length; at++) {
    if (figures[at] === figures[at - 1]) continue;
    const swapped = [...figures];
    [swapped[at - 1], swapped[at]] = [figures[at] ?? '', figures[at - 1] ?? ''];
    found.push(Number(swapped.join('')));
  }
  return found;
}

/** Two events that together make the difference; among many pairs this says little. */
function twoEvents(facts: VarianceFacts): Explanation[] {
  const events = cashEvents(facts).slice(0, MOST_PAIRED);
  const known = new Map<Money, ShiftEvent>();
  const found: Explanation[] = [];
  for (const event of events) {
    const other = known.get(0 - facts.variance - event.amount);
    if (other && found.length < 3) {
      found.push({
        cause: 'two-events',
        words: `${other.name} (${money(facts, other.amount)}) and ${event.name} (${money(facts, event.amount)}) together make the difference.`,
        likelihood: BEFORE['two-events'],
        eventIds: [other.id, event.id],
        followUp: null,
      });
    }
    known.set(event.amount, event);
  }
  return found;
}

const cashEvents = ({ events }: VarianceFacts): ShiftEvent[] => events.filter(({ kind }) => kind !== 'card');
