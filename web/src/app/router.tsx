import { msg } from '@kestfog/core/words';
import { lazy, type ReactNode, Suspense } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { BrokenPage } from '../pages/BrokenPage.js';
import { NotFoundPage } from '../pages/NotFoundPage.js';
import { Loading } from '../ui/Notice.js';
import { Shell } from './Shell.js';

/** A place, fetched when it is gone to; where that or drawing it fails, the frame around it stays. */
function place(path: string, load: () => Promise<{ default: () => ReactNode }>) {
  const Place = lazy(load);
  return {
    path,
    element: (
      <Suspense fallback={<Coming />}>
        <Place />
      </Suspense>
    ),
    errorElement: <BrokenPage />,
  };
}

/** Most places are there at once: only one that is not says that it is coming. */
function Coming() {
  return (
    <div className="arriving">
      <Loading what={msg`opening it`} />
    </div>
  );
}

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <BrokenPage />,
    children: [
      { index: true, element: <Navigate to="/orders" replace /> },
      place('designs', async () => ({ default: (await import('../pages/DesignsPage.js')).DesignsPage })),
      place('designs/:designId', async () => ({ default: (await import('../pages/DesignPage.js')).DesignPage })),
      place('designs/:designId/sheets', async () => ({ default: (await import('../pages/SheetsPages.js')).DesignSheetsPage })),
      place('kitchen/gauges', async () => ({ default: (await import('../pages/SheetsPages.js')).GaugesPage })),
      place('kitchen', async () => ({ default: (await import('../pages/KitchenPage.js')).KitchenPage })),
      place('orders', async () => ({ default: (await import('../pages/OrdersPage.js')).OrdersPage })),
      place('orders/new', async () => ({ default: (await import('../pages/NewOrderPage.js')).NewOrderPage })),
      place('orders/:orderId', async () => ({ default: (await import('../pages/OrderPage.js')).OrderPage })),
      place('orders/:orderId/icing/:part?', async () => ({ default: (await import('../pages/IcingPage.js')).IcingPage })),
      place('orders/:orderId/rack', async () => ({ default: (await import('../pages/RackPage.js')).RackPage })),
      place('orders/:orderId/sheets', async () => ({ default: (await import('../pages/SheetsPages.js')).OrderSheetsPage })),
      place('notebook', async () => ({ default: (await import('../pages/NotebookPage.js')).NotebookPage })),
      place('notebook/runs/:runId', async () => ({ default: (await import('../pages/NotebookRunPage.js')).NotebookRunPage })),
      place('practice', async () => ({ default: (await import('../pages/PracticePage.js')).PracticePage })),
      place('practice/surfaces', async () => ({ default: (await import('../pages/GuessPage.js')).GuessPage })),
      place('not-kept', async () => ({ default: (await import('../pages/NotKeptPage.js')).NotKeptPage })),
      { path: '*', element: <NotFoundPage /> },
    ],
  },
  place('practice/:lessonId', async () => ({ default: (await import('../pages/LessonPage.js')).LessonPage })),
  place('orders/:orderId/rehearse', async () => ({ default: (await import('../pages/RehearsalPage.js')).RehearsalPage })),
  place('runs/:runId/light', async () => ({ default: (await import('../pages/LightPage.js')).LightPage })),
  place('runs/:runId', async () => ({ default: (await import('../pages/BenchPage.js')).BenchPage })),
]);
