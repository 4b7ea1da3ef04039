import { useEffect } from 'react';
import { decoderAddress } from './reading.ts';
import workerAddress from './worker.ts?worker&url';

/** The scripts, styles and fonts that this page has loaded. */
const loaded = (): string[] =>
  performance
    .getEntriesByType('resource')
    .map((entry) => new URL(entry.name))
    .filter(({ origin, pathname }) => origin === location.origin && pathname.startsWith('/assets/'))
    .map(({ pathname }) => pathname);

/** Makes the doors open without a network: their page and what it loads are kept by a service worker, also what it loads later. */
export function useTakenAlong(): void {
  useEffect(() => {
    if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return undefined;
    let over = false;
    let observer: PerformanceObserver | null = null;
    void navigator.serviceWorker
      .register(workerAddress, { scope: '/doors', type: 'module' })
      .then(() => navigator.serviceWorker.ready)
      .then(({ active }) => {
        if (over) return;
        // Codes are also read where the camera was not opened before.
        const keep = () => active?.postMessage({ keep: [...loaded(), decoderAddress] });
        keep();
        observer = new PerformanceObserver((list) => {
          if (list.getEntries().some((entry) => entry.name.includes('/assets/'))) keep();
        });
        observer.observe({ type: 'resource' });
      })
      // Where it is not allowed the doors work as long as there is a network.
      .catch(() => undefined);
    return () => {
      over = true;
      observer?.disconnect();
    };
  }, []);
}
