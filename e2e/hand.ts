import type { Till } from './till.ts';

/** A person's hand, counted: a key, a word or number that is typed, a press, a scan is one action each. */
export class Hand {
  actions = 0;
  readonly till: Till;
  constructor(of: Till) {
    this.till = of;
  }
  key(key: string): Promise<void> {
    this.actions += 1;
    return this.till.keys(key);
  }
  type(text: string): Promise<void> {
    this.actions += 1;
    return this.till.keys(text);
  }
  press(words: string): Promise<void> {
    this.actions += 1;
    return this.till.press(words);
  }
  click(css: string): Promise<void> {
    this.actions += 1;
    return this.till.click(css);
  }
}

/** Does something by hand. @returns how many actions it took */
export async function count(of: Till, work: (hand: Hand) => Promise<void>): Promise<number> {
  const hand = new Hand(of);
  await work(hand);
  return hand.actions;
}
