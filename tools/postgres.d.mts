/** Starts a private PostgreSQL on loopback; see postgres.mjs. */
export function startPostgres(name: string, options?: { flags?: string[] }): Promise<{ url: string }>
/** Stops it and throws its data away. */
export function dropCluster(name: string): void
