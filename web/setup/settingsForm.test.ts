import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSettingsForm } from './settingsForm.ts';

interface Facts {
  seen: number;
  name: string;
  minutes: number;
  zones: string[];
}

const facts = shallowRef<Facts | null>(null);
const atFirst: Facts = { seen: 1, name: 'Corner', minutes: 5, zones: ['north'] };
beforeEach(() => {
  setActivePinia(createPinia());
  facts.value = atFirst;
});

const formOfIt = () =>
  useSettingsForm(
    'Shop',
    () => facts.value,
    ({ name, minutes, zones }) => ({ name, minutes: String(minutes), zones: [...zones] }),
  );
const refused = () =>
  Promise.reject(
    new ApiProblem({
      type: 'changed-meanwhile',
      status: 409,
      title: 'This was changed meanwhile. Nothing was done.',
      detail: 'Minutes: 5 → 7 (Ida).',
    }),
  );

describe('a form of settings', () => {
  it('follows what is kept where nobody has touched it, and keeps what was typed', () => {
    const { form } = formOfIt();
    form.name = 'Corner and Sons';
    facts.value = { seen: 4, name: 'Corner', minutes: 7, zones: ['north', 'south'] };
    expect(form).toEqual({ name: 'Corner and Sons', minutes: '7', zones: ['north', 'south'] });
  });

  it('says what was seen: not what was changed elsewhere as well, until that was told', async () => {
    const { form, keep } = formOfIt();
    form.minutes = '3';
    facts.value = { ...atFirst, seen: 2, name: 'Quay' };
    facts.value = { ...atFirst, seen: 3, name: 'Quay', minutes: 7 };
    facts.value = { ...atFirst, seen: 4, name: 'Quay', minutes: 7, zones: [] };
    const work = vi.fn().mockImplementationOnce(refused).mockResolvedValue({});
    expect(await keep(work, 'Kept.')).toBe(false);
    expect(useNoticeStore().notice?.text).toContain('Minutes: 5 → 7 (Ida).');
    expect(form).toEqual({ name: 'Quay', minutes: '3', zones: [] });
    expect(await keep(work, 'Kept.')).toBe(true);
    expect(work.mock.calls).toEqual([[2], [4]]);
  });

  it('has nothing to tell where both changed it to the same', async () => {
    const { form, keep } = formOfIt();
    form.minutes = '7';
    facts.value = { ...atFirst, seen: 2, minutes: 7 };
    const work = vi.fn().mockResolvedValue({});
    await keep(work, 'Kept.');
    expect(work).toHaveBeenCalledWith(2);
  });

  it('stands as it is kept once it is kept, but for what was typed while it was sent', async () => {
    const { form, keep } = formOfIt();
    form.minutes = '07';
    form.zones.push('west');
    await keep(async () => {
      await Promise.resolve();
      form.name = 'Quay';
      facts.value = { seen: 2, name: 'Corner', minutes: 7, zones: ['north', 'west'] };
    }, 'Kept.');
    expect(form).toEqual({ name: 'Quay', minutes: '7', zones: ['north', 'west'] });
    // What another one changes from now on is no longer taken for what was typed here.
    facts.value = { seen: 3, name: 'Harbour', minutes: 9, zones: ['east'] };
    expect(form).toEqual({ name: 'Quay', minutes: '9', zones: ['east'] });
  });

  it('keeps what was typed where something else is wrong, and says what', async () => {
    const { form, wrong, keep } = formOfIt();
    form.name = '';
    const problem = {
      type: 'not-valid',
      status: 422,
      title: 'A name.',
      fields: [{ field: 'name', message: 'A name.' }],
    } as const;
    const work = vi
      .fn()
      .mockRejectedValueOnce(new ApiProblem({ ...problem, fields: [...problem.fields] }))
      .mockResolvedValue({});
    expect(await keep(work, 'Kept.')).toBe(false);
    expect([wrong.value, form.name]).toEqual([{ name: 'A name.' }, '']);
    await keep(work, 'Kept.');
    expect(work.mock.calls).toEqual([[1], [1]]);
  });
});
