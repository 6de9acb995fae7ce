/**
 * Raised when rules, messages or fingerprints say something else of the same facts: what an older version
 * judged is then judged anew, in the background.
 */
export const JUDGE_VERSION = 14
