import { describe, expect, it } from 'vitest';
import docs from '../../docs/keys.md?raw';
import { allKeys, keyHint, KEYS, keysAsMarkdown, keyNames, type KeyPlace } from './keyTable.ts';

describe('the key table', () => {
  it.each(Object.entries<KeyPlace>(KEYS))('gives each key one meaning in %s', (_place, { uses }) => {
    const keys = Object.values(uses).flatMap((use) => use.keys);
    expect(keys.filter((key, at) => keys.indexOf(key) !== at)).toEqual([]);
  });

  it('gives each place its own words, and something that can be done', () => {
    const words = Object.values<KeyPlace>(KEYS).map((place) => place.words);
    expect(new Set(words).size).toBe(words.length);
    for (const { uses } of Object.values<KeyPlace>(KEYS)) {
      for (const use of Object.values(uses)) expect(allKeys(use)).not.toEqual([]);
    }
  });

  it('names keys as they stand on the keyboard', () => {
    expect(keyNames(KEYS.counter.uses.chooseLine)).toEqual(['↑', '↓']);
    expect(keyNames(KEYS.returning.uses.choose)).toEqual(['1–9']);
    expect(keyNames(KEYS.customer.uses.again)).toEqual(['1–5']);
    expect(keyNames(KEYS.comparing.uses.follow)).toEqual(['Alt 1–9']);
    expect(keyNames(KEYS.paying.uses.choose)).toEqual(['Alt 1–9', '1–9']);
    expect(keyNames(KEYS.form.uses.accept)).toEqual(['F9']);
    expect(keyHint('line.pick')).toBe('Space');
    expect(keyHint('form.accept')).toBe('Enter');
    expect(keyHint('paying.split')).toBe('÷');
  });

  it('is what the documentation says', () => {
    expect(docs).toContain(keysAsMarkdown());
  });
});
