import '@fontsource-variable/fraunces/full.css';
import '@fontsource-variable/instrument-sans/index.css';
import '@fontsource-variable/jetbrains-mono/index.css';
import './styles/base.css';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import { theme } from './theme';

const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';

createApp(App).use(router).use(PrimeVue, { theme, csp: { nonce } }).mount('#app');
