/** Version of Stern Gate; the root package.json says the same, and a test holds them together. */
export const applicationVersion = '0.1.0'
