import type { Till } from './till.ts';

/** Looks, whenever something on the page changes, where all stands that can be pressed or typed into. */
const WATCH = `
  const page = document.querySelector('main');
  const places = new Map();
  const moves = [];
  const look = () => {
    for (const one of page.querySelectorAll('button, a, input, textarea')) {
      const { top } = one.getBoundingClientRect();
      const before = places.get(one);
      if (!one.checkVisibility()) places.delete(one);
      else places.set(one, top);
      if (places.has(one) && Math.abs(top - (before ?? top)) > 8)
        moves.push(one.innerText.trim() + ' from ' + Math.round(before) + ' to ' + Math.round(top));
    }
  };
  look();
  const seen = new MutationObserver(look);
  seen.observe(page, { subtree: true, childList: true });
  window.movesSoFar = () => {
    look();
    seen.disconnect();
    return moves;
  };`;

/** What moves up or down under a hand while something is done. @returns each with its words, and from where to where */
export async function movesWhile(till: Till, work: () => Promise<unknown>): Promise<string[]> {
  await till.driver.executeScript(WATCH);
  await work();
  return till.driver.executeScript<string[]>('return movesSoFar()');
}
