import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import 'vuetify/styles/core';
import './look/base.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { guardFreshButtons } from './frame/settled.ts';
import { styleNonce } from './look/styleNonce.ts';
import { createLook } from './look/theme.ts';
import { storedTheme } from './look/storedTheme.ts';
import { createRoutes } from './router.ts';

const app = createApp(App);
app.use(createPinia());
app.use(createLook(styleNonce(), storedTheme()));
app.use(createRoutes());
app.mount('#app');
guardFreshButtons(document);
