import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import bwipjs from 'bwip-js/node';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoGoods } from '../demo/goods.ts';
import { openShop, type TestShop } from './testShop.ts';
import { Till } from './till.ts';

const WIDTH = 640;
const HEIGHT = 480;

/** A film of one picture: a barcode held in front of the camera (YUV4MPEG2, one byte of light for each point). */
function filmOf(code: string): Buffer {
  const [drawn] = bwipjs.raw({ bcid: 'ean13', text: code }) as unknown as { sbs: number[] }[];
  const bars = drawn?.sbs ?? [];
  const modules = bars.reduce((total, width) => total + width, 0);
  const scale = Math.floor((WIDTH - 160) / modules);
  const row = Buffer.alloc(WIDTH, 235);
  let at = Math.floor((WIDTH - modules * scale) / 2);
  bars.forEach((width, place) => {
    if (place % 2 === 0) row.fill(16, at, at + width * scale);
    at += width * scale;
  });
  const white = Buffer.alloc(WIDTH, 235);
  const light = Array.from({ length: HEIGHT }, (_, line) => (line > 120 && line < 360 ? row : white));
  const frame = Buffer.concat([Buffer.from('FRAME\n'), ...light, Buffer.alloc((WIDTH * HEIGHT) / 2, 128)]);
  const head = Buffer.from(`YUV4MPEG2 W${WIDTH} H${HEIGHT} F10:1 Ip A1:1 C420jpeg\n`);
  return Buffer.concat([head, ...Array.from({ length: 5 }, () => frame)]);
}

let shop: TestShop;
let till: Till;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'mondrel-film-'));
  const film = join(folder, 'barcode.y4m');
  writeFileSync(film, filmOf(demoGoods().find(({ number }) => number === 'MET-C')?.codes[0] ?? ''));
  shop = await openShop();
  till = await Till.open(() => shop.url, undefined, [
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
    `--use-file-for-fake-video-capture=${film}`,
  ]);
  await till.signIn('1357', 1);
});
afterAll(async () => {
  await till.close();
  await shop.end();
  rmSync(folder, { recursive: true, force: true });
});

describe('the camera of a device', () => {
  it('scans what is held in front of it', async () => {
    await till.click('[aria-label="Scan with the camera"]');
    await till.read('Metronome, clip-on', '.tape');
    await till.see('.camera video');
    expect(await till.findings()).toEqual([]);
    await till.click('[aria-label="Scan with the camera"]');
    await till.count('.camera', 0);
  });
});
