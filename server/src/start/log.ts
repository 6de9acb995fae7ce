import { pino, stdSerializers, type Logger } from 'pino'

/** The log of a process: one JSON line each, errors with their stacks. */
export const createLog = (level: string): Logger =>
  pino({ level, serializers: { error: stdSerializers.err } })
