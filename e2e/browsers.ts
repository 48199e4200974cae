import chrome from 'selenium-webdriver/chrome.js';
import { Executor, HttpClient } from 'selenium-webdriver/http/index.js';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

const newDriver = () =>
  new chrome.ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver').build();

/** The address of the driver that the test files of a run share. */
const SHARED = 'MONDREL_E2E_DRIVER';

/** Starts the driver that the test files of a run share. @returns what ends it, and every browser that it has opened */
export async function shareDriver(): Promise<() => Promise<void>> {
  const driver = newDriver();
  const address = await driver.start();
  process.env[SHARED] = address;
  return async () => {
    const { value } = (await (await fetch(`${address}sessions`)).json()) as { value: { id: string }[] };
    await Promise.all(value.map(({ id }) => fetch(`${address}session/${id}`, { method: 'DELETE' })));
    await driver.kill();
  };
}

/**
 * Browsers that nobody uses and that know nothing any more: the next till takes one of them, for to start one takes
 * longer than many a test.
 */
const kept = globalThis as { idleBrowsers?: chrome.Driver[] };

/** Opens a browser, or takes one that nobody uses. @param more flags of its own, with which it is nobody else's */
export async function takeBrowser(more: readonly string[] = []): Promise<chrome.Driver> {
  const idle = more.length === 0 ? kept.idleBrowsers?.pop() : undefined;
  if (idle) return idle;
  const options = new chrome.Options();
  options.setChromeBinaryPath(process.env.CHROMIUM ?? '/usr/bin/chromium');
  options.addArguments(...FLAGS, ...more);
  const shared = process.env[SHARED];
  const browser = chrome.Driver.createSession(
    options,
    shared ? new Executor(new HttpClient(shared)) : newDriver(),
  );
  await browser.getSession();
  return browser;
}

/**
 * Gives a browser back, which forgets whatever it was told; one with flags of its own, or of no run, is closed.
 * @param place whose shop it was at
 */
export async function giveBack(browser: chrome.Driver, place: string, own: boolean): Promise<void> {
  if (own || !process.env[SHARED]) return browser.quit();
  const [first = '', ...others] = await browser.getAllWindowHandles();
  for (const other of others) {
    await browser.switchTo().window(other);
    await browser.close();
  }
  await browser.switchTo().window(first);
  const places = [place, await browser.getCurrentUrl()];
  await browser.get('about:blank');
  for (const { origin } of places.map((one) => new URL(one)))
    await browser.sendDevToolsCommand('Storage.clearDataForOrigin', { origin, storageTypes: 'all' });
  await browser.sendDevToolsCommand('Network.clearBrowserCookies', {});
  // What pages said so far is not held against the next ones.
  await browser.manage().logs().get('browser');
  (kept.idleBrowsers ??= []).push(browser);
}
