import { describe, expect, it } from 'vitest';
import { createApp, defineComponent } from 'vue';
import { createMemoryHistory, createRouter } from 'vue-router';
import { useWayOn } from './wayOn.ts';

const Page = defineComponent(() => () => null);
const routes = ['/people/new', '/people/:id', '/counter'].map((path) => ({ path, component: Page }));

/** Somebody adds a customer. */
async function adding() {
  const router = createRouter({ history: createMemoryHistory(), routes });
  await router.push('/people/new');
  const goOn = createApp(Page).use(router).runWithContext(useWayOn);
  return { router, goOn, at: () => router.currentRoute.value.path };
}

describe('the way on from a page', () => {
  it('leads to what was made there', async () => {
    const { goOn, at } = await adding();
    await goOn({ path: '/people/7', replace: true });
    expect(at()).toBe('/people/7');
  });

  it('calls nobody away from another page', async () => {
    const { router, goOn, at } = await adding();
    await router.push('/counter');
    await goOn('/people/7');
    expect(at()).toBe('/counter');
  });
});
