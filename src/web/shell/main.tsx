import '../app.css';
import { ChakraProvider } from '@chakra-ui/react';
import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { staffTopics } from '#contract/staffTopics.ts';
import { alsoTopics } from '#contract/topics.ts';
import { speakAs } from '#core/words/language.ts';
import { ApiProblem, readIn } from '#web/api.ts';
import { kitWordsIn } from '#web/kit/languages.ts';
import { KitLanguage } from '#web/kit/words.ts';
import { system } from '#web/kit/workSystem.ts';
import { spokenLanguage } from '#web/words/phrase.ts';
import { Places } from './Places.tsx';
import { askAhead, loadAhead, places } from './places.ts';

// Styles made at run time carry the nonce that the server put into the page.
alsoTopics(staffTopics);
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
const cache = createCache({ key: 'css', nonce });
const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => failures < 1 && !(error instanceof ApiProblem && error.body.status < 500),
      staleTime: 2_000,
    },
  },
});

document.documentElement.lang = spokenLanguage();
readIn(spokenLanguage());
speakAs(spokenLanguage);

// Where one is bound is fetched while it is still asked who one is; whoever signs in comes to the Desk.
const bound = places.find((p) => location.pathname.startsWith(`/${p.toLowerCase()}`));
if (bound) askAhead(client, bound);
else if (location.pathname === '/sign-in') void loadAhead('Desk');

const router = createBrowserRouter([{ path: '*', element: <Places /> }]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <ChakraProvider value={system}>
        <KitLanguage value={kitWordsIn[spokenLanguage()]}>
          <QueryClientProvider client={client}>
            <RouterProvider router={router} />
          </QueryClientProvider>
        </KitLanguage>
      </ChakraProvider>
    </CacheProvider>
  </StrictMode>,
);
