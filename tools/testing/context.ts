declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string
  }
}

export {}
