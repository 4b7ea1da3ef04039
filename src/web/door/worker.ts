// The service worker of the doors: their page opens without a network. It keeps the page and the scripts it needs; people are kept by
// `taken.ts`, encrypted, and are none of its business.

/** As much of a service worker as is used here. */
interface Scope {
  addEventListener(kind: 'install' | 'activate', does: (event: Extendable) => void): void;
  addEventListener(kind: 'message', does: (event: Extendable & { data: unknown }) => void): void;
  addEventListener(kind: 'fetch', does: (event: Asked) => void): void;
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
}
interface Extendable {
  waitUntil(work: Promise<unknown>): void;
}
interface Asked extends Extendable {
  request: Request;
  respondWith(answer: Promise<Response>): void;
}
const scope = self as unknown as Scope;

const kept = 'doors';
/** Where the page is kept, whichever of the doors it was. */
const shell = '/doors';
/** Milliseconds until a network that does not answer is given up. */
const patience = 4_000;

scope.addEventListener('install', (event) => event.waitUntil(scope.skipWaiting()));
scope.addEventListener('activate', (event) => event.waitUntil(scope.clients.claim()));

/** Keeps the page and what it loaded; what an earlier version loaded goes. */
async function keepAll(addresses: readonly string[]): Promise<void> {
  const cache = await caches.open(kept);
  const wanted = new Set(addresses.map((a) => new URL(a, location.origin).pathname));
  for (const request of await cache.keys()) {
    const { pathname } = new URL(request.url);
    if (pathname !== shell && !wanted.has(pathname)) await cache.delete(request);
  }
  for (const path of wanted) if (!(await cache.match(path))) await cache.add(path);
  const page = await fetch(shell, { credentials: 'same-origin' });
  if (page.ok && !page.redirected) await cache.put(shell, page);
}
scope.addEventListener('message', (event) => {
  const { keep } = event.data as { keep?: unknown };
  if (Array.isArray(keep)) event.waitUntil(keepAll(keep.filter((a): a is string => typeof a === 'string')));
});

async function page(request: Request): Promise<Response> {
  try {
    return await fetch(request, { signal: AbortSignal.timeout(patience) });
  } catch (error) {
    const known = await (await caches.open(kept)).match(shell);
    if (known) return known;
    throw error;
  }
}

async function asset(request: Request): Promise<Response> {
  const cache = await caches.open(kept);
  const known = await cache.match(request);
  if (known) return known;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}

scope.addEventListener('fetch', (event) => {
  const { request } = event;
  const { pathname, origin } = new URL(request.url);
  if (request.method !== 'GET' || origin !== location.origin) return;
  if (request.mode === 'navigate' && /^\/doors(?:\/|$)/u.test(pathname)) event.respondWith(page(request));
  else if (pathname.startsWith('/assets/')) event.respondWith(asset(request));
});

export type {};
