import path from 'node:path';
import { existsSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import compression from 'compression';
import express, { type Express, type Response } from 'express';
import helmet from 'helmet';
import { takeConsent } from './acts';
import { api } from './api';
import { receiver, slugOf, type IntakeParts } from './intake';
import { boundConnections } from './connections';
import type { Services } from './services';

/** The interface and its API. Intake requests do not come here: they go their own, shorter way. */
function application(services: Services): Express {
  const { webDir } = services.config;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: services.config.publicUrl.startsWith('https:'),
      crossOriginOpenerPolicy: false,
    }),
  );
  // A stream of events must not wait until there is enough to compress.
  const isStream = (response: Response) => String(response.getHeader('content-type')).startsWith('text/event-stream');
  app.use(compression({ filter: (request, response) => !isStream(response) && compression.filter(request, response) }));
  app.use('/api', api(services));
  app.get('/copies/:id/:name', services.copies.serve);
  // Whoever comes back from a provider shows by the state that they were sent there.
  app.get('/consent', async (request, response) => {
    const query = new URL(request.originalUrl, 'http://localhost').searchParams;
    const came = await takeConsent(services, query);
    if (!came)
      return void response
        .status(400)
        .type('text/plain')
        .send('No consent request is open, or it took too long. Start again on the target’s page.');
    const outcome = came.fault === null ? 'given' : 'refused';
    const why = came.fault === null ? '' : `&why=${encodeURIComponent(came.fault.slice(0, 300))}`;
    response.redirect(303, `/targets/${came.targetId}?consent=${outcome}${why}`);
  });
  if (webDir && existsSync(webDir)) {
    app.use(
      express.static(webDir, {
        index: false,
        setHeaders: (response, file) =>
          response.setHeader(
            'cache-control',
            file.includes(`${path.sep}assets${path.sep}`) ? 'public, max-age=31536000, immutable' : 'no-cache',
          ),
      }),
    );
    app.get('/{*place}', (_request, response) =>
      response.set('cache-control', 'no-cache').sendFile(path.join(webDir, 'index.html')),
    );
  } else if (webDir) {
    app.get('/{*place}', (_request, response) => {
      response
        .status(503)
        .type('text/plain')
        .send('The interface is not built. Run “npm run build”, then load this again.');
    });
  }
  return app;
}

/** ms in which the head of a request has to come, and the whole of it. */
const LONGEST_HEAD = 20_000;
const LONGEST_REQUEST = 15 * 60_000;
/**
 * ms for which a connection is kept between requests. Longer than proxies keep theirs (60 s, common practice, no source):
 * whoever reuses a connection is the one that closes it, so nobody sends on one that ends at that moment.
 */
const KEPT_OPEN = 75_000;

/** One HTTP server for intakes, API and interface. */
export function httpServer(services: Services, intake: IntakeParts): Server {
  const app = application(services);
  const receive = receiver(intake);
  const server = createServer(
    {
      headersTimeout: LONGEST_HEAD,
      requestTimeout: LONGEST_REQUEST,
      keepAliveTimeout: KEPT_OPEN,
      connectionsCheckingInterval: 5000,
    },
    (request, response) => {
      // Whoever goes away in the middle is nobody's trouble.
      response.on('error', error => services.log.debug({ err: error }, 'an answer broke off'));
      if (slugOf(request.url ?? '/') !== null) void receive(request, response);
      else app(request, response);
    },
  );
  const bounds = boundConnections(server, { ...services, isProxy: services.entrance.isProxy });
  server.once('close', () => bounds.stop());
  server.on('clientError', (_error, socket) => {
    if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n');
    else socket.destroy();
  });
  server.on('dropRequest', () => services.log.warn('too many connections at once; some were not taken'));
  return server;
}
