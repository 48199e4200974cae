import { expect, it } from 'vitest';

/** What looks the same by day and by night: paper, devices of others, the mark, and the heads of such pages. */
const SAME_ALWAYS = [
  '../counter/CameraScan.vue',
  '../drawer/SignatureField.vue',
  '../frame/Frame.vue',
  '../journal/BarcodeImage.vue',
  '../journal/PaperView.vue',
  '../terminal/TerminalPage.vue',
];

it('all else is in colours of the theme, so that it is seen in the dark as well', () => {
  const looks = import.meta.glob<string>('../**/*.{vue,css}', {
    query: '?raw',
    import: 'default',
    eager: true,
  });
  const own = Object.entries(looks)
    // What is printed is ink on paper.
    .map(([file, text]) => [file, text.split('@media print')[0] ?? ''] as const)
    .filter(([, text]) => /: [^;\n]*(#[\da-f]{3,8}\b|rgb\(\d)[^;\n]*;/i.test(text))
    .map(([file]) => file);
  expect(own.map((file) => file.replace(/^\.\//, '../look/')).sort()).toEqual(SAME_ALWAYS);
});
