import type { Paper, PaperRow } from './paper.ts';

/** What must not be taken for markup in HTML text and attributes. */
const escape = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

const FONT = 'font-family:ui-monospace,Consolas,monospace;font-size:14px;line-height:1.5;color:#15171c';

/**
 * Sets a paper as the HTML of a mail: a table with its styles in place, as mail programs want it; no pictures from
 * elsewhere. @param barcode makes the picture of a barcode as a data URL, if there is to be one
 */
export function paperHtml(paper: Paper, barcode?: (text: string) => string): string {
  const rows = paper.rows.map((row) => `<tr>${cells(row, barcode)}</tr>`).join('\n');
  return `<!doctype html>
<html><head><meta charset="utf-8"><title>${escape(paper.title)}</title></head>
<body style="margin:0;background:#faf7ef;padding:24px">
<table role="presentation" style="${FONT};background:#ffffff;border:1px solid #ddd6c6;padding:20px;margin:0 auto;width:380px" cellpadding="0" cellspacing="0">
${rows}
</table></body></html>
`;
}

function cells(row: PaperRow, barcode?: (text: string) => string): string {
  const whole = (style: string, text: string) => `<td colspan="2" style="${style}">${text}</td>`;
  switch (row.kind) {
    case 'logo':
      return whole(
        'text-align:center',
        `<img src="${escape(row.source)}" alt="${escape(row.alt)}" style="max-width:200px">`,
      );
    case 'title':
      return whole('text-align:center;font-weight:bold;font-size:16px', escape(row.text));
    case 'centre':
      return whole('text-align:center', escape(row.text));
    case 'text':
      return whole('', escape(row.text));
    case 'gap':
      return whole('height:12px', '');
    case 'rule':
      return whole('', '<hr style="border:0;border-top:1px solid #15171c">');
    case 'barcode':
      return whole(
        'text-align:center;padding:10px 0',
        barcode
          ? `<img src="${barcode(row.text)}" alt="${escape(row.text)}"><br>${escape(row.text)}`
          : escape(row.text),
      );
    case 'signature':
      return whole('border-top:1px solid #15171c', escape(row.label));
    case 'pair': {
      const style = `${row.strong ? 'font-weight:bold;' : ''}${row.indent ? 'padding-left:14px;' : ''}`;
      return `<td style="${style}">${escape(row.left)}</td><td style="${style}text-align:right;white-space:nowrap">${escape(row.right)}</td>`;
    }
  }
}
