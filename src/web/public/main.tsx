import './public.css';
import './language.ts';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { EventView } from './EventView.tsx';
import { Frame } from './Frame.tsx';
import { Listing } from './Listing.tsx';
import { Loading, NotHere } from './notices.tsx';

const Register = lazy(() => import('./Register.tsx'));
const Order = lazy(() => import('./Order.tsx'));
const Shifts = lazy(() => import('./Shifts.tsx'));
const OwnShifts = lazy(() => import('./OwnShifts.tsx'));
const Own = lazy(() => import('./Own.tsx'));
const Survey = lazy(() => import('./Survey.tsx'));

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5_000 } } });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <BrowserRouter>
        <Frame>
          <Suspense fallback={<Loading />}>
            <Routes>
              <Route path="/" element={<Listing />} />
              <Route path="/e/:slug" element={<EventView />} />
              <Route path="/e/:slug/register" element={<Register />} />
              <Route path="/e/:slug/shifts" element={<Shifts />} />
              <Route path="/m/:token" element={<Order />} />
              <Route path="/crew/:token" element={<OwnShifts />} />
              <Route path="/own/:token" element={<Own />} />
              <Route path="/s/:token" element={<Survey />} />
              <Route path="*" element={<NotHere />} />
            </Routes>
          </Suspense>
        </Frame>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
