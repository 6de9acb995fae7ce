/** Version of stern-gate; the root package.json says the same, and a test holds them together. */
export const version = '0.1.0'
