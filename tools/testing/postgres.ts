import type { TestProject } from 'vitest/node'
import './context'
import { dropCluster, startPostgres } from '../postgres.mjs'

/** One fresh cluster for a run of tests, made for speed and thrown away after. */
export default async function setup(project: TestProject): Promise<() => void> {
  const name = `test-${process.pid}-${project.name}`
  const postgres = await startPostgres(name, {
    flags: ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off', 'max_connections=200'],
  })
  project.provide('databaseUrl', postgres.url)
  return () => dropCluster(name)
}
