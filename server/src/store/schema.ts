// All tables: what is in a project, and what was done with it
export * from './schemaEnums'
export * from './schemaAssets'
export * from './schemaActs'
