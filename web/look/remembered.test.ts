import { beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, reactive, type EffectScope } from 'vue';
import { follow } from '../notices/follow.ts';
import { forgetTypedInto, titleOfLastTyped, typesFromNow } from '../net/typedBefore.ts';
import { nothingUnsaved, took, unsavedForm, watchForms } from '../net/unsaved.ts';
import { useRemembered, useRememberedInTurn } from './remembered.ts';

/** A page whose keys are pressed by the test. */
const page = new EventTarget();
vi.stubGlobal('HTMLInputElement', EventTarget);
vi.stubGlobal('HTMLTextAreaElement', EventTarget);
watchForms(page as Document);
const press = () => page.dispatchEvent(new Event('keydown'));

const scopes = new Set<EffectScope>();
beforeEach(() => {
  for (const scope of scopes) scope.stop();
  typesFromNow(1);
});

/** Opens the form of a supplier, as a page does. */
function open(name = 'supplier 5', secret: string[] = []) {
  const form = reactive({ name: 'Tamarind', days: 30, lines: [] as string[], pin: '' });
  const scope = effectScope();
  scopes.add(scope);
  const remembered = scope.run(() => useRemembered(name, () => 'Change the supplier', form, secret));
  if (!remembered) throw new Error('there is no form');
  const type = async (parts: Partial<typeof form>): Promise<void> => {
    press();
    Object.assign(form, parts);
    await nextTick();
  };
  return { form, ...remembered, type, leave: () => scope.stop() };
}

describe('a form that remembers', () => {
  it('offers what was typed and not kept to whoever opens it again, and puts it back', async () => {
    const first = open();
    expect(first.before.value).toBeNull();
    await first.type({ days: 14, lines: ['kazoo', 'slide whistle'] });
    first.leave();

    const again = open();
    expect([again.before.value?.parts, again.form.days]).toEqual([
      { days: 14, lines: ['kazoo', 'slide whistle'] },
      30,
    ]);
    again.putBack();
    expect({ ...again.form }).toEqual({
      name: 'Tamarind',
      days: 14,
      lines: ['kazoo', 'slide whistle'],
      pin: '',
    });
    expect(again.before.value).toBeNull();
    await nextTick();
    again.leave();
    expect(open().before.value?.parts.days).toBe(14);
  });

  it('belongs to one thing, and to one person', async () => {
    const form = open();
    await form.type({ days: 14 });
    expect(open('supplier 6').before.value).toBeNull();
    expect(titleOfLastTyped()).toBe('Change the supplier');
    typesFromNow(2);
    expect([open().before.value, titleOfLastTyped()]).toEqual([null, undefined]);
    typesFromNow(1);
    expect(open().before.value).not.toBeNull();
  });

  it('forgets what was kept, let go, or taken back by hand', async () => {
    const form = open();
    await form.type({ days: 14 });
    form.kept();
    expect([localStorage.length, unsavedForm()]).toEqual([0, undefined]);
    await form.type({ days: 21 });
    await form.type({ days: 14 });
    expect(localStorage.length).toBe(0);
    await form.type({ name: 'Tamarind Trading' });
    form.leave();
    const again = open();
    again.letGo();
    expect([localStorage.length, again.before.value]).toEqual([0, null]);
  });

  it('is kept as soon as the server has taken it, and blank for the next one; not when it is refused', async () => {
    const form = open();
    await form.type({ days: 14 });
    await form.send(() => Promise.reject(new Error('refused'))).catch(() => {});
    expect([localStorage.length, unsavedForm()]).toEqual([1, '“Change the supplier”']);
    await form.send(async () => {
      // What a till tells of its basket is no form.
      took('/counter/basket');
      expect(unsavedForm()).toBe('“Change the supplier”');
      took('/suppliers/5');
      // Its page is left at once, and asks nothing.
      expect([localStorage.length, unsavedForm()]).toEqual([0, undefined]);
      form.form.days = 30;
      await nextTick();
    });
    expect([localStorage.length, unsavedForm()]).toEqual([0, undefined]);
    // What is taken of others keeps nothing of this one.
    await form.type({ days: 7 });
    took('/customers/3');
    expect([localStorage.length, unsavedForm()]).toEqual([1, '“Change the supplier”']);
  });

  it('offers one after the other what was typed and not kept, and mixes nothing', async () => {
    const first = open();
    await first.type({ days: 14, lines: ['kazoo'] });
    first.leave();
    const second = open();
    await second.type({ name: 'Tam' });
    // Another one is kept; what was typed before it is there still.
    await second.send(() => took('/suppliers'));
    expect(second.before.value?.parts).toEqual({ days: 14, lines: ['kazoo'] });
    await second.type({ name: 'Tamarind Trading' });
    second.leave();
    const third = open();
    expect(third.before.value?.parts).toEqual({ name: 'Tamarind Trading' });
    third.letGo();
    expect(third.before.value?.parts).toEqual({ days: 14, lines: ['kazoo'] });
    third.leave();
    const fourth = open();
    fourth.putBack();
    await nextTick();
    expect([fourth.form.name, fourth.form.days, fourth.before.value]).toEqual(['Tamarind', 14, null]);
    await fourth.send(() => took('/suppliers'));
    expect(localStorage).toHaveLength(0);
  });

  it('takes what is filled in before anybody pressed a key for what it began with', async () => {
    const form = open();
    form.form.days = 60;
    await nextTick();
    expect([localStorage.length, unsavedForm()]).toEqual([0, undefined]);
    await form.type({ name: 'Tam' });
    form.leave();
    expect(open().before.value?.parts).toEqual({ name: 'Tam' });
  });

  it('takes over what others have changed, and remembers only what was typed here', async () => {
    const form = open();
    await form.type({ days: 14 });
    const kept = { name: 'Tamarind', days: 30, lines: [], pin: '' };
    follow(form.form, kept, { ...kept, name: 'Tamarind and Co' });
    await nextTick();
    form.leave();
    expect(open().before.value?.parts).toEqual({ days: 14 });
  });

  it('never writes a secret down', async () => {
    const form = open('person 1', ['pin']);
    await form.type({ pin: '1357' });
    expect([localStorage.length, unsavedForm()]).toEqual([0, '“Change the supplier”']);
    await form.type({ days: 3 });
    expect(localStorage.getItem('mondrel.typed.1.person 1')).toMatch(/^(?!.*1357).*"days":3/);
  });

  it('is asked about until it is let go on purpose, and again when more is typed', async () => {
    const form = open();
    expect(unsavedForm()).toBeUndefined();
    await form.type({ days: 14 });
    expect([unsavedForm(), titleOfLastTyped()]).toEqual(['“Change the supplier”', 'Change the supplier']);
    nothingUnsaved();
    expect([unsavedForm(), titleOfLastTyped()]).toEqual([undefined, undefined]);
    await form.type({ days: 15 });
    expect([unsavedForm(), titleOfLastTyped()]).toEqual(['“Change the supplier”', 'Change the supplier']);
    form.left();
    expect(titleOfLastTyped()).toBeUndefined();
    form.leave();
    expect(unsavedForm()).toBeUndefined();
  });

  it('is forgotten for everybody with whom it was about', async () => {
    const form = open('customer 5');
    await form.type({ name: 'Wenna' });
    form.leave();
    const other = open('customer 15');
    await other.type({ name: 'Corin' });
    typesFromNow(2);
    forgetTypedInto('customer 5');
    typesFromNow(1);
    expect([open('customer 5').before.value, localStorage.length]).toEqual([null, 1]);
  });

  it('goes without a memory where the browser has no room, and after two days', async () => {
    const form = open();
    await form.type({ name: 'T' });
    expect(localStorage.length).toBe(1);
    const full = vi.spyOn(localStorage, 'setItem').mockImplementation(() => {
      throw new Error('no room');
    });
    await form.type({ name: 'Tam' });
    expect(localStorage.length).toBe(0);
    full.mockRestore();
    await form.type({ name: 'Tamarind Trading' });
    form.leave();
    typesFromNow(1);
    expect(localStorage.length).toBe(1);
    // After an hour it is not told any more, but still offered.
    vi.useFakeTimers({ now: Date.now() + 61 * 60 * 1000 });
    expect([titleOfLastTyped(), localStorage.length]).toEqual([undefined, 1]);
    vi.useFakeTimers({ now: Date.now() + 49 * 60 * 60 * 1000 });
    typesFromNow(1);
    expect(localStorage.length).toBe(0);
    vi.useRealTimers();
  });

  it('begins anew with each thing that a page shows, and not after the page was left', async () => {
    const scope = effectScope();
    scopes.add(scope);
    const turns = scope.run(() => useRememberedInTurn());
    const first = reactive({ days: 30 });
    turns?.begin('order 1', () => 'B-0001', first);
    press();
    first.days = 14;
    await nextTick();
    expect(unsavedForm()).toBe('“B-0001”');
    turns?.begin('order 2', () => 'B-0002', reactive({ days: 30 }));
    expect([unsavedForm(), turns?.remembered.value?.before.value]).toEqual([undefined, null]);
    turns?.begin('order 1', () => 'B-0001', reactive({ days: 30 }));
    expect(turns?.remembered.value?.before.value?.parts).toEqual({ days: 14 });
    scope.stop();
    turns?.begin('order 3', () => 'B-0003', reactive({ days: 30 }));
    expect(turns?.remembered.value).toBeNull();
  });
});
