import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { settingChanges, type SettingInWords } from './changes.ts';

const float = (value: string): SettingInWords => ({ section: 'shop', what: 'Usual float', value });
const role = (value: string): SettingInWords => ({ section: 'staff', what: 'Role of Ines P.', value });

describe('what changed in Setup', () => {
  it('is what was, what became, what came and what went', () => {
    expect(settingChanges([float('200.00')], [float('150.00'), role('cashier')])).toEqual([
      { section: 'shop', what: 'Usual float', was: '200.00', became: '150.00' },
      { section: 'staff', what: 'Role of Ines P.', was: '', became: 'cashier' },
    ]);
    expect(settingChanges([role('cashier')], [])).toEqual([
      { section: 'staff', what: 'Role of Ines P.', was: 'cashier', became: '' },
    ]);
  });

  it('turns the one state into the other, and is nothing between equal ones', () => {
    const setting = fc.record({
      section: fc.constantFrom('shop' as const, 'staff' as const),
      what: fc.constantFrom('a', 'b', 'c'),
      value: fc.constantFrom('1', '2', '3'),
    });
    const state = fc.uniqueArray(setting, { selector: ({ section, what }) => `${section} ${what}` });
    fc.assert(
      fc.property(state, state, (before, after) => {
        expect(settingChanges(before, before)).toEqual([]);
        const kept = new Map<string, string>(before.map((one) => [`${one.section} ${one.what}`, one.value]));
        for (const { section, what, was, became } of settingChanges(before, after)) {
          expect(kept.get(`${section} ${what}`) ?? '').toBe(was);
          if (became === '') kept.delete(`${section} ${what}`);
          else kept.set(`${section} ${what}`, became);
        }
        expect([...kept].sort()).toEqual(
          after.map((one) => [`${one.section} ${one.what}`, one.value]).sort(),
        );
      }),
    );
  });
});
