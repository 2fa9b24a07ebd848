import { QueryClientProvider } from '@tanstack/react-query';
import { App as AntApp, ConfigProvider } from 'antd';
import { RouterProvider } from 'react-router';
import { queryClient } from '../data/query-client.ts';
import { useBench } from '../data/bench.ts';
import { router } from './routes.tsx';
import { themeFor } from './theme.ts';

export function App() {
  const { light } = useBench();
  return (
    <ConfigProvider theme={themeFor(light)} wave={{ disabled: true }}>
      <AntApp component={false}>
        <QueryClientProvider client={queryClient}>
          <RouterProvider router={router} />
        </QueryClientProvider>
      </AntApp>
    </ConfigProvider>
  );
}
