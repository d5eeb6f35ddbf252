import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { CoreError } from '../core/errors';
import type { AppDeps } from './deps';
import { toAnswer } from './errors';
import { brandRoutes } from './routes/brands';
import { bundleRoutes } from './routes/bundles';
import { deliveryRoutes } from './routes/deliveries';
import { healthRoutes } from './routes/health';
import { historyRoutes } from './routes/history';
import { liveRoutes, openLiveRoutes } from './routes/live';
import { markRoutes } from './routes/marks';
import { pdfRoutes } from './routes/pdfs';
import { peopleRoutes, signInRoutes } from './routes/people';
import { pictureRoutes } from './routes/pictures';
import { placementRoutes } from './routes/placements';
import { printRoutes } from './routes/print';
import { openProofRoutes, proofRoutes } from './routes/proofs';
import { staticRoutes } from './routes/static';
import { wallRoutes } from './routes/walls';

/** What the log calls a request. */
interface Named {
  request: string;
}

/** The whole server as one function from request to response. */
export function createApp(deps: AppDeps): Hono<{ Variables: Named }> {
  const app = new Hono<{ Variables: Named }>();
  // First, and with headers of their own: other sites show these files, many times a second.
  app.route('/', openLiveRoutes(deps));
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        // The second allows WebAssembly and nothing else: scripts still come from here alone.
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        mediaSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        fontSrc: ["'self'", 'data:'],
        workerSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
      },
      xFrameOptions: 'DENY',
      // Without it a browser would not say either that a form of our own page is ours.
      referrerPolicy: 'same-origin',
      // With the opener policy, which is on by itself: a page cut off from others may share memory with its worker.
      crossOriginEmbedderPolicy: true,
    }),
  );
  app.use(async (c, next) => {
    const id = randomBytes(6).toString('hex');
    const begun = performance.now();
    c.set('request', id);
    c.header('X-Request-Id', id);
    await next();
    const ms = Math.round(performance.now() - begun);
    deps.log.info({ request: id, method: c.req.method, path: c.req.path, status: c.res.status, ms }, 'request');
  });
  // What stands before the door is open to everybody; whatever comes after it is not.
  app.route('/', openProofRoutes(deps));
  app.route('/', signInRoutes(deps));
  if (deps.door) app.use(deps.door.guard);
  app.use('/api/*', async (c, next) => {
    checkOrigin({
      ...{ method: c.req.method, host: c.req.header('host'), origin: c.req.header('origin') },
      ...{ site: c.req.header('sec-fetch-site'), isGuarded: deps.door !== null },
    });
    c.header('Cache-Control', 'no-store');
    await next();
  });
  app.route('/', brandRoutes(deps));
  app.route('/', markRoutes(deps));
  app.route('/', pdfRoutes(deps));
  app.route('/', pictureRoutes(deps));
  app.route('/', deliveryRoutes(deps));
  app.route('/', placementRoutes(deps));
  app.route('/', printRoutes(deps));
  app.route('/', wallRoutes(deps));
  app.route('/', bundleRoutes(deps));
  app.route('/', liveRoutes(deps));
  app.route('/', proofRoutes(deps));
  app.route('/', peopleRoutes(deps));
  app.route('/', historyRoutes(deps));
  app.route('/', healthRoutes(deps));
  app.all('/api/*', () => {
    throw new CoreError('store/not-found', 'There is no such address.');
  });
  if (deps.webDir) app.route('/', staticRoutes(deps.webDir));
  app.onError((error, c) => {
    const request = c.get('request');
    const { status, body } = toAnswer(error, request);
    if (status === 503) deps.log.warn({ request, err: error, path: c.req.path }, 'the database is away');
    else if (status >= 500) deps.log.error({ request, err: error, path: c.req.path }, 'request failed');
    if (status === 503) c.header('Retry-After', '2');
    return c.json(body, status);
  });
  return app;
}

interface Asked {
  readonly method: string;
  readonly host: string | undefined;
  readonly origin: string | undefined;
  readonly site: string | undefined;
  /** Behind the door a strict cookie tells who asks, which no other site's page brings along. */
  readonly isGuarded: boolean;
}

/**
 * Changes come only from our own pages: a request that another site started is refused. A page of another site can
 * also reach us through a name that it points at this machine, so on loopback reading asks for a loopback host too.
 */
function checkOrigin({ method, host, origin, site, isGuarded }: Asked): void {
  const isRead = method === 'GET' || method === 'HEAD';
  const name = (host ?? '').replace(/:\d+$/, '');
  const isKnown = isGuarded || ['127.0.0.1', 'localhost', '[::1]'].includes(name);
  const isSame = origin === undefined || origin === `http://${host}` || origin === `https://${host}`;
  if (!isKnown || (!isRead && (!isSame || site === 'cross-site')))
    throw new CoreError('request/forbidden-origin', 'This request came from another site and was refused.');
}
