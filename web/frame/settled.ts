/** What takes or gives money, finishes or books something, looks like this everywhere. */
const ACTING = '.next-step, .go, [data-money]';

/** A button that has just come, or says something else now, where something else was, takes no pointer for so long. */
const SETTLES_MS = 600;

/** Amounts change under the hand; what the button does is the same. */
const wordsOf = (button: Element): string => (button.textContent ?? '').replace(/[\d.,\s−-]/g, '');

/**
 * Keeps the second click of a double click, and a key that is held down, from doing what was not there when the hand
 * moved: such a button is marked `data-fresh` until it has been in sight for a moment. Keys that are pressed on purpose
 * act at once.
 */
export function guardFreshButtons(page: Document): void {
  const known = new WeakMap<Element, string>();
  const look = (button: HTMLElement): void => {
    const words = wordsOf(button);
    if (known.get(button) === words) return;
    known.set(button, words);
    button.dataset.fresh = words;
    setTimeout(() => {
      if (button.dataset.fresh === words) delete button.dataset.fresh;
    }, SETTLES_MS);
  };
  const around = (node: Node): HTMLElement | null | undefined =>
    (node instanceof Element ? node : node.parentElement)?.closest<HTMLElement>(ACTING);
  new MutationObserver((changes) => {
    // Only what has changed is looked at: the page changes with every key.
    for (const { target, addedNodes } of changes) {
      const button = around(target);
      if (button) look(button);
      for (const node of addedNodes) {
        if (!(node instanceof Element)) continue;
        if (node.matches(ACTING)) look(node as HTMLElement);
        node.querySelectorAll<HTMLElement>(ACTING).forEach(look);
      }
    }
  }).observe(page, { childList: true, characterData: true, subtree: true });
  const refuse = (event: Event): void => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  page.addEventListener(
    'click',
    (event) => {
      // A click that a key makes has no detail.
      if (event.detail > 0 && event.target instanceof Element && event.target.closest('[data-fresh]'))
        refuse(event);
    },
    true,
  );
  page.addEventListener(
    'keydown',
    (event) => {
      if (event.repeat && (event.key === 'F9' || event.key === 'Enter')) refuse(event);
    },
    true,
  );
}
