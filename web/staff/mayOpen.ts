import { useRouter } from 'vue-router';
import { useSessionStore } from './sessionStore.ts';

/** @returns whether a page, by its address, may be opened by whoever is signed in */
export function useMayOpen(): (to: string) => boolean {
  const router = useRouter();
  const session = useSessionStore();
  return (to) => {
    const { right } = router.resolve(to).meta;
    return !right || session.may(right);
  };
}
