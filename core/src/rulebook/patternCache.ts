import { compilePattern } from './pattern'
import { remembered } from '../caching/remembered'

/** compilePattern, remembered: judging asks for the same few patterns thousands of times. */
export const patternOf = remembered(500, compilePattern)
