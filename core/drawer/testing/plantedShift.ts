import { sum, type Money } from '../../money.ts';
import { CURRENCIES } from '../../payment/currency.ts';
import { worth, type Pieces } from '../countSheet.ts';
import type { Cause, Habit, ShiftEvent, VarianceFacts } from '../varianceFinder.ts';

/** Numbers that look random and are the same for the same seed (a linear congruential generator, Numerical Recipes). */
function randomOf(seed: number): () => number {
  let state = (seed * 2_654_435_761) >>> 0;
  const next = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
  for (let at = 0; at < 10; at++) next();
  return next;
}

const FLOAT = 20_000;
const PIECES = CURRENCIES.find(({ code }) => code === 'USD')?.pieces ?? [];
const REASONS = ['Post and parcels', 'Cleaning', 'Delivery paid at the door', 'Flowers', 'Window cleaner'];

/**
 * A shift of a shop with one cause of a difference planted in it, and nothing else wrong. @param size how many sales
 */
export function plantedShift(cause: Cause, seed: number, size = 60): VarianceFacts {
  const random = randomOf(seed * 97 + cause.length * 13 + cause.charCodeAt(0));
  const upTo = (most: number) => Math.floor(random() * most);
  const pick = <One>(all: readonly One[]): One | undefined => all[upTo(all.length)];
  const booked: ShiftEvent[] = Array.from({ length: size }, (_, at): ShiftEvent => {
    const amount = 180 + upTo(9000);
    const card = random() < 0.35;
    const handed = card ? 0 : handedFor(amount, random);
    return {
      id: `${at}:1`,
      kind: card ? 'card' : 'sale',
      amount,
      handed,
      name: `1-${String(at + 1).padStart(4, '0')}`,
    };
  });
  const moves = 2 + upTo(3);
  for (let at = 0; at < moves; at++) {
    const into = random() < 0.3;
    const amount = 100 * (3 + upTo(60)) + 10 * upTo(10);
    booked.push({
      id: `m${at}`,
      kind: into ? 'cash-in' : 'cash-out',
      amount: into ? amount : 0 - amount,
      handed: 0,
      name: into ? 'Change from the bank' : (pick(REASONS) ?? ''),
    });
  }
  const habits: Habit[] = [
    { reason: 'Tea and milk', amount: 100 * (5 + upTo(20)) + 50, seen: 9 + upTo(4), of: 12 },
  ];
  const [habit] = habits;
  if (habit && cause !== 'habit-missing') {
    booked.push({ id: 'habit', kind: 'cash-out', amount: 0 - habit.amount, handed: 0, name: habit.reason });
  }
  const plain = facts(booked, habits);
  return plant(cause, plain, { pick, upTo, habit });
}

const facts = (events: ShiftEvent[], habits: Habit[]): VarianceFacts => ({
  variance: 0,
  events,
  counted: piecesFor(FLOAT + sum(events.filter(({ kind }) => kind !== 'card').map(({ amount }) => amount))),
  pieces: PIECES,
  habits,
  terminalOff: 0,
  digits: 2,
});

interface Dice {
  pick<One>(all: readonly One[]): One | undefined;
  upTo(most: number): number;
  habit: Habit | undefined;
}

/** What goes wrong, told by the count and by the books. */
function plant(cause: Cause, shift: VarianceFacts, { pick, upTo, habit }: Dice): VarianceFacts {
  const sales = shift.events.filter(({ kind }) => kind === 'sale');
  const cards = shift.events.filter(({ kind }) => kind === 'card');
  const moves = shift.events.filter(
    ({ kind, id }) => (kind === 'cash-in' || kind === 'cash-out') && id !== 'habit',
  );
  const off = (variance: Money): VarianceFacts => ({
    ...shift,
    variance,
    counted: piecesFor(worth(shift.counted) + variance),
  });
  switch (cause) {
    case 'habit-missing':
      return off(0 - (habit?.amount ?? 0));
    case 'left-out':
      // A cash-out like one that is there was made again and not entered.
      return off(pick(moves)?.amount ?? 0);
    case 'twice': {
      const one = pick(moves) ?? sales[0];
      if (!one) return shift;
      return { ...off(0 - one.amount), events: [...shift.events, { ...one, id: `${one.id}-again` }] };
    }
    case 'wrong-sign':
      return off(-2 * (pick(moves)?.amount ?? 0));
    case 'keyed-for-handed': {
      const noted = sales.filter(
        ({ handed, amount }) => handed > amount && [500, 1000, 2000, 5000, 10_000].includes(handed),
      );
      const one = pick(noted);
      if (!one) return shift;
      const below = [10_000, 5000, 2000, 1000, 500].find((note) => note < one.handed && note >= one.amount);
      const meant = below ?? one.handed * (one.handed === 2000 ? 2.5 : 2);
      return off(meant - one.handed);
    }
    case 'digits-swapped': {
      const one = moves.find(({ amount }) => swapped(Math.abs(amount)) !== Math.abs(amount));
      if (!one) return shift;
      const meant = swapped(Math.abs(one.amount)) * Math.sign(one.amount);
      return off(meant - one.amount);
    }
    case 'wrong-piece': {
      const values = shift.pieces
        .map(({ value }) => value)
        .filter((value) => (shift.counted[value] ?? 0) > 0);
      const as = pick(values.slice(0, 4)) ?? 2000;
      const smaller = shift.pieces.map(({ value }) => value).find((value) => value < as) ?? 0;
      return { ...shift, variance: as - smaller };
    }
    case 'roll-missed': {
      const coin = pick(shift.pieces.filter(({ roll }) => roll !== undefined));
      return off(0 - (coin?.value ?? 0) * (coin?.roll ?? 0));
    }
    case 'cash-as-card': {
      const amount = pick(cards)?.amount ?? 0;
      return { ...off(amount), terminalOff: 0 - amount };
    }
    case 'card-as-cash': {
      const amount = pick(sales)?.amount ?? 0;
      return { ...off(0 - amount), terminalOff: amount };
    }
    case 'two-events': {
      const [first, second] = [moves[0], sales[upTo(sales.length)]];
      return off(0 - (first?.amount ?? 0) - (second?.amount ?? 0));
    }
  }
}

function swapped(amount: Money): Money {
  const figures = String(amount).split('');
  for (let at = figures.length - 3; at > 0; at--) {
    if (figures[at] !== figures[at - 1]) {
      [figures[at - 1], figures[at]] = [figures[at] ?? '', figures[at - 1] ?? ''];
      return Number(figures.join(''));
    }
  }
  return amount;
}

function handedFor(amount: Money, random: () => number): Money {
  if (random() < 0.2) return amount;
  const notes = [500, 1000, 2000, 5000, 10_000].filter((note) => note >= amount);
  return notes[Math.min(notes.length - 1, random() < 0.7 ? 0 : 1)] ?? Math.ceil(amount / 2000) * 2000;
}

function piecesFor(amount: Money): Pieces {
  let left = Math.max(0, amount);
  const counted: Pieces = {};
  for (const { value } of PIECES.toSorted((a, b) => b.value - a.value)) {
    const count = Math.floor(left / value);
    if (count > 0) counted[value] = count;
    left -= count * value;
  }
  return counted;
}
