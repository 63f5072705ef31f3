import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { constants } from 'node:zlib';
import { msg } from '@kestfog/core/words';
import { ConsoleLogger, type LoggerService, ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import compression from 'compression';
import { json, type NextFunction, type Request, type Response, raw } from 'express';
import helmet from 'helmet';
import { AppModule } from './app.module.js';
import { ARCHIVE_MOST_BYTES } from './archive/archive-file.js';
import { migrate } from './data-source.js';
import { deviceGate } from './lan/device-gate.js';
import { DevicesService } from './lan/devices.service.js';
import { asTyped, type Lan } from './lan/lan.js';
import type { Config } from './platform/config.js';
import { ErrorFilter, Refusal, validationSentence } from './platform/errors.js';
import { requestLog } from './platform/request-log.js';
import { refuseDeepJson, refuseUnsoundText } from './platform/sound-body.js';

const WEB_DIST = fileURLToPath(new URL('../../web/dist/', import.meta.url));
const BODY_LIMIT = '2500kb';

/** Everything but listen(); the tests use the same. */
export async function createApp(config: Config): Promise<NestExpressApplication> {
  await migrate(config.databaseUrl);
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config), {
    forceCloseConnections: true,
    bodyParser: false,
    logger: loggerFor(config),
    ...(config.lan?.tls ? { httpsOptions: config.lan.tls.leaf } : {}),
  });
  app.setGlobalPrefix('api');
  app.disable('x-powered-by');
  // On the same machine or in the same house; nobody else's word is taken.
  if (config.isBehindProxy) app.set('trust proxy', ['loopback', 'linklocal', 'uniquelocal']);
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          baseUri: ["'none'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'"],
          fontSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          // What was spoken and waits on the device is played from its own bytes.
          mediaSrc: ["'self'", 'data:'],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
        },
      },
      strictTransportSecurity: false, // plain http on loopback
    }),
  );
  if (config.isShared) app.use(requestLog());
  app.use(ownAddressOnly(config));
  if (config.lan) app.use(deviceGate(config.lan, app.get(DevicesService)));
  app.use('/api', askedForAnew);
  app.use(compressed());
  app.use(pageVersion());
  app.use('/api/archive', raw({ type: 'application/zip', limit: ARCHIVE_MOST_BYTES }));
  app.use(json({ limit: BODY_LIMIT, verify: refuseDeepJson }));
  app.use(refuseUnsoundText);
  app.useGlobalPipes(
    new ValidationPipe({
      whitelist: true,
      forbidNonWhitelisted: true,
      transform: true,
      exceptionFactory: (errors) => new Refusal(400, 'invalid', validationSentence(errors)),
    }),
  );
  app.useGlobalFilters(new ErrorFilter());
  app.enableShutdownHooks();
  servePage(app);
  return app;
}

/** What the kitchen has is kept by no proxy, and by a browser only where it asks whether it is still so; who knows better says so. */
function askedForAnew(_req: Request, res: Response, next: NextFunction): void {
  res.setHeader('Cache-Control', 'private, no-cache');
  next();
}

/** Where somebody watches over several processes, a line of JSON for each thing that happened; in a kitchen, what went wrong, in words. */
function loggerFor({ isShared }: Config): LoggerService {
  return new ConsoleLogger({ logLevels: ['error', 'warn'], ...(isShared ? { json: true, colors: false } : {}) });
}

/** Only its own names are answered, so that no page of another site can reach in by a name of its own. */
function ownAddressOnly({ lan }: Config) {
  const isOwn = ownNames(lan);
  return (req: Request, res: Response, next: NextFunction) => {
    const asked = (req.headers.host ?? '').replace(/:\d+$/, '');
    const { origin } = req.headers;
    if (!isOwn(asked)) return void res.status(403).json({ code: 'host', message: msg`Kestfog answers only to its own address.` });
    // "null" is what sandboxed pages and files say of themselves.
    const from = origin === undefined ? undefined : URL.canParse(origin) ? new URL(origin).host : '';
    if (from !== undefined && req.method !== 'GET' && from !== req.headers.host)
      return void res.status(403).json({ code: 'origin', message: msg`Changes are taken only from Kestfog’s own page.` });
    // Browsers say themselves where a request comes from (W3C, Fetch Metadata Request Headers); pages may be linked to, data may not.
    const site = req.headers['sec-fetch-site'];
    if ((site === 'cross-site' || site === 'same-site') && (req.method !== 'GET' || /^\/api(\/|$)/.test(req.path)))
      return void res.status(403).json({ code: 'origin', message: msg`Only Kestfog’s own page may ask for that.` });
    next();
  };
}

/** Whether a name is one of its own; addresses of a machine change while it runs, so a name that is not known is asked for anew. */
function ownNames(lan: Lan | null): (name: string) => boolean {
  const now = () => new Set(lan ? lan.names().map(asTyped) : ['127.0.0.1', 'localhost', '[::1]']);
  let known = now();
  return (name) => {
    if (!known.has(name) && lan) known = now();
    return known.has(name);
  };
}

/** Answers go out packed, by brotli where the browser takes it; a stream of events must not wait until there is enough to pack. */
function compressed() {
  return compression({
    filter: (req, res) => !String(res.getHeader('Content-Type')).startsWith('text/event-stream') && compression.filter(req, res),
    brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } },
  });
}
/** Near the best there is to be had while somebody waits for it. */
const BROTLI_QUALITY = 5;

/** Says with every answer which page the server has, so that an older one that is open somewhere can say so. */
function pageVersion() {
  const index = join(WEB_DIST, 'index.html');
  const version = existsSync(index) ? /name="kestfog-page" content="([0-9a-f]+)"/.exec(readFileSync(index, 'utf8'))?.[1] : undefined;
  return (_req: Request, res: Response, next: NextFunction) => {
    if (version) res.setHeader('Kestfog-Page', version);
    next();
  };
}

/** The built page: hashed assets never change, everything else is asked for again. */
function servePage(app: NestExpressApplication): void {
  const index = join(WEB_DIST, 'index.html');
  if (!existsSync(index)) return;
  app.useStaticAssets(WEB_DIST, {
    index: false,
    redirect: false,
    setHeaders: (res: Response, path: string) =>
      res.setHeader('Cache-Control', path.startsWith(join(WEB_DIST, 'assets')) ? 'public, max-age=31536000, immutable' : 'no-cache'),
  });
  app.use((req: Request, res: Response, next: NextFunction) => {
    const isPage =
      (req.method === 'GET' || req.method === 'HEAD') &&
      !/^\/api(\/|$)/.test(req.path) &&
      req.accepts('html') &&
      !/\.[a-z0-9]+$/i.test(req.path);
    if (!isPage) return next();
    res.setHeader('Cache-Control', 'no-cache');
    res.sendFile(index);
  });
}
