import { writeFileSync } from 'node:fs';
import axe from 'axe-core';
import { error, Key, type WebElement } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome.js';
import { giveBack, takeBrowser } from './browsers.ts';

const WAIT_MS = 8_000;
/** Milliseconds after which is looked again where nothing has changed: the focus moves, and what fades comes in. */
const LOOK_MS = 100;
/** Milliseconds after which something else than the page is asked again. */
const ASK_AGAIN_MS = 50;
/** Milliseconds for which a page is asked to wait: one that is left meanwhile does not answer, and its successor is. */
const WAIT_IN_PAGE_MS = 2_000;
const SCANNED_KEY_S = 0.005;
/** People type slower than any scanner. */
const TYPED_KEY_S = 0.1;
/** So long after the last key a scanner begins. */
const LET_GO_S = 0.4;

/** Keys that type nothing: the driver's names for them. */
const NAMED_KEY = /^[\uE000-\uF8FF]+$/;

/**
 * Calls something when the page is drawn next. A page behind another one is never drawn: there it is called a little
 * later.
 */
const ONCE_DRAWN = `
  const onceDrawn = (act) => {
    const go = () => {
      cancelAnimationFrame(frame);
      clearInterval(behind);
      act();
    };
    const frame = requestAnimationFrame(go);
    const behind = setInterval(() => document.hidden && go(), ${LOOK_MS});
  };`;

/**
 * A script that answers as soon as something holds on the page, or with nothing after some milliseconds, its last
 * argument. Waited for in the page itself: whoever asks again and again from outside is late, and asks too much.
 * @param test the body of a function of the other arguments; what cannot be asked yet does not hold
 * @param drawn whether it must still hold once the page was drawn
 */
const awaited = (test: string, drawn: boolean): string => `${ONCE_DRAWN}
  const args = [...arguments];
  const done = args.pop();
  const until = performance.now() + args.pop();
  const test = function () { ${test} };
  const holds = () => {
    try {
      return test(...args) || null;
    } catch {
      return null;
    }
  };
  const lookAgain = () => {
    const again = () => {
      seen.disconnect();
      clearTimeout(late);
      onceDrawn(look);
    };
    const seen = new MutationObserver(again);
    seen.observe(document, { subtree: true, childList: true, characterData: true, attributes: true });
    const late = setTimeout(again, ${LOOK_MS});
  };
  const look = () => {
    const found = holds();
    if (performance.now() > until) done(found);
    else if (found === null) lookAgain();
    else if (!${drawn}) done(found);
    else onceDrawn(() => onceDrawn(() => {
      const still = holds();
      if (still === null) look();
      else done(still);
    }));
  };
  look();`;

/**
 * The first element of a selector, or of an XPath that begins with `//`, if it is in sight. Asked of the page itself:
 * what the driver works out for that takes many times longer.
 */
const SHOWN = `
  const [path] = arguments;
  const found = path.startsWith('//')
    ? document.evaluate(path, document, null, XPathResult.FIRST_ORDERED_NODE_TYPE).singleNodeValue
    : document.querySelector(path);
  return found?.checkVisibility({ opacityProperty: true, visibilityProperty: true }) ? found : null;`;

/** Which page is shown. */
const AT = `document.querySelector('#app')?.__vue_app__?.config.globalProperties.$router?.currentRoute.value.path`;

/**
 * An element that is in sight and takes a click, with where it leads to where it is a link: the page of ours that it
 * leads to in this window, and the one that is shown. A button that has just come is taken for one that has been looked
 * at for as long as the page wants: waiting for it was up to half of a test's time. Second clicks are made otherwise.
 */
const PRESSABLE = `
  const found = (function () { ${SHOWN} })(...arguments);
  if (!found || found.matches(':disabled')) return null;
  found.closest('[data-fresh]')?.removeAttribute('data-fresh');
  const link = found.closest('a');
  const within = link && link.origin === location.origin && !link.target && !link.pathname.startsWith('/api/');
  return { element: found, way: within ? [link.pathname, ${AT}] : null };`;

/** Whether a link was followed: to its page, one beneath it, or another one that has to be first. */
const FOLLOWED = `
  const [[to, from]] = arguments;
  const at = ${AT};
  return at !== undefined && (at !== from || at.startsWith(to));`;

/** What an element says, as it is read: cells have a blank between them. */
const TEXT = `
  const found = document.querySelector(arguments[0]);
  if (!found) throw new Error('nothing is ' + arguments[0]);
  return found.innerText.replace(/[\\t\\u00a0]/g, ' ').replace(/ *\\n\\s*/g, '\\n').replace(/ {2,}/g, ' ').trim();`;

/** What is seriously wrong on a page, said in short: nothing else is carried over from it. */
const FINDINGS = `
  const [done] = arguments;
  axe.run(document, { resultTypes: ['violations'] }).then(
    ({ violations }) => done(violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => id + ': ' + nodes.map(({ target }) => String(target)).join(' | '))),
    (problem) => done([String(problem)]));`;

/** A button or link that says something. */
const saying = (words: string): string =>
  `//*[self::button or self::a][contains(normalize-space(.), "${words}")]`;

/** A browser on a counter. Every step waits for what it needs; none sleeps. */
export class Till {
  private constructor(
    readonly driver: chrome.Driver,
    private readonly url: () => string,
    private readonly flags: readonly string[],
  ) {}

  static async open(
    url: () => string,
    size: { width: number; height: number } = { width: 1280, height: 800 },
    flags: readonly string[] = [],
  ): Promise<Till> {
    const till = new Till(await takeBrowser(flags), url, flags);
    await till.resize(size);
    return till;
  }

  async resize({ width, height }: { width: number; height: number }): Promise<void> {
    const metrics = { width, height, deviceScaleFactor: 1, mobile: false };
    await this.driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', metrics);
  }

  /** Does something while every answer of the server takes so many milliseconds longer. */
  async far(latency: number, work: () => Promise<void>): Promise<void> {
    await this.line({ latency });
    await work().finally(() => this.line({}));
  }

  /** Does something while the server cannot be reached. */
  async away(work: () => Promise<void>): Promise<void> {
    await this.line({ offline: true });
    await work().finally(() => this.line({}));
  }

  private async line({ latency = 0, offline = false }): Promise<void> {
    const freely = { downloadThroughput: -1, uploadThroughput: -1 };
    await this.driver.sendDevToolsCommand('Network.enable', {});
    await this.driver.sendDevToolsCommand('Network.emulateNetworkConditions', {
      offline,
      latency,
      ...freely,
    });
  }

  /**
   * By how many dots anything on the page is wider than its place, what fields are called and what is chosen in them
   * among it, or the steps at a foot lie beneath the window.
   */
  sticksOut(): Promise<number> {
    return this.driver.executeScript<number>(
      `const parts = [...document.querySelectorAll('main, aside, section, header, nav.parts, .part, .scroll, ' +
        '.v-field .v-label, .v-select__selection-text')].filter(({ clientWidth }) => clientWidth > 0);
      const feet = [...document.querySelectorAll('.foot .v-btn')];
      return Math.max(
        ...parts.map((part) => part.scrollWidth - part.clientWidth),
        ...feet.map((foot) => Math.ceil(foot.getBoundingClientRect().bottom - innerHeight)));`,
    );
  }

  /** @throws Error where a page has fallen over meanwhile: whatever a test looks at, nothing may */
  async close(): Promise<void> {
    const fell = await this.fellOver();
    await giveBack(this.driver, this.url(), this.flags.length > 0);
    if (fell.length > 0) throw new Error(`a page fell over: ${fell.join('\n')}`);
  }

  /** What pages fell over since this was asked last. */
  private async fellOver(): Promise<string[]> {
    const said = await this.driver.manage().logs().get('browser');
    return said
      .map(({ message }) => message)
      .filter((words) => /Content Security Policy|Uncaught/.test(words));
  }

  async go(path: string): Promise<void> {
    await this.driver.get(`${this.url()}${path}`);
  }

  /** Goes to the sign-in page and signs in by keyboard. */
  async signIn(pin: string, tillNumber = 1): Promise<void> {
    // The till's number is chosen before its page is loaded: this answer is there at once.
    await this.go('/api/health');
    await this.driver.executeScript(`localStorage.setItem('mondrel.till', '${tillNumber}')`);
    await this.go('/');
    await this.see('#pin');
    await this.keys(pin, Key.ENTER);
    await this.ready();
  }

  /** Waits until the frame and its page are there. */
  async ready(): Promise<void> {
    await this.see('.frame .view');
  }

  /** Waits until something is there or holds. @param most milliseconds */
  async wait<T>(condition: () => Promise<T>, most = WAIT_MS, words?: string): Promise<NonNullable<T>> {
    return (await this.driver.wait<T>(condition, most, words, ASK_AGAIN_MS)) as NonNullable<T>;
  }

  /**
   * Waits until something holds on the page. @param most milliseconds
   * @param drawn whether it must still hold once the page was drawn
   * @returns what holds; nothing where it does not come about
   */
  private async inPage<T>(test: string, args: unknown[], most = WAIT_MS, drawn = false): Promise<T | null> {
    const script = awaited(test, drawn);
    const until = Date.now() + most;
    for (let left = most; left > 0; left = until - Date.now()) {
      const wait = Math.min(left, WAIT_IN_PAGE_MS);
      // A page that is left meanwhile does not answer; the next one is asked.
      const found = await this.driver.executeAsyncScript<T | null>(script, ...args, wait).catch(() => null);
      if (found !== null) return found;
    }
    if (process.env.MONDREL_E2E_PICTURE) await this.picture(process.env.MONDREL_E2E_PICTURE);
    return null;
  }

  /** Waits for an element that is shown. @param css a selector, or an XPath that begins with `//` */
  async see(css: string): Promise<WebElement> {
    const element = await this.inPage<WebElement>(SHOWN, [css]);
    if (!element) throw new Error(`nothing that is shown is ${css}`);
    return element;
  }

  /** Waits until the page, or a part of it, shows a text. @param most milliseconds, for what takes long */
  async read(text: string, css = 'body', most = WAIT_MS): Promise<void> {
    const found = await this.inPage(
      `return (function () { ${TEXT} })(arguments[0]).includes(arguments[1])`,
      [css, text],
      most,
    );
    if (!found) throw await this.instead(`“${text}” in ${css}`, css);
  }

  /** Waits until a part shows exactly a text. */
  async shows(css: string, text: string): Promise<void> {
    const found = await this.inPage(`return (function () { ${TEXT} })(arguments[0]) === arguments[1]`, [
      css,
      text,
    ]);
    if (!found) throw await this.instead(`${css} showing “${text}”`, css);
  }

  /** Waits until a field holds just a text. */
  async holds(css: string, text: string): Promise<void> {
    const found = await this.inPage('return document.querySelector(arguments[0]).value === arguments[1]', [
      css,
      text,
    ]);
    if (!found) throw new Error(`waited for ${css} holding “${text}”, but found: ${await this.value(css)}`);
  }

  /** Waits until so many elements are there. */
  async count(css: string, wanted: number): Promise<void> {
    const found = await this.inPage(
      'return document.querySelectorAll(arguments[0]).length === arguments[1]',
      [css, wanted],
    );
    if (!found) throw await this.instead(`${wanted} of ${css}`, 'body');
  }

  /** What is there instead of what was waited for. */
  private async instead(wanted: string, css: string): Promise<Error> {
    return new Error(`waited for ${wanted}, but found: ${await this.text(css).catch(String)}`);
  }

  /** What a part of the page says, each block on a line of its own. */
  async text(css: string): Promise<string> {
    return this.driver.executeScript<string>(TEXT, css);
  }

  /** Waits until what has just come is drawn, and the hand is where it belongs: nobody acts sooner. */
  private async drawn(): Promise<void> {
    await this.driver.executeAsyncScript(
      `${ONCE_DRAWN} const [done] = arguments; onceDrawn(() => onceDrawn(done));`,
    );
  }

  /** Presses keys and types texts, one after the other. A text is struck as people do, however fast the machine is. */
  async keys(...keys: string[]): Promise<void> {
    await this.drawn();
    for (const key of keys) {
      if (NAMED_KEY.test(key)) await this.driver.actions().sendKeys(key).perform();
      else await this.strike(key, TYPED_KEY_S);
    }
  }

  /**
   * Strikes the letters of a text.
   * @param gap seconds after which each is struck, by the clock that the page sees
   */
  async strike(text: string, gap: number): Promise<void> {
    let at = Math.max(Date.now() / 1000, this.struck + gap);
    for (const letter of text) {
      await this.strikeOne({ key: letter, text: letter, code: '' }, at);
      // However long the page took with the letter before.
      at += gap;
    }
  }

  /** When the last key was struck by a clock of its own, in seconds since 1970. */
  private struck = 0;

  private async strikeOne(key: { key: string; text: string; code: string }, at: number): Promise<void> {
    this.struck = at;
    const [sign = ''] = key.text.toUpperCase();
    const event = {
      ...key,
      timestamp: this.struck,
      windowsVirtualKeyCode: /^[\dA-Z \r]$/.test(sign) ? sign.charCodeAt(0) : 0,
    };
    await this.driver.sendDevToolsCommand('Input.dispatchKeyEvent', { type: 'keyDown', ...event });
    await this.driver.sendDevToolsCommand('Input.dispatchKeyEvent', {
      type: 'keyUp',
      ...event,
      text: undefined,
    });
  }

  /** Presses a key together with Alt. */
  async alt(key: string): Promise<void> {
    await this.drawn();
    await this.driver.actions().keyDown(Key.ALT).sendKeys(key).keyUp(Key.ALT).perform();
  }

  /** Puts a text where the hand is, all at once. */
  async paste(text: string): Promise<void> {
    await this.drawn();
    await this.driver.sendDevToolsCommand('Input.insertText', { text });
  }

  /** Types something else into the field that a label names. */
  async fill(label: string, text: string): Promise<void> {
    const field = '*[self::input or self::textarea]';
    // One look for both: where there is no label, nobody waits for one first.
    await this.click(
      `//label[normalize-space(.) = '${label}']/following::${field}[1] | //${field}[@aria-label = '${label}']`,
    );
    await this.selectAll();
    await this.keys(text);
  }

  /** Opens a list by its label and takes what it offers under some words. */
  async choose(label: string, words: string): Promise<void> {
    await this.click(
      `//label[normalize-space(.) = '${label}']/ancestor::*[contains(@class, 'v-field')][1]//*[contains(@class, 'v-field__input')]`,
    );
    await this.click(
      `//*[contains(@class, 'v-list-item')][@role = 'option'][contains(normalize-space(.), '${words}')]`,
    );
  }

  /** Draws a line across an element. */
  async draw(css: string): Promise<void> {
    const origin = await this.see(css);
    await this.driver
      .actions()
      .move({ origin, x: -60, y: 0 })
      .press()
      .move({ origin, x: 20, y: 20 })
      .move({ origin, x: 60, y: -10 })
      .release()
      .perform();
  }

  /** Another window of the same browser; what is run in it uses it, then the first one is back. */
  static async beside(till: Till, path: string) {
    const { driver } = till;
    const first = await driver.getWindowHandle();
    await driver.switchTo().newWindow('window');
    const second = await driver.getWindowHandle();
    await till.resize({ width: 1280, height: 800 });
    await till.go(path);
    await driver.switchTo().window(first);
    const inSecond = async (work: () => Promise<unknown>) => {
      await driver.switchTo().window(second);
      await work().finally(() => driver.switchTo().window(first));
    };
    return { run: inSecond, close: () => inSecond(() => driver.close()) };
  }

  /** Selects what is in the field that has the focus. */
  async selectAll(): Promise<void> {
    await this.drawn();
    await this.driver.actions().keyDown(Key.CONTROL).sendKeys('a').keyUp(Key.CONTROL).perform();
  }

  async focus(css: string): Promise<void> {
    await this.driver.executeScript('arguments[0].focus()', await this.see(css));
  }

  /** Types into the entry field and takes it. */
  async enter(text: string): Promise<void> {
    await this.keys(text, Key.ENTER);
  }

  /** Types words into the entry field, waits for what is found, and takes the first. */
  async enterFound(words: string): Promise<void> {
    await this.keys(words);
    await this.see(`[name="entry"][data-found-for="${words.replace(/^[\d.]+\*/, '')}"]`);
    await this.see('#found [aria-selected="true"]');
    await this.keys(Key.ENTER);
  }

  /** Waits until what was typed into a look-up is answered: until then, what stands there was found for other words. */
  async foundIn(id: string): Promise<void> {
    await this.see(`#${id}-search[aria-busy="false"]`);
    await this.see(`#${id}s-found li`);
  }

  /** What a scanner does: the code and Enter, each key 5 ms after the one before, however slow the machine is. */
  async scan(code: string): Promise<void> {
    // Whoever typed before has let go of the keys.
    this.struck = Math.max(Date.now() / 1000, this.struck) + LET_GO_S;
    await this.strike(code, SCANNED_KEY_S);
    await this.strikeOne({ key: 'Enter', text: '\r', code: 'Enter' }, this.struck + SCANNED_KEY_S);
  }

  /** Clicks what a selector, or an XPath that begins with `//`, finds. */
  async click(css: string): Promise<void> {
    await this.clickOn(css, () => `nothing that is shown and can be pressed is ${css}`);
  }

  /** Clicks when it can be clicked; a link leads to its page before anything else is done. */
  private async clickOn(path: string, missing: () => string): Promise<void> {
    await this.attempt(async () => {
      const found = await this.inPage<{ element: WebElement; way: [to: string, from: string] | null }>(
        PRESSABLE,
        [path],
        WAIT_MS,
        true,
      );
      if (!found) throw new Error(missing());
      await found.element.click();
      if (found.way && !(await this.inPage(FOLLOWED, [found.way])))
        throw new Error(`the link to ${found.way[0]} leads nowhere`);
    });
  }

  /** Does something with an element; when it was drawn anew under the hand, with the new one. */
  private async attempt(act: () => Promise<void>): Promise<void> {
    await this.wait(async () => {
      try {
        await act();
        return true;
      } catch (failure) {
        if (failure instanceof error.StaleElementReferenceError) return false;
        throw failure;
      }
    }, WAIT_MS);
  }

  /** Clicks the button or link that says something, once it can be pressed. */
  async press(words: string): Promise<void> {
    await this.clickOn(saying(words), () => `no button says ${words}, or it stays disabled`);
  }

  /** Waits until the button or link that says something can be pressed. */
  async button(words: string): Promise<WebElement> {
    const found = await this.inPage<{ element: WebElement }>(PRESSABLE, [saying(words)]);
    if (!found) throw new Error(`no button says ${words}, or it stays disabled`);
    return found.element;
  }

  /** What a label's field holds. */
  async value(css: string): Promise<string> {
    return (await this.see(css)).getAttribute('value') as Promise<string>;
  }

  /**
   * Serious findings of axe-core on what is shown, and keys that two buttons claim. What fades in while it is looked
   * at has no contrast yet: what is wrong is so at a second look, too. And what pages fell over, or were refused by
   * their own rules of security, since this was asked last.
   */
  async findings(): Promise<string[]> {
    const first = await this.look();
    return [...(first.length > 0 ? await this.look() : first), ...(await this.fellOver())];
  }

  private async look(): Promise<string[]> {
    await this.settled();
    if (!(await this.driver.executeScript<boolean>('return "axe" in window')))
      await this.driver.executeScript(axe.source);
    return [...(await this.driver.executeAsyncScript<string[]>(FINDINGS)), ...(await this.keysShownTwice())];
  }

  /** Keys that more than one button shows: nobody could tell what they do. */
  async keysShownTwice(): Promise<string[]> {
    const keys = await this.driver.executeScript<[key: string, words: string][]>(
      `return [...document.querySelectorAll('main :is(button, a) kbd')]
        .filter((key) => key.checkVisibility() && !key.closest(':disabled'))
        .map((key) => [key.innerText.trim(), key.closest('button, a').innerText.trim().replaceAll('\\n', ' ')])`,
    );
    return keys
      .filter(([key], at) => keys.findIndex(([other]) => other === key) !== at)
      .map(([key, words]) => `${key} is shown twice: ${words}`);
  }

  /** Waits until fonts are there and nothing moves. */
  async settled(): Promise<void> {
    await this.driver.executeAsyncScript(`${ONCE_DRAWN}
      const done = arguments[0];
      const painted = () => new Promise((then) => onceDrawn(() => onceDrawn(then)));
      // What fades in or out comes to its end; what goes round and round does not count.
      const fading = () =>
        document.getAnimations().filter((one) => Number.isFinite(one.effect.getComputedTiming().endTime));
      document.fonts.ready
        .then(painted)
        .then(() => Promise.allSettled(fading().map(({ finished }) => finished)))
        .then(painted)
        .then(() => done());
    `);
  }

  async picture(file: string): Promise<void> {
    writeFileSync(file, await this.driver.takeScreenshot(), 'base64');
  }
}
