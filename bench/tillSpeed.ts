import { readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { By, Key, until } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome.js';
import { v4 as newId } from 'uuid';
import { seeded } from '../demo/random.ts';
import { largeShop } from '../demo/largeShop.ts';
import { takeBrowser } from '../e2e/browsers.ts';
import { browserOf } from '../server/testing/browser.ts';
import { LARGE, openLargeHouse } from './largeHouse.ts';
import { figure, quantile, type Figure } from './measure.ts';

/** How many times slower the page's thread is made, as a cheap counter machine has it. */
const SLOWER = 4;
const BASKET_LINES = 200;
const KEYSTROKES = 150;
/** A quick typist's letters are so far apart. */
const TYPING_MS = 100;
const SCANS = 60;
const LOADS = 3;

/**
 * Measures in the page from the moment a key was pressed until what it changes has been painted: the change is seen
 * by an observer, the frame after it is awaited, and what runs after that frame notes the time.
 */
const OBSERVE = `
  const [where, key] = arguments;
  window.samples = [];
  let pressed = 0;
  window.addEventListener('keydown', (event) => {
    if (key === 'any' ? event.key.length === 1 : event.key === key) pressed = window.pressedAt = event.timeStamp;
  }, true);
  new MutationObserver(() => {
    if (pressed === 0) return;
    const from = pressed;
    pressed = 0;
    requestAnimationFrame(() => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => window.samples.push(performance.now() - from);
      port2.postMessage(0);
    });
  }).observe(document.querySelector(where), {
    attributeFilter: ['data-words'], childList: true, subtree: true, characterData: true,
  });
`;

async function openChromium() {
  const driver = await takeBrowser(['--window-size=1280,800']);
  const keys = (...typed: string[]) =>
    driver
      .actions()
      .sendKeys(...typed)
      .perform();
  const slower = (rate: number) => driver.sendDevToolsCommand('Emulation.setCPUThrottlingRate', { rate });
  const samples = () => driver.executeScript<number[]>('return window.samples');
  /** Waits until the page has noted so many samples. */
  const noted = (count: number) =>
    driver.wait(async () => (await samples()).length >= count, 20_000, `nothing was drawn for step ${count}`);
  return {
    driver,
    keys,
    slower,
    samples,
    noted,
    close: () => driver.quit(),
  };
}

type Chromium = Awaited<ReturnType<typeof openChromium>>;

/** An empty page on which a key writes one letter: what painting the answer to a key takes at least. */
async function emptyPage({ driver, keys, slower, samples, noted }: Chromium): Promise<number[]> {
  const server = createServer((_request, response) => {
    response
      .setHeader('content-type', 'text/html')
      .end(
        '<!doctype html><p id="p">.</p><script>addEventListener("keydown", (e) => { p.textContent += e.key; });</script>',
      );
  });
  await new Promise<void>((done) => server.listen(0, done));
  await driver.get(`http://localhost:${(server.address() as AddressInfo).port}`);
  await driver.executeScript(OBSERVE, '#p', 'any');
  await slower(SLOWER);
  for (let at = 0; at < KEYSTROKES; at++) {
    await keys('x');
    await noted(at + 1);
  }
  const times = await samples();
  await slower(1);
  server.close();
  return times;
}

async function signIn({ driver, keys }: Chromium, url: string): Promise<void> {
  await driver.get(url);
  await driver.wait(until.elementLocated(By.css('#pin')), 60_000);
  await driver.executeScript("localStorage.setItem('mondrel.till', '1')");
  await driver.get(url);
  await driver.wait(until.elementLocated(By.css('#pin')), 60_000);
  await keys('1357', Key.ENTER);
  await ready(driver);
}

const ready = (driver: chrome.Driver) => driver.wait(until.elementLocated(By.css('.frame .view')), 120_000);

/** A till that has been open for a moment: the whole catalogue is there and can be searched. */
async function warmUp(driver: chrome.Driver, keys: Chromium['keys']): Promise<void> {
  await keys('string');
  await driver.wait(until.elementLocated(By.css('#found li')), 60_000);
  await keys(Key.ESCAPE);
  await driver.wait(async () => (await driver.executeAsyncScript<number>(IS_KEPT)) > 0, 60_000);
}

/** Types the beginnings of names letter by letter. */
async function keyToResult({ driver, keys, slower, samples, noted }: Chromium): Promise<number[]> {
  const random = seeded(5);
  const items = largeShop(LARGE);
  await warmUp(driver, keys);
  await driver.executeScript(OBSERVE, '#found', 'any');
  await slower(SLOWER);
  let typed = 0;
  while (typed < KEYSTROKES) {
    const words = (items[Math.floor(random() * items.length)]?.name ?? '').toLowerCase().slice(0, 8);
    for (const letter of words.replace(/[^a-z]/g, '')) {
      // As people type: what comes faster is taken for a scanner.
      await driver.wait(() =>
        driver.executeScript<boolean>(
          'return !(performance.now() - window.pressedAt < arguments[0])',
          TYPING_MS,
        ),
      );
      await keys(letter);
      typed += 1;
      await noted(typed);
    }
    await keys(Key.ESCAPE);
  }
  const times = await samples();
  await slower(1);
  return times;
}

/** Scans items that are not in the basket yet, and takes each out again. */
async function scanToLine({ driver, keys, slower, samples, noted }: Chromium): Promise<number[]> {
  const rows = async () => (await driver.findElements(By.css('.row'))).length;
  await driver.wait(async () => (await rows()) === BASKET_LINES, 30_000);
  await warmUp(driver, keys);
  await driver.executeScript(OBSERVE, '.tape ol', 'Enter');
  await slower(SLOWER);
  // Items that ask nothing, from the second half: none of them is in the basket.
  const plain = largeShop(LARGE)
    .slice(LARGE / 2)
    .filter(({ decimals }) => decimals === 0);
  for (let at = 0; at < SCANS; at++) {
    await keys(plain[at * 37]?.codes[0] ?? '', Key.ENTER);
    await noted(at + 1);
    await keys(Key.DELETE);
    await driver.wait(async () => (await rows()) === BASKET_LINES, 30_000);
  }
  const times = await samples();
  await slower(1);
  return times;
}

/** How many copies of the catalogue the browser keeps. */
const IS_KEPT = `
  const done = arguments[0];
  const opened = indexedDB.open('mondrel');
  opened.onsuccess = () => {
    const count = opened.result.objectStoreNames.contains('catalogue')
      ? opened.result.transaction('catalogue').objectStore('catalogue').count()
      : null;
    const close = (answer) => { opened.result.close(); done(answer); };
    if (!count) close(0);
    else count.onsuccess = () => close(count.result);
  };`;

/** Takes away what the browser has kept of the catalogue, on a page that does not hold it open. */
const FORGET = `
  const done = arguments[0];
  const gone = indexedDB.deleteDatabase('mondrel');
  gone.onsuccess = gone.onerror = gone.onblocked = () => done();`;

/**
 * The catalogue in the browser: the page again until it can sell, as at a till's first start and with the copy that the
 * browser keeps; the floor fetches the bytes of the whole.
 */
async function catalogueLoad({ driver }: Chromium, url: string): Promise<Figure[]> {
  const FETCH = `
    const done = arguments[0];
    const from = performance.now();
    fetch('/api/goods/catalogue?since=0').then((answer) => answer.arrayBuffer()).then((bytes) => {
      const entry = performance.getEntriesByType('resource').findLast(({ name }) => name.includes('/goods/catalogue'));
      done([performance.now() - from, bytes.byteLength, entry?.encodedBodySize ?? 0]);
    });`;
  const first: number[] = [];
  const kept: number[] = [];
  const fetches: number[] = [];
  let [plain, compressed, held] = [0, 0, 0];
  const start = async () => {
    await driver.get(`${url}/counter`);
    await ready(driver);
    return driver.executeScript<number>('return performance.now()');
  };
  for (let at = 0; at < LOADS; at++) {
    await driver.get(`${url}/api/health`);
    await driver.executeAsyncScript(FORGET);
    const before = rendererMemory();
    first.push(await start());
    await driver.wait(async () => (await driver.executeAsyncScript<number>(IS_KEPT)) > 0, 60_000);
    held = Math.max(held, rendererMemory() - before);
    const [took = 0, bytes = 0, encoded = 0] = await driver.executeAsyncScript<number[]>(FETCH);
    fetches.push(took);
    [plain, compressed] = [bytes, encoded];
    await driver.get(`${url}/api/health`);
    kept.push(await start());
  }
  const floor = quantile(fetches, 0.5);
  const goal = { words: 'under 2 s', met: (value: number) => value < 2000 };
  return [
    figure('catalogue-load first', 'ms median', quantile(first, 0.5), floor, LOADS, goal),
    figure('catalogue-load kept', 'ms median', quantile(kept, 0.5), floor, LOADS, goal),
    figure('catalogue-load memory', 'MB', held / 1e6, plain / 1e6, LOADS),
    figure('catalogue-load bytes', 'MB gzip', compressed / 1e6, plain / 1e6, 1),
  ];
}

/** Memory of the browser's page processes as the system counts it, in bytes. */
function rendererMemory(): number {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name) && isRenderer(name))
    .reduce((total, pid) => total + residentBytes(pid), 0);
}

function isRenderer(pid: string): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer');
  } catch {
    // It ended meanwhile.
    return false;
  }
}

function residentBytes(pid: string): number {
  const match = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Number(match?.[1] ?? 0) * 1024;
}

/** What a person at a slow till waits for, with 100,000 items: a letter, a scan, the morning's first page. */
export async function tillSpeed(): Promise<Figure[]> {
  const house = await openLargeHouse();
  const chromium = await openChromium();
  try {
    const floor = quantile(await emptyPage(chromium), 0.95);
    await layBasket(house.url);
    await signIn(chromium, house.url);
    const scans = await scanToLine(chromium);
    await chromium.driver.navigate().refresh();
    await ready(chromium.driver);
    const letters = await keyToResult(chromium);
    await layBasket(house.url, 0);
    const load = await catalogueLoad(chromium, house.url);
    const goal = { words: 'under 50 ms', met: (value: number) => value < 50 };
    return [
      figure('key-to-result', 'ms p95', quantile(letters, 0.95), floor, letters.length, goal),
      figure('scan-to-line', 'ms p95', quantile(scans, 0.95), floor, scans.length, goal),
      ...load,
    ];
  } finally {
    await chromium.close();
    await house.stop();
  }
}

/** A basket of so many lines, as the till finds it in the morning. */
async function layBasket(url: string, count = BASKET_LINES): Promise<void> {
  const browser = browserOf(() => url);
  await browser.signIn('1357', 1);
  const { body } = await browser.ask<{
    items: [number, string, string, string, number, string, number, number][];
  }>('GET', '/goods/catalogue?since=0');
  const lines = body.items
    .filter(([, number, , , price, , decimals]) => /-\d{6}$/.test(number) && price !== null && decimals === 0)
    .slice(0, count)
    .map(([itemId, number, name, , listPrice, unit, decimals, taxCategoryId]) => ({
      id: newId(),
      ...{ itemId, number, name, listPrice, unit, decimals, taxCategoryId, quantity: 1000 },
    }));
  const { body: stored } = await browser.ask<{ basket: { id: string }; revision: number } | null>(
    'GET',
    '/counter/basket',
  );
  const { status } = await browser.ask('PUT', '/counter/basket', {
    basket: { id: stored?.basket.id ?? newId(), lines },
    revision: stored?.revision ?? 0,
  });
  if (status !== 200) throw new Error('the basket could not be laid down');
}
