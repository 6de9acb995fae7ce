import { bad, type Fault } from '@stern-gate/contract'
import { findRemedy } from '@stern-gate/core'
import type { Task } from './tasks'

/** Bytes from which on a file may take all of its time. */
const LARGE = 25e6
/** A small file may take so much of it: a decoder that runs wild in one holds a thread the less long. */
const LEAST_SHARE = 3 / 8
/** Steps that try many ways – levels, hulls, a layout of UVs – may each take as long as half a large file. */
const SLOW_STEP = 1 / 2
/** Encoding and searching take longest: small blocks are looked for, texel by texel. */
const ENCODING = 5
/** A picture is decoded and shrunk, and nothing is measured. */
const PICTURE = 1 / 2

/** What a task is called where it took too long. */
const words: Record<Task['kind'], string> = {
  measure: 'Measuring it',
  validate: 'Looking through it by the standard',
  mend: 'Making the output',
  stage: 'Putting together what the stage draws',
  picture: 'Decoding the picture',
  used: 'Measuring what islands use of it',
  encode: 'Encoding it',
  search: 'Looking for the smallest format',
  'stored-error': 'Measuring what its format loses',
  apart: 'Taking it apart',
  'draw-parts': 'Drawing its parts',
}

/**
 * Seconds that a task may take from where a thread takes it up, given those of a large file (STERN_FILE_SECONDS) and,
 * where it is about one file, its bytes. Each kind of task has its own: what is slow by nature is not stopped, and
 * what is quick by nature does not hold a thread for minutes.
 */
export function timeLimit(task: Task, secondsPerFile: number, sizeBytes = LARGE): number {
  return secondsPerFile * shareOf(task, sizeBytes)
}

function shareOf(task: Task, sizeBytes: number): number {
  switch (task.kind) {
    case 'measure':
    case 'validate':
      return Math.min(1, LEAST_SHARE + ((1 - LEAST_SHARE) * sizeBytes) / LARGE)
    case 'mend':
      return 1 + SLOW_STEP * task.recipe.steps.filter(({ remedy }) => findRemedy(remedy)?.isSlow).length
    case 'encode':
    case 'search':
      return ENCODING
    case 'picture':
      return PICTURE
    case 'used':
    case 'stored-error':
    case 'stage':
    case 'apart':
    case 'draw-parts':
      return 1
  }
}

/** The fault of a task that was stopped. */
export const tooSlow = ({ kind }: Task, seconds: number): { ok: false; fault: Fault } =>
  bad(
    'file/timeout',
    `${words[kind]} was not done within ${Math.round(seconds)} s and was stopped.`,
    'Split the file, or raise the time limit (STERN_FILE_SECONDS).',
  )
