import { expect, it } from 'vitest'
import { crateFiles } from '../../fixtures/crateFixture'
import { subjectsOf } from '../../fixtures/measureFixture'
import { judge } from '../../judge/judge'
import type { Rule } from '../defineRule'
import { caseCollision } from './caseCollision'

it('another asset of the project whose name differs in case alone is told', async () => {
  const [subject] = await subjectsOf(await crateFiles({ name: 'harbour_crate_a' }))
  const among = (...taken: string[]) =>
    judge({ ...subject!, naming: { ...subject!.naming, taken: new Set(taken) } }, [
      caseCollision as unknown as Rule,
    ]).findings.map((f) => [f.message, f.data])
  expect(among('harbour_crate_a', 'Harbour_Crate_A')).toEqual([['project', { other: 'Harbour_Crate_A' }]])
  expect(among('harbour_crate_a', 'harbour_crate_b')).toEqual([])
})
