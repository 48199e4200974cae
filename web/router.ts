import { createRouter, createWebHistory, type Router } from 'vue-router';
import CounterPage from './counter/CounterPage.vue';
import SignInPage from './staff/SignInPage.vue';
import { useSessionStore } from './staff/sessionStore.ts';

/** Addresses by the words on the screen. Without a person signed in, every address leads to the sign-in page and back. */
export function createRoutes(): Router {
  const router = createRouter({
    history: createWebHistory(),
    routes: [
      { path: '/', redirect: '/counter' },
      { path: '/sign-in', component: SignInPage, meta: { open: true } },
      { path: '/first-run', component: () => import('./setup/FirstRunPage.vue'), meta: { open: true } },
      { path: '/counter', component: CounterPage },
      { path: '/gift-cards/:id?', component: () => import('./payment/GiftCardsPage.vue') },
      { path: '/card-payments', component: () => import('./payment/CardPaymentsPage.vue') },
      { path: '/display/:till', component: () => import('./payment/DisplayPage.vue'), meta: { bare: true } },
      {
        path: '/terminal/:serial?',
        component: () => import('./payment/TerminalPage.vue'),
        meta: { bare: true },
      },
      { path: '/books', component: () => import('./ledger/BooksPage.vue') },
      { path: '/waiting', component: () => import('./waiting/WaitingPage.vue') },
      { path: '/journal/:id?', component: () => import('./journal/JournalPage.vue') },
      { path: '/drawer', component: () => import('./drawer/DrawerPage.vue') },
      { path: '/drawer/shifts', component: () => import('./drawer/ShiftsPage.vue') },
      { path: '/drawer/shifts/:id', component: () => import('./drawer/ShiftReportPage.vue') },
      { path: '/offers', component: () => import('./offers/OffersPage.vue') },
      { path: '/offers/:id', component: () => import('./offers/OfferPage.vue') },
      { path: '/offers/:id/rehearsal', component: () => import('./offers/RehearsalPage.vue') },
      { path: '/setup', component: () => import('./setup/SetupPage.vue') },
      { path: '/printer', component: () => import('./printer/PrinterPage.vue') },
      { path: '/:anything(.*)*', redirect: '/counter' },
    ],
  });
  router.beforeEach(async (to) => {
    // Windows for customers: nobody is signed in there.
    if (to.meta.bare) return true;
    const session = useSessionStore();
    await session.find();
    if (session.welcome && !session.welcome.ready) return to.path === '/first-run' ? true : '/first-run';
    if (!session.person && !to.meta.open) return { path: '/sign-in', query: { to: to.fullPath } };
    if (session.person && to.meta.open) return '/counter';
    return true;
  });
  return router;
}
