import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource/atkinson-hyperlegible-mono/400.css';
import '@fontsource/atkinson-hyperlegible-mono/600.css';
import './app/jiko.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app/app.tsx';

/** By then the first page shows its suspects on a slow machine. */
const firstVisitMilliseconds = 8000;

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <App />
  </StrictMode>,
);

// Not while developing: there nothing is to come from a cache.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  window.addEventListener('load', () => {
    const register = (): void => {
      navigator.serviceWorker
        .register('/service-worker.js', { updateViaCache: 'none' })
        .catch(() => undefined); // a browser that refuses works as before, but for a reload offline
    };
    // On the first visit it fetches every file of the app: not while the first page is still coming.
    if (navigator.serviceWorker.controller) register();
    else setTimeout(register, firstVisitMilliseconds);
  });
