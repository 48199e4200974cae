import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Till } from './till.ts';

let till: Till;
beforeAll(async () => {
  till = await Till.open(() => 'about:blank');
  await till.go('');
}, 60_000);
afterAll(() => till.close());

describe('Whoever waits for something on a page', () => {
  const comes = (text: string) =>
    till.driver.executeScript(
      `setTimeout(() => { document.body.innerHTML = '<button>${text}</button>'; }, 300);`,
    );

  it('sees it come, and presses it, though another page is in front', async () => {
    await till.driver.executeScript("window.open('about:blank', '_blank');");
    expect(await till.driver.executeScript('return document.visibilityState')).toBe('hidden');
    await comes('It is late');
    await till.read('It is late');
    await till.count('button', 1);
    await comes('It is later');
    await till.see('//button[text() = "It is later"]');
  });
});
