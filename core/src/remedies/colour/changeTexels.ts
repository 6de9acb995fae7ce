import { good, type Outcome, type StepResult, type TextureHeader } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import type { RemedyPorts } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'
import type { Work } from '../work'

type Done = Pick<StepResult, 'changed' | 'said'>

/**
 * Changes the texels of one texture. `cannot` says why nothing is done, by what its header tells; `change` may find by
 * the texels that nothing is to do, and gives null, for which `kept` has words; `said` what was done. Faults: no such
 * texture, one that is not decoded or written.
 */
export async function changeTexels(
  work: Work,
  ports: RemedyPorts,
  name: string,
  {
    cannot = () => null,
    change,
    said,
    kept = 'it was so already',
  }: {
    cannot?: (header: TextureHeader) => string | null
    change: (pixels: Pixels) => Pixels | null
    said: (texture: string) => string
    kept?: string
  },
): Promise<Outcome<Done>> {
  const opened = openTexture(work, name)
  if (!opened.ok) return opened
  const { texture, header } = opened.value
  const why = cannot(header)
  if (why !== null) return good({ changed: false, said: why })
  const rewritten = await rewritePixels(texture, ports, change)
  if (!rewritten.ok) return rewritten
  return good(rewritten.value ? { changed: true, said: said(texture.name) } : { changed: false, said: kept })
}
