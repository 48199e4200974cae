import { describe, expect, it } from 'vitest';
import { formatMoneyIn } from '../money.ts';
import { paperHtml } from './paperHtml.ts';
import { giftCardPaper, receipt, type ReceiptData } from './receipt.ts';

const shop: ReceiptData['shop'] = {
  name: 'Ostler Lane Music',
  words: [],
  thanks: 'Danke.',
  logo: 'data:image/png;base64,AAAA',
  terms: { total: 'Summe', change: ' ' },
  locale: 'de-DE',
};

const sale: ReceiptData = {
  shop,
  place: 'Ostler Lane',
  till: 'Till 1',
  number: '1-0007',
  when: '3/2/2026',
  cashier: 'Noor A.',
  customer: '<b>Mallory</b> & "Co"',
  digits: 2,
  currency: 'USD',
  lines: [],
  regular: 1_234_50,
  reductions: 0,
  taxes: [],
  taxMode: 'inside',
  total: 1_234_50,
  note: '',
  exemption: null,
  tenders: [
    {
      name: 'Harbour ·· 4821',
      amount: 1_230_00,
      tip: 5_00,
      facts: 'tapped, approval 123456',
      signature: 'M0 0 L9 9',
    },
    { name: 'Cash', amount: 10_00, tip: 0, facts: '', signature: '' },
  ],
  donation: { fund: 'A fund', amount: 50 },
  cashRounding: -2,
  change: 4_98,
};

describe('a receipt', () => {
  it('is written in the words and figures of the shop', () => {
    const rows = JSON.stringify(receipt(sale).rows);
    expect(rows).toContain('Summe USD');
    expect(rows).toContain('1.234,50');
    // A term that was left empty is the usual one.
    expect(rows).toContain('Change');
    for (const words of ['Given to A fund', 'Cash rounding', 'Tip', 'tapped, approval 123456', 'signature'])
      expect(rows).toContain(words);
  });

  it('is a mail that nobody can write markup into', () => {
    const html = paperHtml(receipt(sale), (text) => `data:barcode,${text}`);
    expect(html).toContain('&lt;b&gt;Mallory&lt;/b&gt; &amp; &quot;Co&quot;');
    expect(html).not.toContain('<b>Mallory');
    expect(html).toContain('src="data:image/png;base64,AAAA"');
    expect(html).toContain('data:barcode,1-0007');
  });

  it('of a gift card has its number as a barcode, and until when it can be used', () => {
    const paper = giftCardPaper({
      shop,
      name: 'Gift card',
      number: '55500011196',
      amount: 40_00,
      currency: 'USD',
      digits: 2,
      expires: null,
    });
    expect(paper.rows).toContainEqual({ kind: 'barcode', text: '55500011196' });
    expect(JSON.stringify(paper.rows)).toContain('40,00 USD');
    expect(JSON.stringify(paper.rows)).toContain('Does not expire.');
  });

  it('writes amounts as each language does', () => {
    expect(formatMoneyIn('en-US', -1_234_56)).toBe('−1,234.56');
    expect(formatMoneyIn('fr-FR', 1_234_56)).toBe('1 234,56');
    expect(formatMoneyIn('ja-JP', 1234, 0)).toBe('1,234');
    // More than a float can hold to the cent.
    expect(formatMoneyIn('de-DE', 9_007_199_254_740_991)).toBe('90.071.992.547.409,91');
  });
});
