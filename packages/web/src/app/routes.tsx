import { createBrowserRouter, Navigate, type RouteObject } from 'react-router';
import { jobAhead } from './job-ahead.ts';
import { Shell } from './shell.tsx';
import { RouteTrouble } from './route-trouble.tsx';

// Each view is its own chunk: the first screen does not wait for the others.
export const router = createBrowserRouter([
  {
    path: '/',
    element: <Shell />,
    errorElement: <RouteTrouble />,
    // Until the code of the first view is there; some milliseconds.
    hydrateFallbackElement: <></>,
    children: [
      // A view that breaks leaves the bar above it as it is.
      {
        errorElement: <RouteTrouble />,
        children: views(),
      },
    ],
  },
]);

function views(): RouteObject[] {
  return [
    { index: true, element: <Navigate to="/jobs" replace /> },
    {
      path: 'jobs',
      lazy: async () => ({ Component: (await import('../pages/jobs/jobs-page.tsx')).JobsPage }),
    },
    {
      path: 'jobs/new',
      lazy: async () => ({
        Component: (await import('../pages/new-job/new-job-page.tsx')).NewJobPage,
      }),
    },
    {
      path: 'jobs/:id/door',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/door/door-page.tsx')).DoorPage,
      }),
    },
    {
      path: 'jobs/:id/look',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/look/look-page.tsx')).LookPage,
      }),
    },
    {
      path: 'jobs/:id/cold',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/cold/cold-page.tsx')).ColdPage,
      }),
    },
    {
      path: 'jobs/:id/trace',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/trace/trace-page.tsx')).TracePage,
      }),
    },
    {
      path: 'jobs/:id/stage',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/stage/stage-page.tsx')).StagePage,
      }),
    },
    {
      path: 'jobs/:id/repair',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/repair/repair-page.tsx')).RepairPage,
      }),
    },
    {
      path: 'jobs/:id/report',
      loader: jobAhead,
      lazy: async () => ({
        Component: (await import('../pages/report/report-page.tsx')).ReportPage,
      }),
    },
    {
      path: 'boards',
      lazy: async () => ({
        Component: (await import('../pages/boards/boards-page.tsx')).BoardsPage,
      }),
    },
    {
      path: 'boards/:id',
      lazy: async () => ({
        Component: (await import('../pages/board/board-page.tsx')).BoardPage,
      }),
    },
    {
      path: 'boards/:id/edit',
      lazy: async () => ({
        Component: (await import('../pages/edit/edit-page.tsx')).EditPage,
      }),
    },
    {
      path: 'boards/:id/schematic',
      lazy: async () => ({
        Component: (await import('../pages/schematic/schematic-page.tsx')).SchematicPage,
      }),
    },
    {
      path: 'boards/:id/history',
      lazy: async () => ({
        Component: (await import('../pages/history/history-page.tsx')).HistoryPage,
      }),
    },
    {
      path: 'boards/:id/versions',
      lazy: async () => ({
        Component: (await import('../pages/versions/versions-page.tsx')).VersionsPage,
      }),
    },
    ...['sums', 'sums/:id'].map((path) => ({
      path,
      lazy: async () => ({
        Component: (await import('../pages/sums/sums-page.tsx')).SumsPage,
      }),
    })),
    {
      path: 'words',
      lazy: async () => ({
        Component: (await import('../pages/words/words-page.tsx')).WordsPage,
      }),
    },
    {
      path: 'shelf',
      lazy: async () => ({
        Component: (await import('../pages/shelf/shelf-page.tsx')).ShelfPage,
      }),
    },
    {
      path: 'shop',
      lazy: async () => ({
        Component: (await import('../pages/shop/shop-page.tsx')).ShopPage,
      }),
    },
    { path: '*', element: <RouteTrouble /> },
  ];
}
