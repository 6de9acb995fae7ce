import * as z from 'zod'

const seconds = (least: number, most: number) => z.coerce.number().min(least).max(most)

/**
 * Settings of the server, from the environment. Every one has a default, threads by the machine; unknown
 * variables are left alone.
 */
export const settingsSchema = z.object({
  STERN_HOST: z.string().default('127.0.0.1').describe('address to listen on'),
  STERN_PORT: z.coerce
    .number()
    .int()
    .min(0)
    .max(65535)
    .default(4520)
    .describe('port to listen on; a taken one is stepped over'),
  STERN_DATABASE_URL: z
    .string()
    .default('')
    .describe('PostgreSQL connection; empty: a private one on loopback is made and started'),
  STERN_DATA: z.string().default('.stern').describe('folder for the store, the private database and logs'),
  STERN_THREADS: z.coerce
    .number()
    .int()
    .min(1)
    .max(64)
    .default(2)
    .describe(
      'worker threads that measure and mend; without a word one more than there are cores, 9 at the most',
    ),
  STERN_FILE_SECONDS: seconds(1, 3600).default(120).describe('time limit for one file, in seconds'),
  STERN_FILE_MEMORY_MB: z.coerce
    .number()
    .int()
    .min(128)
    .max(65536)
    .default(3072)
    .describe('memory limit for one worker thread, in MB'),
  STERN_UPLOAD_MAX_MB: z.coerce
    .number()
    .int()
    .min(1)
    .max(1048576)
    .default(4096)
    .describe('largest file taken in, in MB'),
  STERN_STALL_SECONDS: seconds(1, 3600)
    .default(60)
    .describe('an upload that sends nothing for so long is ended, in seconds'),
  STERN_NAMES: z
    .string()
    .default('')
    .describe(
      'names and addresses under which the server is reached, with commas; loopback and STERN_HOST need not be named',
    ),
  STERN_LOG: z
    .enum(['silent', 'error', 'warn', 'info', 'debug'])
    .default('info')
    .describe('how much is logged'),
})
export type Settings = z.infer<typeof settingsSchema>
