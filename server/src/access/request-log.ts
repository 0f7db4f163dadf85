import type { Logger } from 'pino'
import { type HttpLogger, pinoHttp } from 'pino-http'

/** Writes down what was asked and what was answered. Headers never: a session is in them. Polls are left out. */
export const requestLog = (log: Logger): HttpLogger =>
  pinoHttp({
    logger: log,
    autoLogging: { ignore: ({ url }) => url === '/api/health' || url === '/api/live' },
    serializers: {
      req: ({ id, method, url, remoteAddress }) => ({ id, method, url, remoteAddress }),
      res: ({ statusCode }) => ({ statusCode }),
    },
  })
