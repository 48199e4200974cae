import { mayNotWords, type Right } from '../core/staff/rights.ts';
import { createRouter, createWebHistory, type Router } from 'vue-router';
import { watchOpening } from './frame/opening.ts';
import CounterPage from './counter/CounterPage.vue';
import SignInPage from './staff/SignInPage.vue';
import { problemWords } from './net/problem.ts';
import { untilAnswered } from './net/untilAnswered.ts';
import { useNoticeStore } from './notices/noticeStore.ts';
import { useSessionStore } from './staff/sessionStore.ts';

declare module 'vue-router' {
  interface RouteMeta {
    /** The name of the page, as on the screen. */
    title?: string;
    /** Nobody has to be signed in. */
    open?: boolean;
    /** A window for customers: nobody is signed in there. */
    bare?: boolean;
    /** What its person must be allowed to do; without it everybody who is signed in may see it. */
    right?: Right;
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
        meta: { title: 'Gift cards', right: 'sell' },
      },
      {
        path: '/card-payments',
        component: () => import('./cardPayments/CardPaymentsPage.vue'),
        meta: { title: 'Card payments', right: 'card.list' },
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
      {
        path: '/figures',
        component: () => import('./figures/TodayPage.vue'),
        meta: { title: 'Figures', right: 'figures.see' },
      },
      {
        path: '/figures/compare',
        component: () => import('./figures/ComparePage.vue'),
        meta: { title: 'Compare', right: 'figures.see' },
      },
      {
        path: '/figures/reports',
        component: () => import('./figures/ReportsPage.vue'),
        meta: { title: 'Reports', right: 'figures.see' },
      },
      {
        path: '/figures/reports/:name',
        component: () => import('./figures/ReportPage.vue'),
        meta: { title: 'Report', right: 'figures.see' },
      },
      {
        path: '/figures/ties',
        component: () => import('./figures/TiesPage.vue'),
        meta: { title: 'Does it tie?', right: 'figures.see' },
      },
      {
        path: '/books',
        component: () => import('./books/BooksPage.vue'),
        meta: { title: 'Books', right: 'books.see' },
      },
      {
        path: '/waiting/:id?',
        component: () => import('./waiting/WaitingPage.vue'),
        meta: { title: 'Waiting', right: 'sell' },
      },
      {
        path: '/journal/:id?',
        component: () => import('./journal/JournalPage.vue'),
        meta: { title: 'Journal', right: 'journal.see' },
      },
      { path: '/drawer', component: () => import('./drawer/DrawerPage.vue'), meta: { title: 'Drawer' } },
      {
        path: '/drawer/shifts',
        component: () => import('./drawer/ShiftsPage.vue'),
        meta: { title: 'Past shifts', right: 'shift.history' },
      },
      {
        path: '/drawer/shifts/:id',
        component: () => import('./drawer/ShiftReportPage.vue'),
        meta: { title: 'Shift report', right: 'drawer.close' },
      },
      {
        path: '/people',
        component: () => import('./people/PeoplePage.vue'),
        meta: { title: 'People', right: 'sell' },
      },
      {
        path: '/people/new',
        component: () => import('./people/NewCustomerPage.vue'),
        meta: { title: 'New customer', right: 'sell' },
      },
      {
        path: '/people/accounts',
        component: () => import('./people/AccountsPage.vue'),
        meta: { title: 'House accounts', right: 'account.manage' },
      },
      {
        path: '/people/bank',
        component: () => import('./people/BankLinesPage.vue'),
        meta: { title: 'Bank lines', right: 'account.manage' },
      },
      {
        path: '/people/:id(\\d+)/statement',
        component: () => import('./people/StatementPage.vue'),
        meta: { title: 'Statement', right: 'sell' },
      },
      {
        path: '/people/groups',
        component: () => import('./people/GroupsPage.vue'),
        meta: { title: 'Groups', right: 'sell' },
      },
      {
        path: '/people/import',
        component: () => import('./imports/ImportPage.vue'),
        props: { subject: 'customers' },
        meta: { title: 'Import customers', right: 'people.manage' },
      },
      {
        path: '/people/:id(\\d+)',
        component: () => import('./people/CustomerPage.vue'),
        meta: { title: 'Customer', right: 'sell' },
      },
      {
        path: '/goods',
        component: () => import('./goods/GoodsPage.vue'),
        meta: { title: 'Goods', right: 'goods.edit' },
      },
      {
        path: '/goods/new',
        component: () => import('./goods/NewItemPage.vue'),
        meta: { title: 'New items', right: 'goods.edit' },
      },
      {
        path: '/goods/new-family',
        component: () => import('./goods/FamilyPage.vue'),
        meta: { title: 'New family', right: 'goods.edit' },
      },
      {
        path: '/goods/new-bundle',
        component: () => import('./goods/BundlePage.vue'),
        meta: { title: 'New bundle', right: 'goods.edit' },
      },
      {
        path: '/goods/import',
        component: () => import('./imports/ImportPage.vue'),
        props: { subject: 'goods' },
        meta: { title: 'Import goods', right: 'goods.import' },
      },
      {
        path: '/goods/moves',
        component: () => import('./goods/MovesPage.vue'),
        meta: { title: 'How stock moved', right: 'goods.edit' },
      },
      {
        path: '/goods/value',
        component: () => import('./goods/ValuePage.vue'),
        meta: { title: 'What stock is worth', right: 'goods.cost' },
      },
      {
        path: '/goods/labels',
        component: () => import('./goods/LabelsPage.vue'),
        meta: { title: 'Labels', right: 'goods.edit' },
      },
      {
        path: '/goods/counts',
        component: () => import('./counts/CountsPage.vue'),
        meta: { title: 'Counts', right: 'stock.count' },
      },
      {
        path: '/goods/counts/:id(\\d+)',
        component: () => import('./counts/CountPage.vue'),
        meta: { title: 'Count', right: 'stock.count' },
      },
      {
        path: '/goods/transfers/:id(\\d+)?',
        component: () => import('./transfers/TransfersPage.vue'),
        meta: { title: 'Goods between places', right: 'stock.move' },
      },
      {
        path: '/goods/suppliers',
        component: () => import('./supply/SuppliersPage.vue'),
        meta: { title: 'Suppliers', right: 'goods.order' },
      },
      {
        path: '/goods/suppliers/:id(\\d+)',
        component: () => import('./supply/SupplierPage.vue'),
        meta: { title: 'Supplier', right: 'goods.order' },
      },
      {
        path: '/goods/orders',
        component: () => import('./supply/OrdersPage.vue'),
        meta: { title: 'Orders to suppliers', right: 'goods.receive' },
      },
      {
        path: '/goods/orders/:id(\\d+)',
        component: () => import('./supply/OrderPage.vue'),
        meta: { title: 'Order', right: 'goods.receive' },
      },
      {
        path: '/goods/deliveries/:id(\\d+)',
        component: () => import('./supply/DeliveryPage.vue'),
        meta: { title: 'Delivery', right: 'goods.receive' },
      },
      {
        path: '/goods/:id(\\d+)',
        component: () => import('./goods/ItemPage.vue'),
        meta: { title: 'Item', right: 'goods.edit' },
      },
      { path: '/offers', component: () => import('./offers/OffersPage.vue'), meta: { title: 'Offers' } },
      { path: '/offers/:id', component: () => import('./offers/OfferPage.vue'), meta: { title: 'Offer' } },
      {
        path: '/offers/:id/rehearsal',
        component: () => import('./offers/RehearsalPage.vue'),
        meta: { title: 'Rehearsal', right: 'offers.edit' },
      },
      {
        path: '/setup/:section?',
        component: () => import('./setup/SetupPage.vue'),
        meta: { title: 'Setup', right: 'shop.set-up' },
      },
      { path: '/printer', component: () => import('./printer/PrinterPage.vue'), meta: { title: 'Printer' } },
      { path: '/:anything(.*)*', redirect: '/counter' },
    ],
  });
  watchOpening(router);
  router.beforeEach(async (to, from) => {
    // Windows for customers: nobody is signed in there.
    if (to.meta.bare) return true;
    const session = useSessionStore();
    await untilAnswered(session.find, (error) => (session.trouble = problemWords(error)));
    session.trouble = '';
    if (session.welcome && !session.welcome.ready) return to.path === '/first-run' ? true : '/first-run';
    if (!session.person && !to.meta.open) return { path: '/sign-in', query: { to: to.fullPath } };
    if (session.person && to.meta.open) return '/counter';
    const { right } = to.meta;
    if (!session.person || !right || session.may(right)) return true;
    // Whoever takes a till over where somebody else was elsewhere begins at the Counter.
    if (!from.meta.open) useNoticeStore().failed(mayNotWords(session.person.name, right).join(' '));
    return from.matched.length > 0 && !from.meta.open ? false : '/counter';
  });
  // Several windows of one shop are told apart in the list of the device.
  router.afterEach(({ meta }) => {
    document.title = meta.title ? `${meta.title} · Mondrel` : 'Mondrel';
  });
  return router;
}
