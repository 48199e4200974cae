import { expect, it } from 'vitest';
import { textOf } from './readFile.ts';

it('reads lists as spreadsheets write them, old and new', () => {
  expect(textOf(new TextEncoder().encode('\uFEFFName;Zoë – 5'))).toBe('Name;Zoë – 5');
  expect(textOf(Uint8Array.from([0x5a, 0x6f, 0xeb]))).toBe('Zoë');
  expect(textOf(Uint8Array.from([0xff, 0xfe, 0x5a, 0x00, 0xeb, 0x00]))).toBe('Zë');
  expect(textOf(Uint8Array.from([0xfe, 0xff, 0x00, 0x5a, 0x00, 0xeb]))).toBe('Zë');
});
