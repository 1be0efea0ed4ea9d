import path from 'node:path';
import { existsSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import express, { type Express } from 'express';
import helmet from 'helmet';
import { api } from './api';
import { receiver, slugOf, type IntakeParts } from './intake';
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
  app.use('/api', api(services));
  app.get('/copies/:id/:name', services.copies.serve);
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

/** One HTTP server for intakes, API and interface. */
export function httpServer(services: Services, intake: IntakeParts): Server {
  const app = application(services);
  const receive = receiver(intake);
  return createServer((request, response) => {
    if (slugOf(request.url ?? '/') !== null) void receive(request, response);
    else app(request, response);
  });
}
