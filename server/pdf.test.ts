import { describe, expect, it } from 'vitest';
import { pageSizeOf, tableSheet } from './pdf.ts';
import { setPdf, textRuns } from './setPdf.ts';

const pagesOf = (pdf: Buffer) => pdf.toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0;

describe('text on PDF', () => {
  it('has the letters of both parts of the font, and plain ones for what neither has', () => {
    expect(textRuns('Größe, −5.00 €')).toEqual([{ text: 'Größe, −5.00 €', font: 'Mono' }]);
    expect(textRuns('Łódź')).toEqual([
      { text: 'Ł', font: 'MonoExt' },
      { text: 'ód', font: 'Mono' },
      { text: 'ź', font: 'MonoExt' },
    ]);
    expect(textRuns('Привет, Ελλάδα')).toEqual([{ text: 'Privet, Ellada', font: 'Mono' }]);
    // A letter and its accent that come apart are one letter.
    expect(textRuns('e\u0301')).toEqual([{ text: 'é', font: 'Mono' }]);
  });

  it('embeds both parts where both are needed', async () => {
    const plain = await setPdf({ pageSize: 'A4', content: [{ text: 'Strap' }] });
    const both = await setPdf({ pageSize: 'A4', content: [{ text: 'Žižka' }] });
    const fonts = (pdf: Buffer) => pdf.toString('latin1').match(/\/Type \/Font\b/g)?.length ?? 0;
    expect(fonts(both)).toBeGreaterThan(fonts(plain));
  });
});

describe('a table', () => {
  const table = (rows: number) =>
    setPdf(
      tableSheet({
        title: 'Shifts',
        subtitle: '',
        headings: [{ text: 'Day' }, { text: 'Taken', right: true }],
        rows: Array.from({ length: rows }, (_, at) => [`Day ${at}`, '1,234.50']),
        sums: ['Together', '99.00'],
        locale: 'en-US',
      }),
    );

  it('is on as many sheets as it needs, of the size that the shop has', async () => {
    expect(pagesOf(await table(3))).toBe(1);
    expect(pagesOf(await table(200))).toBeGreaterThan(3);
    expect(pageSizeOf('en-US')).toBe('LETTER');
    expect(pageSizeOf('fr-CA')).toBe('LETTER');
    expect(pageSizeOf('de-DE')).toBe('A4');
  });
});
