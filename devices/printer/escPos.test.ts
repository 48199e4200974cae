import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { STAND_IN } from '../../core/journal/printerSetup.ts';
import { escPos } from './escPos.ts';

const ESC = 0x1b;
const GS = 0x1d;
const has = (bytes: Uint8Array, wanted: readonly number[]) =>
  Buffer.from(bytes).includes(Buffer.from(wanted));

/** A white picture of 16 by 8 dots. */
const logo = () => {
  const png = new PNG({ width: 16, height: 8 });
  png.data.fill(255);
  return `data:image/png;base64,${PNG.sync.write(png).toString('base64')}`;
};

describe('the bytes for a receipt printer', () => {
  it('set text, bold totals, a barcode and a cut, and open the drawer only where asked', () => {
    const paper = {
      title: 'Receipt 1-0001',
      rows: [
        { kind: 'title' as const, text: 'Ostler Lane Music' },
        { kind: 'pair' as const, left: 'Total USD', right: '12.00', strong: true },
        { kind: 'barcode' as const, text: '1-0001' },
      ],
    };
    const bytes = escPos(paper, true, STAND_IN);
    expect(Buffer.from(bytes).toString('latin1')).toMatch(/Total USD +12\.00/);
    expect(has(bytes, [ESC, 0x45, 1])).toBe(true);
    expect(has(bytes, [GS, 0x6b])).toBe(true);
    expect(has(bytes, [GS, 0x56])).toBe(true);
    expect(has(bytes, [ESC, 0x70])).toBe(true);
    expect(has(escPos(paper, false, STAND_IN), [ESC, 0x70])).toBe(false);
  });

  it('have no question mark for a minus, a curly quote or a letter from elsewhere', () => {
    const rows = [
      { kind: 'text' as const, text: 'Łódź – “Ørsted’s” Žižka' },
      { kind: 'pair' as const, left: 'Offer', right: '−5.00' },
    ];
    const text = Buffer.from(escPos({ title: '', rows }, false, STAND_IN)).toString('latin1');
    expect(text).not.toContain('?');
    expect(text).toMatch(/Offer +-5\.00/);
    expect(text).toContain('L\u00a2dz - "');
    expect(text).toContain('Zizka');
  });

  it('only open the drawer where there is nothing to print', () => {
    const bytes = escPos({ title: 'Drawer', rows: [] }, true, STAND_IN);
    expect(has(bytes, [ESC, 0x70])).toBe(true);
    expect(has(bytes, [GS, 0x56])).toBe(false);
  });

  it('set the logo as dots', () => {
    const bytes = escPos(
      { title: '', rows: [{ kind: 'logo', source: logo(), alt: 'Shop' }] },
      false,
      STAND_IN,
    );
    expect(has(bytes, [GS, 0x76, 0x30])).toBe(true);
  });
});
