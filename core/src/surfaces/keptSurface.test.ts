import { describe, expect, it } from 'vitest'
import type { CarriedSetting } from '@stern-gate/contract'
import { keptSurface } from './keptSurface'

const line = (
  setting: CarriedSetting['setting'],
  fate: CarriedSetting['fate'],
  slot = 'pane',
): CarriedSetting => ({ slot, setting, value: '', fate, how: '' })

describe('what a target draws of a slot', () => {
  it('is what the file says where all is kept', () => {
    expect(keptSurface([line('transmission', 'kept'), line('thickness', 'lost', 'other')], 'pane')).toBeNull()
  })
  it('has in the place of what is lost what is drawn there', () => {
    const kept = keptSurface(
      [
        line('transmission', 'lost'),
        line('specular level', 'lost'),
        line('both sides', 'kept'),
        line('sheen', 'lost'),
        line('second layer', 'lost'),
        line('UV channel', 'changed'),
      ],
      'pane',
    )!
    expect(kept.values).toEqual({ transmission: 0, specular: 1, specularColour: '#ffffff' })
    expect([...kept.without]).toEqual(['transmission', 'specular level', 'sheen', 'second layer'])
  })
  it('cuts out what could be neither added nor blended', () => {
    const lines = [line('blending', 'changed'), line('additive blending', 'changed')]
    expect(keptSurface(lines, 'pane')!.values).toEqual({ alpha: 'cutout', cutoff: 0.5 })
    expect(keptSurface(lines.slice(1), 'pane')!.values).toEqual({ alpha: 'blend' })
  })
})
