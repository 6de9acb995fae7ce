import { DOMParser } from 'linkedom'
import { ColladaLoader } from 'three/examples/jsm/loaders/ColladaLoader.js'
import { bad, good, type Outcome, type UpAxis } from '@stern-gate/contract'
import { buildContainer, type GltfContainer } from '@stern-gate/core'
import { passedOver } from './passedOver'
import { hearing, innerPictures, keepingPaths } from './quietLoading'
import { withoutStrips } from './triangleStrips'
import { translateScene } from './translateScene'

/** Reads COLLADA 1.4 and 1.5. Faults: mesh/nothing-drawn, mesh/bad-structure. */
export async function readDae(bytes: Uint8Array): Promise<Outcome<GltfContainer>> {
  const text = new TextDecoder().decode(bytes).replace(/[\s\0]+$/, '')
  if (!/<COLLADA[\s>]/i.test(text))
    return bad(
      'mesh/bad-structure',
      'The XML has no COLLADA element.',
      'Export it again; it is something else, or cut short.',
    )
  if (!/<\/COLLADA>\s*$/i.test(text))
    return bad(
      'mesh/truncated',
      'The XML breaks off before </COLLADA>.',
      'Export or copy it again: the transfer broke off.',
      { offset: bytes.length },
    )
  const head = text.slice(0, 65_536)
  const meter = Number(/<unit\b[^>]*\bmeter\s*=\s*"([^"]+)"/i.exec(head)?.[1] ?? NaN)
  const axis = /<up_axis>\s*([XYZ])_UP/i.exec(head)?.[1]?.toLowerCase() as UpAxis | undefined
  const { value, said } = withDomParser(() =>
    hearing(() => keepingPaths(() => new ColladaLoader().parse(withoutStrips(text), ''))),
  )
  if (!value?.scene)
    return bad('mesh/bad-structure', 'The COLLADA cannot be put together.', 'Export it again; it is damaged.')
  const unitMetres = meter > 0 && Number.isFinite(meter) ? meter : null
  const scene = translateScene(value.scene.children, value.scene.animations, {
    metres: unitMetres ?? 1,
    upAxis: axis ?? 'y',
  })
  if (!scene.drawn)
    return bad('mesh/nothing-drawn', 'The COLLADA holds no triangle.', 'Export it with its meshes.')
  return good(
    buildContainer({
      format: 'dae',
      generator: /<authoring_tool>([^<]{1,200})/i.exec(head)?.[1]?.trim() ?? '',
      unitMetres,
      upAxis: axis ?? null,
      companions: [],
      lost: [...scene.lost, ...passedOver(said)],
      nodes: scene.nodes,
      slots: scene.slots,
      skins: scene.skins,
      clips: scene.clips,
      pictures: await innerPictures(scene.picturePaths),
    }),
  )
}

/** The library asks the page for a parser of XML; there is no page in a worker thread. */
function withDomParser<T>(run: () => T): T {
  const place = globalThis as { DOMParser?: unknown },
    before = place.DOMParser
  place.DOMParser = DOMParser
  try {
    return run()
  } finally {
    place.DOMParser = before
  }
}
