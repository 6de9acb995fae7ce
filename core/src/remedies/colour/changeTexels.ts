import { good, type Outcome, type StepResult } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import type { RemedyPorts } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'
import type { Work } from '../work'

type Done = Pick<StepResult, 'changed' | 'said'>

/**
 * Changes the texels of one texture. `cannot` says why nothing is done, by what its header tells; `said` what was done.
 * Faults: no such texture, one that is not decoded or written.
 */
export async function changeTexels(
  work: Work,
  ports: RemedyPorts,
  name: string,
  {
    cannot = () => null,
    change,
    said,
  }: {
    cannot?: (header: { channels: number; depth: number }) => string | null
    change: (pixels: Pixels) => Pixels
    said: (texture: string) => string
  },
): Promise<Outcome<Done>> {
  const opened = openTexture(work, name)
  if (!opened.ok) return opened
  const { texture, header } = opened.value
  const why = cannot(header)
  if (why !== null) return good({ changed: false, said: why })
  const rewritten = await rewritePixels(texture, ports, change)
  return rewritten.ok ? good({ changed: true, said: said(texture.name) }) : rewritten
}
