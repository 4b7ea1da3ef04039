import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Request } from 'express';
import type { everything } from '#contract/index.ts';
import { listingQuery, type PublicEvent } from '#contract/publicEvent.ts';
import { inLanguage } from '#core/events/french.ts';
import { plainAmount } from '#core/money/amount.ts';
import { withOffset } from '#core/time/wallTime.ts';
import type { Language } from '#core/words/language.ts';
import type { App } from '../app/app.ts';
import { byClock } from '../app/reading.ts';
import { earlyEvent, earlyListing, embeddedListing } from './early.ts';
import type { Handlers } from './handle.ts';
import { escapeHtml } from './html.ts';
import { Problem } from './problem.ts';

export type AllHandlers = Handlers<typeof everything>;

/** What an address narrows the listing to. What cannot be read of it narrows nothing; the page itself says so. */
function listingAsked(search: Readonly<Record<string, unknown>>) {
  const asked = listingQuery.safeParse(search);
  return asked.success ? asked.data : listingQuery.parse({});
}

/** The colour of links in a frame, as the page around it has it: six hexadecimal digits, or the usual one. */
const accentOf = (asked: unknown): string =>
  typeof asked === 'string' && /^[\da-f]{6}$/iu.test(asked)
    ? `<style nonce="__NONCE__">.embedded a{color:#${asked}}</style>`
    : '';

/** Paths of the coordinator's application; every other page belongs to the public. */
const staffPaths =
  /^\/(?:desk|clearance|season|events|volunteers|contacts|import|ledger|records|tray|team|doors|account|sign-in|forgotten|reset|setup|invitation)(?:\/|$)/u;

/** JSON that is safe inside a script element. */
const scriptJson = (value: unknown): string =>
  JSON.stringify(value)
    .replace(/</gu, '\\u003c')
    .replace(/\u2028|\u2029/gu, ' ');

/** schema.org data of an event (Event, Offer, Place), as search engines read it. */
function eventJsonLd(event: PublicEvent, organization: { name: string }, url: string): object {
  return {
    '@context': 'https://schema.org',
    '@type': 'Event',
    name: event.title,
    description: event.summary,
    url,
    // Whole days have dates; times say what the clock shows there.
    startDate:
      event.startsLocal?.length === 10
        ? event.startsLocal
        : event.startsAt && withOffset(event.startsAt, event.zone),
    endDate:
      event.endsLocal?.length === 10
        ? event.endsLocal
        : event.endsAt
          ? withOffset(event.endsAt, event.zone)
          : undefined,
    eventStatus:
      event.state === 'called off'
        ? 'https://schema.org/EventCancelled'
        : 'https://schema.org/EventScheduled',
    eventAttendanceMode: `https://schema.org/${event.online ? (event.place ? 'Mixed' : 'Online') : 'Offline'}EventAttendanceMode`,
    location: event.place
      ? {
          '@type': 'Place',
          name: event.place.name,
          address: event.place.address,
          ...(event.place.latitude === null
            ? {}
            : {
                geo: {
                  '@type': 'GeoCoordinates',
                  latitude: event.place.latitude,
                  longitude: event.place.longitude,
                },
              }),
        }
      : event.online
        ? { '@type': 'VirtualLocation', url }
        : undefined,
    organizer: {
      '@type': 'Organization',
      name: event.unit ? `${organization.name}, ${event.unit}` : organization.name,
    },
    offers: event.offers.map((o) => ({
      '@type': 'Offer',
      name: o.name,
      price: plainAmount(o.price, event.currency),
      priceCurrency: event.currency,
      availability:
        event.registration === 'closed'
          ? 'https://schema.org/Discontinued'
          : o.left === 0
            ? 'https://schema.org/SoldOut'
            : 'https://schema.org/InStock',
      url,
    })),
  };
}

/**
 * Puts a page's own style sheets into it: they are small, and text that waits for one more answer is read later. Their
 * files stand beside them, so addresses in them begin there.
 */
const withStyles = (html: string, dist: string): string =>
  html.replace(
    /<link rel="stylesheet"[^>]*href="\/(assets\/[^"]+\.css)"[^>]*>/gu,
    (_, file: string) =>
      `<style nonce="__NONCE__">${readFileSync(join(dist, file), 'utf8').replace(/url\((["']?)\.\//gu, 'url($1/assets/')}</style>`,
  );

/** Makes the HTML of a page: the built shell with a title, the data a public page begins with, and JSON-LD. */
export function makePages(app: App, handlers: AllHandlers, dist: string) {
  const shells = new Map<string, string>();
  const shell = (name: 'app' | 'public'): string => {
    const known = shells.get(name);
    if (known) return known;
    const html = withStyles(readFileSync(join(dist, `${name}.html`), 'utf8'), dist);
    shells.set(name, html);
    return html;
  };
  const callFor =
    (request: Request) =>
    async <T>(run: (c: never) => Promise<T>, params: object, query: object = {}): Promise<T> =>
      run({
        app,
        tx: app.db,
        now: app.clock.now(),
        params,
        query,
        body: {},
        actor: { name: 'public', staffId: null, requestId: null },
        request,
      } as never);

  /**
   * The page at a path, with the nonce that its styles carry and its text in a language, to be read before any script runs. Status 404 where a public event is not there. Before the
   * organization is set up every path leads to setting it up.
   */
  const page = async (
    path: string,
    nonce: string,
    language: Language,
    request: Request,
  ): Promise<{ status: number; html: string; to?: string }> => {
    const search: Readonly<Record<string, unknown>> = request.query;
    const call = callFor(request);
    const withNonce = (html: string) => html.replaceAll('__NONCE__', nonce);
    if (staffPaths.test(path)) return { status: 200, html: withNonce(shell('app')) };
    if ((await call(handlers['GET /api/setup'], {})).needed) return { status: 302, html: '', to: '/setup' };
    const initial: Record<string, unknown> = {};
    let head = '';
    let text = '';
    let title = 'Acolyte';
    let status = 200;
    const frame = await call(handlers['GET /api/public/frame'], {});
    initial['GET /api/public/frame'] = frame;
    title = frame.organization.name;
    const slug = /^\/e\/([^/]+)(?:\/|$)/u.exec(path)?.[1];
    const givingSlug = /^\/give\/([\w-]+)$/u.exec(path)?.[1];
    let theme = '';
    try {
      if (slug && path.endsWith('/propose')) {
        // Sessions can be proposed before the event has a page.
        initial[`GET /api/public/events/${slug}/call`] = await call(
          handlers['GET /api/public/events/:slug/call'],
          { slug },
        );
      } else if (slug) {
        const event = await call(handlers['GET /api/public/events/:slug'], { slug });
        // An address the event had before leads on.
        if (event.slug !== slug)
          return { status: 301, html: '', to: path.replace(`/e/${slug}`, `/e/${event.slug}`) };
        initial[`GET /api/public/events/${slug}`] = event;
        text = path === `/e/${slug}` ? earlyEvent(event, frame.organization, language) : '';
        const shown = inLanguage(event, language);
        if (path === `/e/${slug}` && event.look.theme !== 'reader')
          theme = ` data-theme="${event.look.theme}"`;
        title = event.search.title || `${shown.title} · ${title}`;
        head = `<meta name="description" content="${escapeHtml(event.search.text || shown.summary)}"><script type="application/ld+json">${scriptJson(eventJsonLd(event, frame.organization, `${app.origin}/e/${slug}`))}</script>`;
      } else if (path === '/') {
        const events = await call(handlers['GET /api/public/events'], {}, listingAsked(search));
        if (!Object.keys(search).some((name) => name !== 'lang')) initial['GET /api/public/events'] = events;
        text = earlyListing(events, frame.organization, language);
      } else if (givingSlug) {
        const giving = await call(handlers['GET /api/public/giving/:slug'], { slug: givingSlug });
        initial[`GET /api/public/giving/${givingSlug}`] = giving;
        title = `${giving.title} · ${title}`;
        head = `<meta name="description" content="${escapeHtml(giving.words.slice(0, 200))}">`;
      } else if (path === '/propose') {
        initial['GET /api/public/propose'] = await call(handlers['GET /api/public/propose'], {});
      } else if (path === '/embed') {
        const events = await call(handlers['GET /api/public/events'], {}, listingAsked(search));
        const html = shell('public')
          .replace('<html lang="en">', `<html lang="${language}">`)
          .replace(
            /<title>.*?<\/title>/u,
            () => `<title>${escapeHtml(title)}</title><base target="_blank">${accentOf(search.accent)}`,
          )
          // Nothing of it runs in somebody else's page.
          .replace(/<script\b[^>]*>[\s\S]*?<\/script>|<link rel="modulepreload"[^>]*>/gu, '')
          .replace('<div id="root"></div>', () =>
            embeddedListing(events, frame.organization, app.origin, language),
          );
        return { status, html: withNonce(html) };
      }
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      status = error.status;
    }
    const data = `<script type="application/json" id="initial">${scriptJson(initial)}</script>`;
    const html = shell('public')
      .replace('<html lang="en">', `<html lang="${language}"${theme}>`)
      .replace(/<title>.*?<\/title>/u, () => `<title>${escapeHtml(title)}</title>${head}${data}`)
      .replace('<div id="root"></div>', () => `<div id="root">${text}</div>`);
    return { status, html: withNonce(html) };
  };
  return (...of: Parameters<typeof page>) => byClock(app.face, () => page(...of));
}
