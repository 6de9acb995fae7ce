/**
 * Raised when reading into, or writing out of, the work of a recipe gives other bytes of the same steps: outputs
 * made by an older version are then made anew. What a single remedy does has its own version.
 */
export const WORK_VERSION = 1
