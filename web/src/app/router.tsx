import { createBrowserRouter, Navigate } from 'react-router';
import { BenchPage } from '../pages/BenchPage.js';
import { BrokenPage } from '../pages/BrokenPage.js';
import { DesignPage } from '../pages/DesignPage.js';
import { DesignsPage } from '../pages/DesignsPage.js';
import { IcingPage } from '../pages/IcingPage.js';
import { KitchenPage } from '../pages/KitchenPage.js';
import { NewOrderPage } from '../pages/NewOrderPage.js';
import { NotFoundPage } from '../pages/NotFoundPage.js';
import { NotKeptPage } from '../pages/NotKeptPage.js';
import { OrderPage } from '../pages/OrderPage.js';
import { OrdersPage } from '../pages/OrdersPage.js';
import { RackPage } from '../pages/RackPage.js';
import { Shell } from './Shell.js';

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <BrokenPage />,
    children: [
      { index: true, element: <Navigate to="/orders" replace /> },
      { path: 'designs', element: <DesignsPage /> },
      { path: 'designs/:designId', element: <DesignPage /> },
      { path: 'kitchen', element: <KitchenPage /> },
      { path: 'orders', element: <OrdersPage /> },
      { path: 'orders/new', element: <NewOrderPage /> },
      { path: 'orders/:orderId', element: <OrderPage /> },
      { path: 'orders/:orderId/icing', element: <IcingPage /> },
      { path: 'orders/:orderId/rack', element: <RackPage /> },
      { path: 'not-kept', element: <NotKeptPage /> },
      { path: '*', element: <NotFoundPage /> },
    ],
  },
  { path: 'runs/:runId', element: <BenchPage />, errorElement: <BrokenPage /> },
]);
