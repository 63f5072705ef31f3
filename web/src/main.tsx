import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { DeviceGate } from './app/DeviceGate.js';
import { queryClient } from './app/query.js';
import { router } from './app/router.js';
import { keepPage } from './app/service-worker.js';
import { applyTheme, storedTheme } from './app/theme.js';
import { beginOutbox } from './outbox/index.js';
import './index.css';

applyTheme(storedTheme());
void beginOutbox();
void keepPage().then(() =>
  createRoot(document.getElementById('root') as HTMLElement).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <DeviceGate>
          <RouterProvider router={router} />
        </DeviceGate>
      </QueryClientProvider>
    </StrictMode>,
  ),
);
