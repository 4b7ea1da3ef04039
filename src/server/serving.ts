import { randomBytes, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express, type Request } from 'express';
import { rateLimit } from 'express-rate-limit';
import packedFiles from 'express-static-gzip';
import helmet from 'helmet';
import { everything } from '#contract/index.ts';
import { describeApi } from '#contract/openapi.ts';
import { embedHosts } from '#core/text/doc.ts';
import type { Language } from '#core/words/language.ts';
import { agendaHandlers } from './agenda/routes.ts';
import type { App } from './app/app.ts';
import { archiveHandlers } from './archive/routes.ts';
import { backupCommands } from './backup/command.ts';
import { backupHandlers } from './backup/routes.ts';
import { bankHandlers } from './bank/routes.ts';
import { exchangingHandlers } from './changes/exchanging.ts';
import { changesHandlers } from './changes/routes.ts';
import { clearanceHandlers } from './clearance/routes.ts';
import { fieldsHandlers } from './contacts/fields.ts';
import { ownHandlers } from './contacts/own.ts';
import { pairsHandlers } from './contacts/pairRoutes.ts';
import { contactsHandlers } from './contacts/routes.ts';
import { tiesHandlers } from './contacts/ties.ts';
import { viewsHandlers } from './contacts/views.ts';
import { applyingHandlers } from './crew/applyingRoutes.ts';
import { depositsHandlers } from './crew/depositRoutes.ts';
import { fillingHandlers } from './crew/fillingRoutes.ts';
import { rolesHandlers } from './crew/roleRoutes.ts';
import { crewHandlers } from './crew/routes.ts';
import { servingHandlers } from './crew/servingRoutes.ts';
import { steppingInHandlers, swappingHandlers } from './crew/steppingInRoutes.ts';
import { attendanceHandlers } from './doors/attendanceRoutes.ts';
import { doorsHandlers } from './doors/routes.ts';
import { dutiesHandlers } from './duties/routes.ts';
import { filesHandlers } from './files/routes.ts';
import { givingHandlers } from './giving/routes.ts';
import { serveFrame } from './http/frame.ts';
import { routesOf } from './http/handle.ts';
import { refuseOtherOrigins, refuseUnknownHosts } from './http/hosts.ts';
import { inTheirLanguage, languageOf } from './http/language.ts';
import { type AllHandlers, makePages } from './http/pages.ts';
import { answeredField, Problem, refused } from './http/problem.ts';
import { inTurn } from './http/turns.ts';
import { importsHandlers } from './imports/routes.ts';
import type { Runner } from './jobs/runner.ts';
import { kindsHandlers } from './kinds/routes.ts';
import { boardHandlers } from './messages/board.ts';
import { crewMailHandlers } from './messages/crewMail.ts';
import { followingHandlers } from './messages/followingRoutes.ts';
import { incomingHandlers } from './messages/incoming.ts';
import { lettersHandlers } from './messages/letterTexts.ts';
import { followCounted, mailingsHandlers } from './messages/mailings.ts';
import { messagesHandlers } from './messages/routes.ts';
import { yearRoundHandlers } from './messages/yearRoundRoutes.ts';
import { mineHandlers } from './mine/routes.ts';
import { cardsHandlers } from './money/cards.ts';
import { eventAccountHandlers } from './money/eventAccount.ts';
import { moneyHandlers } from './money/routes.ts';
import { noticesHandlers } from './notices/routes.ts';
import { initiativesHandlers } from './outcomes/initiatives.ts';
import { lessonsHandlers } from './outcomes/lessons.ts';
import { measuresHandlers } from './outcomes/measures.ts';
import { outcomesHandlers } from './outcomes/routes.ts';
import { serveWidget } from './outcomes/widget.ts';
import { papersHandlers } from './papers/routes.ts';
import { photoHandlers } from './pictures/photos.ts';
import { picturesHandlers } from './pictures/routes.ts';
import { placesHandlers } from './places/routes.ts';
import { proposalsHandlers } from './proposals/routes.ts';
import { receiptsHandlers } from './receipts/routes.ts';
import { listHandlers } from './records/lists.ts';
import { recordsHandlers } from './records/routes.ts';
import { acceptingHandlers } from './registration/accepting.ts';
import { guestListHandlers } from './registration/guestLists.ts';
import { questionSetHandlers } from './registration/questionSets.ts';
import { registrationHandlers } from './registration/routes.ts';
import { reportsHandlers } from './reports/routes.ts';
import { invitedHandlers } from './seats/invitations.ts';
import { seatsHandlers } from './seats/routes.ts';
import { seriesHandlers } from './series/routes.ts';
import { type DemoSignIn, staffHandlers } from './staff/routes.ts';
import { staffOf } from './staff/sessions.ts';
import { theOrganization } from './staff/store.ts';
import { eventsHandlers } from './stages/routes.ts';
import { searchHandlers } from './stages/searching.ts';
import { surveysHandlers } from './surveys/routes.ts';
import { thanksHandlers } from './thanks/routes.ts';
import { timeHandlers } from './time/routes.ts';
import { waiversHandlers } from './waivers/routes.ts';

export interface ServerOptions {
  runner: () => Runner;
  demoSignIns: readonly DemoSignIn[];
  /** The folder of the built web application; null while developing, when Vite serves it. */
  dist: string | null;
  /** Writes a public caller may make in a minute, and tries to sign in. */
  limits: { publicWrites: number; signIns: number };
  /** Proxies in front whose word about the caller's address is taken: how many, or their addresses. */
  proxies?: number | string | false | undefined;
}

/** Puts the whole HTTP side together. */
export function makeServer(app: App, options: ServerOptions): Express {
  const handlers: AllHandlers = {
    ...staffHandlers(options.demoSignIns),
    ...backupHandlers,
    ...timeHandlers(options.runner),
    ...contactsHandlers,
    ...listHandlers,
    ...photoHandlers,
    ...searchHandlers,
    ...tiesHandlers,
    ...viewsHandlers,
    ...mailingsHandlers,
    ...fieldsHandlers,
    ...questionSetHandlers,
    ...importsHandlers,
    ...pairsHandlers,
    ...ownHandlers,
    ...mineHandlers,
    ...eventsHandlers,
    ...changesHandlers,
    ...seriesHandlers,
    ...picturesHandlers,
    ...placesHandlers,
    ...clearanceHandlers,
    ...papersHandlers,
    ...agendaHandlers,
    ...proposalsHandlers,
    ...dutiesHandlers,
    ...kindsHandlers,
    ...rolesHandlers,
    ...applyingHandlers,
    ...depositsHandlers,
    ...fillingHandlers,
    ...steppingInHandlers,
    ...servingHandlers,
    ...crewMailHandlers,
    ...swappingHandlers,
    ...filesHandlers,
    ...registrationHandlers,
    ...guestListHandlers,
    ...acceptingHandlers,
    ...seatsHandlers,
    ...invitedHandlers,
    ...exchangingHandlers,
    ...waiversHandlers,
    ...moneyHandlers,
    ...cardsHandlers,
    ...eventAccountHandlers,
    ...givingHandlers,
    ...receiptsHandlers,
    ...bankHandlers,
    ...crewHandlers,
    ...messagesHandlers,
    ...followingHandlers,
    ...boardHandlers,
    ...noticesHandlers,
    ...incomingHandlers,
    ...lettersHandlers,
    ...yearRoundHandlers,
    ...attendanceHandlers,
    ...doorsHandlers,
    ...surveysHandlers,
    ...lessonsHandlers,
    ...measuresHandlers,
    ...outcomesHandlers,
    ...initiativesHandlers,
    ...archiveHandlers,
    ...thanksHandlers,
    ...recordsHandlers,
    ...reportsHandlers,
  };
  const server = express();
  server.disable('x-powered-by');
  // Who calls is read from a proxy’s header only where a proxy is said to be there.
  server.set('trust proxy', options.proxies ?? false);
  server.set('query parser', 'simple');
  server.use((request, response, next) => {
    response.locals.requestId = randomUUID();
    response.locals.nonce = randomBytes(12).toString('base64');
    response.set('x-request-id', response.locals.requestId);
    const began = process.hrtime.bigint();
    response.on('finish', () => {
      // The route's pattern, never the path: paths hold links that are as good as passwords.
      const route = request.route?.path ?? (request.path.startsWith('/api/') ? 'unknown' : 'page');
      app.log.info(
        {
          requestId: response.locals.requestId,
          method: request.method,
          route,
          status: response.statusCode,
          ms: Number((process.hrtime.bigint() - began) / 1_000_000n),
        },
        'request',
      );
    });
    next();
  });
  server.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: [
            "'self'",
            (_, response) => `'nonce-${(response as unknown as { locals: { nonce: string } }).locals.nonce}'`,
          ],
          frameSrc: ["'self'", ...embedHosts.map((host) => `https://${host}`)],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          manifestSrc: ["'self'"],
          workerSrc: ["'self'"],
          mediaSrc: ["'self'", 'blob:'],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          // A preview is looked at beside the plan, and the calendar is made to stand in other pages; nothing else stands in a frame.
          frameAncestors: [
            (request) =>
              previewPath.test(request.url ?? '')
                ? "'self'"
                : embedPath.test(request.url ?? '')
                  ? '*'
                  : "'none'",
          ],
        },
      },
      strictTransportSecurity: app.origin.startsWith('https:'),
      referrerPolicy: { policy: 'same-origin' },
    }),
  );
  server.use((request, response, next) => {
    if (embedPath.test(request.url)) response.removeHeader('x-frame-options');
    if (previewPath.test(request.url)) response.set('x-robots-tag', 'noindex');
    response.set('permissions-policy', 'camera=(self), microphone=(), geolocation=(self)');
    next();
  });
  server.get('/healthz', async (_, response) => {
    await app.db.query('select 1');
    response.json({ healthy: true, now: app.clock.now() });
  });
  server.get('/api/openapi.json', (_, response) => {
    response.json(describeApi(everything, app.origin));
  });
  serveFrame(server);
  // Only where it was said to lead: nobody is sent anywhere else from here.
  server.get('/l/:token', async (request, response) => {
    const url = await followCounted(app.db, String(request.params.token));
    if (url) response.set('cache-control', 'no-store').redirect(302, url);
    else response.status(404).type('text').send('Not here.');
  });
  serveWidget(server, app);
  backupCommands(server, app);
  server.use(refuseUnknownHosts(app));
  // The doors can be put on the first screen of a phone.
  server.get('/doors.webmanifest', async (_, response) => {
    const { name } = await theOrganization(app.db);
    response.type('application/manifest+json').send(
      JSON.stringify({
        name: `${name}: doors`,
        short_name: 'Doors',
        start_url: '/doors',
        scope: '/doors',
        display: 'standalone',
        background_color: '#FAF7F1',
        theme_color: '#1C665F',
        icons: [{ src: '/doors-icon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      }),
    );
  });
  server.get('/doors-icon.svg', (_, response) => {
    response
      .type('image/svg+xml')
      .send(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 64 64'><path fill='#FAF7F1' d='M0 0h64v64H0z'/><path fill='none' stroke='#1C665F' stroke-width='5' d='M18 54V14h28v40M12 54h40'/><circle cx='39' cy='35' r='3' fill='#1C665F'/></svg>",
      );
  });
  server.use('/api', refuseOtherOrigins(app));
  const limit = (max: number, skipSuccessfulRequests = false) =>
    rateLimit({
      windowMs: 60_000,
      limit: max,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      skipSuccessfulRequests,
      skip: (request) => request.method === 'GET',
      handler: (_, __, next) => next(refused('too-many', {}, 429)),
    });
  server.use(
    ['/api/sign-in', '/api/public/sign-in', '/api/setup', '/api/invitations', '/api/password-resets'],
    limit(options.limits.signIns),
  );
  // Looking at pages takes nothing from what the same address may book: it is counted apart.
  const looks = limit(options.limits.publicWrites);
  const writes = limit(options.limits.publicWrites);
  // A processor has as much to tell as happens; who is none does not get far.
  const notices = limit(options.limits.publicWrites, true);
  server.use('/api/public', (request, response, next) =>
    (request.path === '/card-notifications' ? notices : request.path.endsWith('/seen') ? looks : writes)(
      request,
      response,
      next,
    ),
  );
  server.use('/api', (_, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  server.use(inTheirLanguage);
  server.use(routesOf(app, everything, handlers, (request) => staffOf(app, request)));
  server.use('/api', (_, __) => {
    throw refused('nothing-here', {}, 404);
  });
  if (options.dist) {
    const dist = options.dist;
    // The service worker of the doors stands among the scripts, and looks after their pages alone.
    server.use('/assets', (_, response, next) => {
      response.set('service-worker-allowed', '/doors');
      next();
    });
    // What every visitor is sent alike travels packed, as the build left it beside each file; answers of the API hold
    // secrets and do not.
    server.use(
      '/assets',
      packedFiles(join(dist, 'assets'), {
        enableBrotli: true,
        orderPreference: ['br', 'gz'],
        index: false,
        serveStatic: { immutable: true, maxAge: '1y' },
      }),
    );
    server.use('/assets', (_, response) => {
      response.status(404).type('text').send('Not here.');
    });
    if (!existsSync(join(dist, 'app.html')))
      throw new Error('The web application is not built. Run “npm run build”.');
    const page = makePages(app, handlers, dist);
    server.get('/{*path}', async (request, response) => {
      await inTurn(app, request, response, null, async () => {
        const { status, html, to } = await page(
          request.path,
          response.locals.nonce,
          firstReadIn(request),
          request,
        );
        if (to) response.redirect(status, to);
        else response.status(status).set('cache-control', 'no-store').type('html').send(html);
      });
    });
  }
  server.use(problems(app));
  return server;
}

const previewPath = /^\/p\//u;
/** The calendar without scripts, for other sites. */
const embedPath = /^\/embed(?:\?|$)/u;

/** The language a page is first read in: what its address says, else what the browser asks for. */
const firstReadIn = (request: Request): Language => {
  const said = request.query.lang;
  return said === 'en' || said === 'fr' ? said : languageOf(request);
};

/** Answers every error as problem+json. Only unexpected ones are logged, without what was sent. */
function problems(app: App): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = asProblem(error);
    if (problem.status >= 500)
      app.log.error(
        {
          requestId: response.locals.requestId,
          error: error instanceof Error ? error.message : String(error),
          stack: error instanceof Error ? error.stack : undefined,
        },
        'request failed',
      );
    response
      .status(problem.status)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: `about:blank#${problem.code}`,
          title: problem.title,
          status: problem.status,
          code: problem.code,
          requestId: response.locals.requestId,
          ...(Object.keys(problem.params).length ? { params: problem.params } : {}),
          ...(problem.fields.length ? { fields: problem.fields.map(answeredField) } : {}),
        }),
      );
  };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const known = error as { type?: string; status?: number; code?: string };
  if (known.type === 'entity.too.large') return refused('too-large', {}, 413);
  if (known.type === 'entity.parse.failed') return refused('not-json', {}, 400);
  if (error instanceof URIError) return refused('nothing-here', {}, 404);
  // A promise the database keeps was about to be broken; nothing of the request was done.
  if (known.code === '23505') return refused('exists', {}, 409);
  if (known.code?.startsWith('23')) return refused('contradicts', {}, 409);
  // A value the database cannot hold: a figure or a date out of range, a character it does not know.
  if (known.code?.startsWith('22')) return refused('out-of-range', {}, 422);
  if (typeof known.status === 'number' && known.status >= 400 && known.status < 500)
    return refused('bad-request', {}, known.status);
  return refused('unexpected', {}, 500);
}
