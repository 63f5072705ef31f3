import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { DeviceGate } from './app/DeviceGate.js';
import { queryClient } from './app/query.js';
import { router } from './app/router.js';
import { keepPage, takeUpKept } from './app/service-worker.js';
import { applyTheme, storedTheme } from './app/theme.js';
import { beginOutbox } from './outbox/index.js';
import './text/names-of-days.js';
import './index.css';

/** A device whose own database does not answer shows the page all the same. */
const KEPT_WITHIN_MS = 2000;
const later = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

applyTheme(storedTheme());
void Promise.all([takeUpKept(), Promise.race([beginOutbox(), later(KEPT_WITHIN_MS)])]).then(() => {
  createRoot(document.getElementById('root') as HTMLElement).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <DeviceGate>
          <RouterProvider router={router} />
        </DeviceGate>
      </QueryClientProvider>
    </StrictMode>,
  );
  keepPage();
});
