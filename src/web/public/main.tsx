import './public.css';
import { ChakraProvider } from '@chakra-ui/react';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Outlet, RouterProvider } from 'react-router';
import { Boundary } from '#web/kit/Boundary.tsx';
import { Loading } from '#web/kit/notices.tsx';
import { EventView } from './EventView.tsx';
import { Frame } from './Frame.tsx';
import { ready } from './language.ts';
import { NotHere } from './notices.tsx';
import { publicSystem } from './system.ts';

const Guest = lazy(() => import('./Guest.tsx'));
const Invitation = lazy(() => import('./Invitation.tsx'));
const Register = lazy(() => import('./booking/Register.tsx'));
const Order = lazy(() => import('./order/Order.tsx'));
const Shifts = lazy(() => import('./Shifts.tsx'));
const AllShifts = lazy(() => import('./AllShifts.tsx'));
const OwnShifts = lazy(() => import('./OwnShifts.tsx'));
const Help = lazy(() => import('./helping/Help.tsx'));
const Helping = lazy(() => import('./helping/Helping.tsx'));
const Own = lazy(() => import('./Own.tsx'));
const Listing = lazy(() => import('./Listing.tsx'));
const Propose = lazy(() => import('./Propose.tsx'));
const Preview = lazy(() => import('./Preview.tsx'));
const Mine = lazy(() => import('./Mine.tsx'));
const ByLink = lazy(() => import('./SignIn.tsx'));
const ProposeEvent = lazy(() => import('./ProposeEvent.tsx'));
const Give = lazy(() => import('./giving/Give.tsx'));
const Gift = lazy(() => import('./giving/Gift.tsx'));
const Pledge = lazy(() => import('./giving/Pledge.tsx'));
const Receipt = lazy(() => import('./giving/Receipt.tsx'));
const Verify = lazy(() => import('./giving/Verify.tsx'));
const Follow = lazy(() => import('./Follow.tsx'));
const Out = lazy(() => import('./Out.tsx'));
const Here = lazy(() => import('./Here.tsx'));
const Standing = lazy(() => import('./Standing.tsx'));
const Cosign = lazy(() => import('./Cosign.tsx'));
const Signed = lazy(() => import('./Signed.tsx'));
const Count = lazy(() => import('./Count.tsx'));
const Survey = lazy(() => import('./Survey.tsx'));

const client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 5_000 } } });
// Styles made at run time carry the nonce that the server put into the page.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
const cache = createCache({ key: 'css', nonce });

const router = createBrowserRouter([
  {
    element: (
      <Frame>
        <Boundary>
          <Suspense fallback={<Loading />}>
            <Outlet />
          </Suspense>
        </Boundary>
      </Frame>
    ),
    children: [
      { path: '/', element: <Listing /> },
      { path: '/e/:slug', element: <EventView /> },
      { path: '/e/:slug/register', element: <Register /> },
      { path: '/e/:slug/propose', element: <Propose /> },
      { path: '/e/:slug/shifts', element: <Shifts /> },
      { path: '/shifts', element: <AllShifts /> },
      { path: '/p/:token', element: <Preview /> },
      { path: '/m/:token', element: <Order /> },
      { path: '/g/:token', element: <Guest /> },
      { path: '/i/:token', element: <Invitation /> },
      { path: '/crew/:token', element: <OwnShifts /> },
      { path: '/help/:slug', element: <Help /> },
      { path: '/helping/:token', element: <Helping /> },
      { path: '/own/:token', element: <Own /> },
      { path: '/give/:slug', element: <Give /> },
      { path: '/gift/:token', element: <Gift /> },
      { path: '/receipt/:token', element: <Receipt /> },
      { path: '/verify', element: <Verify /> },
      { path: '/sign/:slug', element: <Standing /> },
      { path: '/here/:token', element: <Here /> },
      { path: '/count/:token', element: <Count /> },
      { path: '/signed/:token', element: <Signed /> },
      { path: '/cosign/:token', element: <Cosign /> },
      { path: '/pledge/:token', element: <Pledge /> },
      { path: '/propose', element: <ProposeEvent /> },
      { path: '/mine', element: <Mine /> },
      { path: '/mine/in/:token', element: <ByLink /> },
      { path: '/s/:token', element: <Survey /> },
      { path: '/follow/:token', element: <Follow /> },
      { path: '/out/:token', element: <Out /> },
      { path: '*', element: <NotHere /> },
    ],
  },
]);

await ready;
createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <ChakraProvider value={publicSystem}>
        <QueryClientProvider client={client}>
          <RouterProvider router={router} />
        </QueryClientProvider>
      </ChakraProvider>
    </CacheProvider>
  </StrictMode>,
);
