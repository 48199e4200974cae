import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Item } from '../../core/goods/item.ts';
import { useQuestionStore } from './questionStore.ts';

const item = { id: 3, name: 'Viola' } as Item;
beforeEach(() => setActivePinia(createPinia()));

describe('what an item asks before it is rung up', () => {
  it('is answered once, by an answer of its kind', async () => {
    const questions = useQuestionStore();
    const asked = questions.ask('serial', { item, unit: { at: 2, of: 3 } });
    expect(questions.asked).toEqual({ kind: 'serial', item, code: '', unit: { at: 2, of: 3 } });
    questions.answer('price', 100);
    expect(questions.asked?.kind).toBe('serial');
    questions.answer('serial', 'V-881');
    expect(await asked).toBe('V-881');
    expect(questions.asked).toBeNull();
    questions.answer('serial', 'V-882');
    expect(questions.asked).toBeNull();
  });

  it('is left where somebody leaves it, or asks something else', async () => {
    const questions = useQuestionStore();
    const left = questions.ask('age', { item });
    questions.leave();
    expect(await left).toBeNull();
    const first = questions.ask('note', { item });
    questions.scanned = { serial: 'old' };
    const second = questions.ask('unknown', { code: '4001' });
    expect(await first).toBeNull();
    expect([questions.asked?.code, questions.asked?.item, questions.scanned]).toEqual(['4001', null, null]);
    questions.answer('unknown', 'done');
    expect(await second).toBe('done');
  });
});
