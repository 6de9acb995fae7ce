export const isPowerOfTwo = (n: number): boolean => n > 0 && (n & (n - 1)) === 0
