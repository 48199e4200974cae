import { describe, expect, it } from 'vitest';
import { parseJournalSearch } from './journalSearch.ts';

describe('the search of the journal', () => {
  const search = (text: string) => parseJournalSearch(text, 2);

  it('tells numbers, days, amounts, cards and words apart', () => {
    expect(search('1-0234').receipt).toEqual({ till: 1, count: 234 });
    expect(search('2026-03-02').day).toBe('2026-03-02');
    expect(search('3/2/2026').day).toBe('2026-03-02');
    expect(search('2026-13-45')).toMatchObject({ day: null, words: ['2026-13-45'] });
    expect(search('38.20').amount).toEqual({ least: 3820, most: 3820 });
    expect(search('about 40').amount).toEqual({ least: 3600, most: 4400 });
    expect(search('~40').amount).toEqual({ least: 3600, most: 4400 });
    expect(search('*4242').lastFour).toBe('4242');
    expect(search('blue bowl 38.20')).toMatchObject({
      words: ['blue', 'bowl'],
      amount: { least: 3820, most: 3820 },
    });
    expect(search('')).toEqual({ receipt: null, day: null, amount: null, lastFour: null, words: [] });
  });
});
