import { createRouter, createWebHistory, type Router } from 'vue-router';
import { watchOpening } from './frame/opening.ts';
import CounterPage from './counter/CounterPage.vue';
import SignInPage from './staff/SignInPage.vue';
import { problemWords } from './net/problem.ts';
import { untilAnswered } from './net/untilAnswered.ts';
import { useSessionStore } from './staff/sessionStore.ts';

declare module 'vue-router' {
  interface RouteMeta {
    /** The name of the page, as on the screen. */
    title?: string;
    /** Nobody has to be signed in. */
    open?: boolean;
    /** A window for customers: nobody is signed in there. */
    bare?: boolean;
  }
}

/**
 * Addresses by the words on the screen. Without a person signed in, every address leads to the sign-in page and back.
 */
export function createRoutes(): Router {
  const router = createRouter({
    history: createWebHistory(),
    routes: [
      { path: '/', redirect: '/counter' },
      { path: '/sign-in', component: SignInPage, meta: { title: 'Sign in', open: true } },
      {
        path: '/first-run',
        component: () => import('./setup/FirstRunPage.vue'),
        meta: { title: 'First run', open: true },
      },
      { path: '/counter', component: CounterPage, meta: { title: 'Counter' } },
      {
        path: '/gift-cards/:id?',
        component: () => import('./giftCards/GiftCardsPage.vue'),
        meta: { title: 'Gift cards' },
      },
      {
        path: '/card-payments',
        component: () => import('./cardPayments/CardPaymentsPage.vue'),
        meta: { title: 'Card payments' },
      },
      {
        path: '/display/:till',
        component: () => import('./display/DisplayPage.vue'),
        meta: { title: 'For the customer', bare: true },
      },
      {
        path: '/terminal/:serial?',
        component: () => import('./terminal/TerminalPage.vue'),
        meta: { title: 'Card terminal', bare: true },
      },
      { path: '/figures', component: () => import('./figures/TodayPage.vue'), meta: { title: 'Figures' } },
      {
        path: '/figures/compare',
        component: () => import('./figures/ComparePage.vue'),
        meta: { title: 'Compare' },
      },
      {
        path: '/figures/reports',
        component: () => import('./figures/ReportsPage.vue'),
        meta: { title: 'Reports' },
      },
      {
        path: '/figures/reports/:name',
        component: () => import('./figures/ReportPage.vue'),
        meta: { title: 'Report' },
      },
      {
        path: '/figures/ties',
        component: () => import('./figures/TiesPage.vue'),
        meta: { title: 'Does it tie?' },
      },
      { path: '/books', component: () => import('./books/BooksPage.vue'), meta: { title: 'Books' } },
      {
        path: '/waiting/:id?',
        component: () => import('./waiting/WaitingPage.vue'),
        meta: { title: 'Waiting' },
      },
      {
        path: '/journal/:id?',
        component: () => import('./journal/JournalPage.vue'),
        meta: { title: 'Journal' },
      },
      { path: '/drawer', component: () => import('./drawer/DrawerPage.vue'), meta: { title: 'Drawer' } },
      {
        path: '/drawer/shifts',
        component: () => import('./drawer/ShiftsPage.vue'),
        meta: { title: 'Past shifts' },
      },
      {
        path: '/drawer/shifts/:id',
        component: () => import('./drawer/ShiftReportPage.vue'),
        meta: { title: 'Shift report' },
      },
      { path: '/people', component: () => import('./people/PeoplePage.vue'), meta: { title: 'People' } },
      {
        path: '/people/new',
        component: () => import('./people/NewCustomerPage.vue'),
        meta: { title: 'New customer' },
      },
      {
        path: '/people/accounts',
        component: () => import('./people/AccountsPage.vue'),
        meta: { title: 'House accounts' },
      },
      {
        path: '/people/bank',
        component: () => import('./people/BankLinesPage.vue'),
        meta: { title: 'Bank lines' },
      },
      {
        path: '/people/:id(\\d+)/statement',
        component: () => import('./people/StatementPage.vue'),
        meta: { title: 'Statement' },
      },
      {
        path: '/people/groups',
        component: () => import('./people/GroupsPage.vue'),
        meta: { title: 'Groups' },
      },
      {
        path: '/people/import',
        component: () => import('./imports/ImportPage.vue'),
        props: { subject: 'customers' },
        meta: { title: 'Import customers' },
      },
      {
        path: '/people/:id(\\d+)',
        component: () => import('./people/CustomerPage.vue'),
        meta: { title: 'Customer' },
      },
      { path: '/goods', component: () => import('./goods/GoodsPage.vue'), meta: { title: 'Goods' } },
      {
        path: '/goods/new',
        component: () => import('./goods/NewItemPage.vue'),
        meta: { title: 'New items' },
      },
      {
        path: '/goods/new-family',
        component: () => import('./goods/FamilyPage.vue'),
        meta: { title: 'New family' },
      },
      {
        path: '/goods/new-bundle',
        component: () => import('./goods/BundlePage.vue'),
        meta: { title: 'New bundle' },
      },
      {
        path: '/goods/import',
        component: () => import('./imports/ImportPage.vue'),
        props: { subject: 'goods' },
        meta: { title: 'Import goods' },
      },
      {
        path: '/goods/moves',
        component: () => import('./goods/MovesPage.vue'),
        meta: { title: 'How stock moved' },
      },
      {
        path: '/goods/value',
        component: () => import('./goods/ValuePage.vue'),
        meta: { title: 'What stock is worth' },
      },
      {
        path: '/goods/labels',
        component: () => import('./goods/LabelsPage.vue'),
        meta: { title: 'Labels' },
      },
      {
        path: '/goods/counts',
        component: () => import('./counts/CountsPage.vue'),
        meta: { title: 'Counts' },
      },
      {
        path: '/goods/counts/:id(\\d+)',
        component: () => import('./counts/CountPage.vue'),
        meta: { title: 'Count' },
      },
      {
        path: '/goods/transfers',
        component: () => import('./transfers/TransfersPage.vue'),
        meta: { title: 'Goods between places' },
      },
      {
        path: '/goods/suppliers',
        component: () => import('./supply/SuppliersPage.vue'),
        meta: { title: 'Suppliers' },
      },
      {
        path: '/goods/suppliers/:id(\\d+)',
        component: () => import('./supply/SupplierPage.vue'),
        meta: { title: 'Supplier' },
      },
      {
        path: '/goods/orders',
        component: () => import('./supply/OrdersPage.vue'),
        meta: { title: 'Orders to suppliers' },
      },
      {
        path: '/goods/orders/:id(\\d+)',
        component: () => import('./supply/OrderPage.vue'),
        meta: { title: 'Order' },
      },
      {
        path: '/goods/deliveries/:id(\\d+)',
        component: () => import('./supply/DeliveryPage.vue'),
        meta: { title: 'Delivery' },
      },
      {
        path: '/goods/:id(\\d+)',
        component: () => import('./goods/ItemPage.vue'),
        meta: { title: 'Item' },
      },
      { path: '/offers', component: () => import('./offers/OffersPage.vue'), meta: { title: 'Offers' } },
      { path: '/offers/:id', component: () => import('./offers/OfferPage.vue'), meta: { title: 'Offer' } },
      {
        path: '/offers/:id/rehearsal',
        component: () => import('./offers/RehearsalPage.vue'),
        meta: { title: 'Rehearsal' },
      },
      {
        path: '/setup/:section?',
        component: () => import('./setup/SetupPage.vue'),
        meta: { title: 'Setup' },
      },
      { path: '/printer', component: () => import('./printer/PrinterPage.vue'), meta: { title: 'Printer' } },
      { path: '/:anything(.*)*', redirect: '/counter' },
    ],
  });
  watchOpening(router);
  router.beforeEach(async (to) => {
    // Windows for customers: nobody is signed in there.
    if (to.meta.bare) return true;
    const session = useSessionStore();
    await untilAnswered(session.find, (error) => (session.trouble = problemWords(error)));
    session.trouble = '';
    if (session.welcome && !session.welcome.ready) return to.path === '/first-run' ? true : '/first-run';
    if (!session.person && !to.meta.open) return { path: '/sign-in', query: { to: to.fullPath } };
    if (session.person && to.meta.open) return '/counter';
    return true;
  });
  // Several windows of one shop are told apart in the list of the device.
  router.afterEach(({ meta }) => {
    document.title = meta.title ? `${meta.title} · Mondrel` : 'Mondrel';
  });
  return router;
}
