import './jitless';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import './theme.css';
import { Gate } from './session/Gate';
import { problemOf } from './api/client';
import { applyTheme } from './band/theme';

applyTheme();

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => problemOf(error).status === 0 && failures < 2,
      staleTime: 1_000,
    },
  },
});

const place = document.getElementById('app');
if (place === null) throw new Error('the page has no place for the application');
createRoot(place).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Gate />
    </QueryClientProvider>
  </StrictMode>,
);
