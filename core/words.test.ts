import anyAscii from 'any-ascii';
import { afterEach, describe, expect, it } from 'vitest';
import { capital, fold, hasOtherScripts, onePoint, wordsFit, wordsOf, writeOtherScripts } from './words.ts';

afterEach(() => writeOtherScripts((letter) => letter));

describe('texts are compared', () => {
  it('in lower case and plain letters, word by word', () => {
    expect(wordsOf('Reed, B♭ clarinet (No. 2½)')).toEqual(['reed', 'b♭', 'clarinet', 'no', '2½']);
    expect(wordsOf('Łódź, Æneas & Żółć; STRAẞE; Þórr')).toEqual([
      'lodz',
      'aeneas',
      '&',
      'zolc',
      'strasse',
      'thorr',
    ]);
  });

  it('with the letters of Europe as the table for all scripts has them', () => {
    const letters = Array.from({ length: 0x17f - 0xc0 + 1 }, (_, at) => String.fromCodePoint(0xc0 + at));
    const folded = letters.map(fold);
    writeOtherScripts(anyAscii);
    expect(letters.map(fold)).toEqual(folded);
    const bare = (letter: string) => anyAscii(letter.normalize('NFD').replace(/\p{M}/gu, '')).toLowerCase();
    expect(letters.filter((letter) => /\p{L}/u.test(letter) && fold(letter) !== bare(letter))).toEqual([]);
    expect(letters.filter(hasOtherScripts)).toEqual([]);
  });

  it('in other scripts as they are, until somebody says how those are written', () => {
    expect([hasOtherScripts('Оркестр'), hasOtherScripts('Łódź 5♭')]).toEqual([true, false]);
    expect(wordsOf('Оркестр Σ')).toEqual(['оркестр', 'σ']);
    writeOtherScripts(anyAscii);
    expect(wordsOf('Оркестр Σ')).toEqual(['orkestr', 's']);
  });
});

it('a sentence that ends with a name has one point', () => {
  expect(['Undone by Isolde R..', 'Undone by Teo.', 'Which one?'].map(onePoint)).toEqual([
    'Undone by Isolde R.',
    'Undone by Teo.',
    'Which one?',
  ]);
});

it('words that are looked for begin words of a text, in any order', () => {
  expect(wordsFit('tern violin', 'Violin strings, Tern & Daughters')).toBe(true);
  expect(wordsFit('vio łod', 'Violin from Lodz')).toBe(true);
  expect(wordsFit('iolin', 'Violin')).toBe(false);
  expect(wordsFit(' ', '')).toBe(true);
});

it('a text begins with a capital', () => {
  expect([capital('frozen'), capital('é'), capital('')]).toEqual(['Frozen', 'É', '']);
});
