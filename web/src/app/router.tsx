import { createBrowserRouter, Navigate } from 'react-router';
import { BrokenPage } from '../pages/BrokenPage.js';
import { NotFoundPage } from '../pages/NotFoundPage.js';
import { Shell } from './Shell.js';

/** A place, fetched when it is gone to; where drawing it fails, the frame around it stays. */
const place = (path: string, lazy: () => Promise<{ Component: () => React.ReactNode }>) => ({
  path,
  lazy,
  errorElement: <BrokenPage />,
});

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <BrokenPage />,
    HydrateFallback: () => null,
    children: [
      { index: true, element: <Navigate to="/orders" replace /> },
      place('designs', async () => ({ Component: (await import('../pages/DesignsPage.js')).DesignsPage })),
      place('designs/:designId', async () => ({ Component: (await import('../pages/DesignPage.js')).DesignPage })),
      place('kitchen', async () => ({ Component: (await import('../pages/KitchenPage.js')).KitchenPage })),
      place('orders', async () => ({ Component: (await import('../pages/OrdersPage.js')).OrdersPage })),
      place('orders/new', async () => ({ Component: (await import('../pages/NewOrderPage.js')).NewOrderPage })),
      place('orders/:orderId', async () => ({ Component: (await import('../pages/OrderPage.js')).OrderPage })),
      place('orders/:orderId/icing', async () => ({ Component: (await import('../pages/IcingPage.js')).IcingPage })),
      place('orders/:orderId/rack', async () => ({ Component: (await import('../pages/RackPage.js')).RackPage })),
      place('not-kept', async () => ({ Component: (await import('../pages/NotKeptPage.js')).NotKeptPage })),
      { path: '*', element: <NotFoundPage /> },
    ],
  },
  {
    ...place('runs/:runId', async () => ({ Component: (await import('../pages/BenchPage.js')).BenchPage })),
    HydrateFallback: () => null,
  },
]);
