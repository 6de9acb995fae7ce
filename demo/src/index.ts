export * from './makeDemo'
export * from './plantedFaults'
