import { type Logger, pino } from 'pino'

/** One JSON object a line, for whatever collects them; `ROVANT_LOG` says from which level on, `info` tells every request. */
export const newLog = (): Logger =>
  pino({ level: process.env['ROVANT_LOG'] ?? 'warn', base: null, timestamp: pino.stdTimeFunctions.isoTime })
