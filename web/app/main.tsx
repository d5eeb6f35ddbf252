import '@fontsource-variable/hanken-grotesk/wght.css';
import '@fontsource-variable/bricolage-grotesque/wght.css';
import './tokens.css';
import './base.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp } from 'antd';
import { StrictMode, Suspense, lazy } from 'react';
import { createRoot } from 'react-dom/client';
import { Navigate, RouterProvider, createBrowserRouter } from 'react-router';
import { Broken } from './Broken';
import { Shell } from './Shell';
import { ThemeProvider } from './theme';
import { Waiting } from '../components/Waiting';
import { isAway } from '../data/http';
import { MarksScreen } from '../screens/marks/MarksScreen';

const BenchScreen = lazy(() => import('../screens/bench/BenchScreen').then((m) => ({ default: m.BenchScreen })));
const DeliveriesScreen = lazy(() =>
  import('../screens/deliveries/DeliveriesScreen').then((m) => ({ default: m.DeliveriesScreen })),
);
const MakeScreen = lazy(() => import('../screens/make/MakeScreen').then((m) => ({ default: m.MakeScreen })));
const PagesScreen = lazy(() => import('../screens/pages/PagesScreen').then((m) => ({ default: m.PagesScreen })));
const BrandScreen = lazy(() => import('../screens/brand/BrandScreen').then((m) => ({ default: m.BrandScreen })));
const GroundsScreen = lazy(() =>
  import('../screens/grounds/GroundsScreen').then((m) => ({ default: m.GroundsScreen })),
);
const PlacementsScreen = lazy(() =>
  import('../screens/place/PlacementsScreen').then((m) => ({ default: m.PlacementsScreen })),
);
const PlaceScreen = lazy(() => import('../screens/place/PlaceScreen').then((m) => ({ default: m.PlaceScreen })));
const SheetScreen = lazy(() => import('../screens/place/SheetScreen').then((m) => ({ default: m.SheetScreen })));
const SurfaceScreen = lazy(() => import('../screens/place/SurfaceScreen').then((m) => ({ default: m.SurfaceScreen })));
const DocumentScreen = lazy(() =>
  import('../screens/place/DocumentScreen').then((m) => ({ default: m.DocumentScreen })),
);
const WallsScreen = lazy(() => import('../screens/walls/WallsScreen').then((m) => ({ default: m.WallsScreen })));
const PeopleScreen = lazy(() => import('../screens/people/PeopleScreen').then((m) => ({ default: m.PeopleScreen })));
const HelpScreen = lazy(() => import('../screens/help/HelpScreen').then((m) => ({ default: m.HelpScreen })));
const LinksScreen = lazy(() => import('../screens/links/LinksScreen').then((m) => ({ default: m.LinksScreen })));
const WallScreen = lazy(() => import('../screens/walls/WallScreen').then((m) => ({ default: m.WallScreen })));
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // The database's absence passes; whatever else is wrong stays wrong.
      retry: (failures, error) => failures < (isAway(error) ? 60 : 1),
      retryDelay: 1000,
      refetchOnWindowFocus: false,
      staleTime: 5_000,
    },
  },
});

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    // A screen that breaks leaves what stands round it.
    children: [
      {
        errorElement: <Broken />,
        children: [
          { index: true, element: <Navigate to="/marks" replace /> },
          { path: '/marks', element: <MarksScreen /> },
          {
            path: '/marks/:markId/:stage?',
            element: (
              <Suspense fallback={<Waiting what="the bench" />}>
                <BenchScreen />
              </Suspense>
            ),
          },
          {
            path: '/take-in/:how',
            element: (
              <Suspense fallback={<Waiting what="the pad" />}>
                <MakeScreen />
              </Suspense>
            ),
          },
          {
            path: '/pages/:sha/:page',
            element: (
              <Suspense fallback={<Waiting what="the pages" />}>
                <PagesScreen />
              </Suspense>
            ),
          },
          {
            path: '/brand',
            element: (
              <Suspense fallback={<Waiting what="the brand" />}>
                <BrandScreen />
              </Suspense>
            ),
          },
          {
            path: '/grounds',
            element: (
              <Suspense fallback={<Waiting what="the grounds" />}>
                <GroundsScreen />
              </Suspense>
            ),
          },
          {
            path: '/placements',
            element: (
              <Suspense fallback={<Waiting what="placements" />}>
                <PlacementsScreen />
              </Suspense>
            ),
          },
          {
            path: '/placements/sheet',
            element: (
              <Suspense fallback={<Waiting what="the sheet" />}>
                <SheetScreen />
              </Suspense>
            ),
          },
          {
            path: '/placements/surface',
            element: (
              <Suspense fallback={<Waiting what="the surface" />}>
                <SurfaceScreen />
              </Suspense>
            ),
          },
          {
            path: '/placements/document',
            element: (
              <Suspense fallback={<Waiting what="the document" />}>
                <DocumentScreen />
              </Suspense>
            ),
          },
          {
            path: '/placements/:placementId',
            element: (
              <Suspense fallback={<Waiting what="the placement" />}>
                <PlaceScreen />
              </Suspense>
            ),
          },
          {
            path: '/walls',
            element: (
              <Suspense fallback={<Waiting what="walls" />}>
                <WallsScreen />
              </Suspense>
            ),
          },
          {
            path: '/walls/:wallId',
            element: (
              <Suspense fallback={<Waiting what="the wall" />}>
                <WallScreen />
              </Suspense>
            ),
          },
          {
            path: '/links',
            element: (
              <Suspense fallback={<Waiting what="links" />}>
                <LinksScreen />
              </Suspense>
            ),
          },
          {
            path: '/people',
            element: (
              <Suspense fallback={<Waiting what="people" />}>
                <PeopleScreen />
              </Suspense>
            ),
          },
          { path: '/keys', element: <Navigate to="/help/keys" replace /> },
          {
            path: '/help/:page?',
            element: (
              <Suspense fallback={<Waiting what="help" />}>
                <HelpScreen />
              </Suspense>
            ),
          },
          {
            path: '/deliveries',
            element: (
              <Suspense fallback={<Waiting what="deliveries" />}>
                <DeliveriesScreen />
              </Suspense>
            ),
          },
          { path: '*', element: <Navigate to="/marks" replace /> },
        ],
      },
    ],
  },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <ThemeProvider>
        <AntApp component={false}>
          <RouterProvider router={router} />
        </AntApp>
      </ThemeProvider>
    </QueryClientProvider>
  </StrictMode>,
);
