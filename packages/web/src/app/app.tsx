import { QueryClientProvider } from '@tanstack/react-query';
import { ConfigProvider } from 'antd';
import { RouterProvider } from 'react-router';
import { queryClient } from '../data/query-client.ts';
import { useBench } from '../data/bench.ts';
import { router } from './routes.tsx';
import { themeFor } from './theme.ts';

export function App() {
  const { light } = useBench();
  return (
    <ConfigProvider theme={themeFor(light)} wave={{ disabled: true }}>
      <QueryClientProvider client={queryClient}>
        {/* A click on a view is not to wait behind a page that draws itself anew while faults are played. */}
        <RouterProvider router={router} useTransitions={false} />
      </QueryClientProvider>
    </ConfigProvider>
  );
}
