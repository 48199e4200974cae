import { useRoute, useRouter, type RouteLocationNormalized, type RouteLocationRaw } from 'vue-router';

/**
 * Leads on from a page once something is done there, which may have taken a while: nobody is called away who went to
 * another page meanwhile.
 * @returns what leads on
 */
export function useWayOn(): (to: RouteLocationRaw) => Promise<void> {
  const router = useRouter();
  const pageOf = ({ matched }: Pick<RouteLocationNormalized, 'matched'>) => matched.at(-1);
  const here = pageOf(useRoute());
  return async (to) => {
    if (pageOf(router.currentRoute.value) === here) await router.push(to);
  };
}
