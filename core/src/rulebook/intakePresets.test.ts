import { expect, it } from 'vitest'
import type { IntakePreset } from '@stern-gate/contract'
import { intakePresets, suggestedPreset } from './intakePresets'

const preset = (name: string, folder: string, generator = ''): IntakePreset => ({
  name,
  folder,
  generator,
  options: {},
  mend: false,
  apart: null,
  absent: 'ask',
})

it('presets are listed by name', () => {
  const { name: _, ...way } = preset('', 'scan')
  expect(intakePresets({ intake: { yard: way, boats: way } }).map((p) => p.name)).toEqual(['boats', 'yard'])
})

it('of several presets that fit the narrowest is suggested, by folder or by generator; one that says neither never is', () => {
  const presets = [
    preset('any', '', ''),
    preset('wide', 'scan'),
    preset('narrow', 'scans/yard'),
    preset('writer', '', 'rock writer 2'),
  ]
  expect(suggestedPreset(presets, ['in/scans/yard/a.glb'], ['x'])?.name).toBe('narrow')
  expect(suggestedPreset(presets, ['Scans/a.glb'], [])?.name).toBe('wide')
  expect(suggestedPreset(presets, ['a.glb'], ['Rock Writer 2.4'])?.name).toBe('writer')
  expect(suggestedPreset(presets, ['scan.glb'], ['other'])).toBeNull()
})
