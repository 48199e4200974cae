import { describe, expect, it } from 'vitest';
import { shown } from './shown.ts';
import { late } from '../../contract/testing/late.ts';

describe('what is shown', () => {
  it('is the answer to the last question, whatever is answered first', async () => {
    const [page, showPage] = shown<string | null>(null);
    const [first, second] = [late<string>(), late<string>()];
    const both = [showPage(first.promise), showPage(second.promise)];
    second.come('order 2');
    first.come('order 1');
    expect(await Promise.all(both)).toEqual([undefined, 'order 2']);
    expect(page.value).toBe('order 2');
  });

  it('is how it stands after a change, not what was looked at before it', async () => {
    const [page, showPage] = shown('version 1');
    const [looked, changed] = [late<string>(), late<string>()];
    const look = showPage(looked.promise);
    const change = showPage(changed.promise);
    changed.come('version 2');
    await change;
    looked.come('version 1');
    await look;
    expect(page.value).toBe('version 2');
  });

  it('is what was put there, not what was asked for before that', async () => {
    const [page, showPage, putPage] = shown<string | null>('order 1');
    const slow = late<string>();
    const look = showPage(slow.promise);
    putPage(null);
    slow.come('order 2');
    expect(await look).toBeUndefined();
    expect(page.value).toBeNull();
    await showPage(Promise.resolve('order 3'));
    expect(page.value).toBe('order 3');
  });

  it('stays where the answer is a refusal, which whoever asked is told', async () => {
    const [page, showPage] = shown('here');
    await expect(showPage(Promise.reject(new Error('not now')))).rejects.toThrow('not now');
    expect(page.value).toBe('here');
  });
});
