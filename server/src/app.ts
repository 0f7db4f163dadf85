import { existsSync } from 'node:fs'
import { join } from 'node:path'
import compression from 'compression'
import express, { type ErrorRequestHandler, type Express } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import type { Sequelize } from 'sequelize'
import { allowedHosts, guard } from './access/guard.ts'
import { requestLog } from './access/request-log.ts'
import type { AccessSettings } from './access/settings.ts'
import { signedIn } from './access/sign-in.ts'
import { isDatabaseAway, isDiskFull } from './database-errors.ts'
import type { CameraReach } from './machines/camera.ts'
import type { Desks } from './machines/desks.ts'
import { Refusal } from './refusal.ts'
import { assetRoutes } from './routes/assets.ts'
import { cameraRoutes } from './routes/cameras.ts'
import { catalogueRoutes } from './routes/catalogue.ts'
import { descriptionRoutes } from './routes/description.ts'
import { fontRoutes } from './routes/fonts.ts'
import { healthRoutes } from './routes/health.ts'
import { importRuleRoutes } from './routes/import-rules.ts'
import { jobRoutes } from './routes/jobs.ts'
import { libraryRoutes } from './routes/library.ts'
import { machineRoutes } from './routes/machines.ts'
import { peopleRoutes } from './routes/people.ts'
import { rateRoutes } from './routes/rates.ts'
import { runRoutes } from './routes/runs.ts'
import { sessionRoutes } from './routes/session.ts'
import { stockRoutes } from './routes/stock.ts'
import type { Work } from './work/work.ts'

export interface AppSettings {
  readonly sequelize: Sequelize
  readonly log: Logger
  readonly desks: Desks
  readonly work: Work
  readonly access: AccessSettings
  /** Cameras that ship with the application, by the machine that they hang over. */
  readonly cameras?: ReadonlyMap<string, CameraReach>
  /** Folder of the built page; left out where another server serves it. */
  readonly page?: string
}

/** The server without a port. It keeps nothing between requests: several can stand on one database. */
export function createApp({ sequelize, log, desks, work, access, cameras = new Map(), page }: AppSettings): Express {
  const app = express()
  app.disable('x-powered-by')
  if (access.proxied) app.set('trust proxy', 1)
  app.use(requestLog(log))
  app.use(
    helmet({
      strictTransportSecurity: false,
      // Shared memory, for cancelling work in progress, needs both.
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          // The core's kernels are WebAssembly.
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'worker-src': ["'self'", 'blob:'],
          'img-src': ["'self'", 'data:', 'blob:'],
          'style-src': ["'self'", "'unsafe-inline'"],
          'font-src': ["'self'"],
          'connect-src': ["'self'", 'ws:', 'wss:'],
          'object-src': ["'none'"],
          'base-uri': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
    }),
  )
  app.use(
    compression({
      filter: (request, response) => !request.path.startsWith('/api/assets/') && compression.filter(request, response),
    }),
  )
  app.use(guard(allowedHosts(access.hosts)))
  app.use(
    '/api',
    signedIn(desks, access.shopKey),
    healthRoutes(sequelize),
    descriptionRoutes(),
    sessionRoutes(access),
    peopleRoutes(),
    assetRoutes(work),
    catalogueRoutes(),
    fontRoutes(),
    importRuleRoutes(),
    jobRoutes(work),
    libraryRoutes(work),
    cameraRoutes(desks, cameras),
    machineRoutes(desks, work),
    runRoutes(desks, work),
    stockRoutes(work),
    rateRoutes(),
  )
  app.use('/api', () => {
    throw new Refusal(404, 'no-route', 'There is nothing at this address.')
  })
  if (page && existsSync(join(page, 'index.html'))) {
    app.use(
      express.static(page, {
        index: false,
        setHeaders: (response, path) =>
          response.set('Cache-Control', path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache'),
      }),
    )
    // The board asks for its list first: it is under way while the page is read.
    app.get(['/', '/jobs'], (_request, response, next) => {
      response.set('Link', '</api/jobs?search=>; rel=preload; as=fetch; crossorigin=anonymous')
      next()
    })
    app.get('/{*path}', (_request, response) => response.set('Cache-Control', 'no-cache').sendFile(join(page, 'index.html')))
  }
  app.use(answerErrors(log))
  return app
}

const answerErrors =
  (log: Logger): ErrorRequestHandler =>
  (error, _request, response, next) => {
    if (response.headersSent) return next(error)
    if (error instanceof Refusal) return response.status(error.status).json({ code: error.code, message: error.message })
    if (error?.type === 'entity.too.large')
      return response.status(413).json({ code: 'too-large', message: 'The file is too large.' })
    if (error?.type === 'entity.parse.failed')
      return response.status(400).json({ code: 'bad-request', message: 'The request is not JSON.' })
    if (typeof error?.status === 'number' && error.status < 500)
      return response.status(error.status).json({ code: 'bad-request', message: 'The request cannot be understood.' })
    log.error({ err: error }, 'request failed')
    if (isDiskFull(error))
      return response.status(507).json({
        code: 'disk-full',
        message: 'The disk of the server is full: nothing more can be kept until there is room on it. Nothing was changed.',
      })
    const away = isDatabaseAway(error)
    return response.status(away ? 503 : 500).json({
      code: away ? 'database-away' : 'failed',
      message: away
        ? 'The database is away. Nothing was changed; it will be tried again.'
        : 'Something went wrong on the server. Nothing was changed.',
    })
  }
