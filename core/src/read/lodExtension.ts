import {
  type Document,
  Extension,
  ExtensionProperty,
  type IProperty,
  type Node,
  type Nullable,
  type ReaderContext,
  RefList,
  type WriterContext,
} from '@gltf-transform/core'

const NAME = 'MSFT_lod',
  COVERAGE = 'MSFT_screencoverage'

interface ILodChain extends IProperty {
  levels: RefList<Node>
}

/** The coarser levels of a node, the finest of them first. */
export class LodChain extends ExtensionProperty<ILodChain> {
  static override EXTENSION_NAME = NAME
  declare extensionName: typeof NAME
  declare propertyType: 'LodChain'
  declare parentTypes: ['Node']
  protected override init(): void {
    this.extensionName = NAME
    this.propertyType = 'LodChain'
    this.parentTypes = ['Node']
  }
  protected override getDefaults(): Nullable<ILodChain> {
    return Object.assign(super.getDefaults() as IProperty, { levels: new RefList<Node>() })
  }
  listLevels(): Node[] {
    return this.listRefs('levels')
  }
  addLevel(node: Node): this {
    return this.addRef('levels', node)
  }
  removeLevel(node: Node): this {
    return this.removeRef('levels', node)
  }
}

interface LodDef {
  ids?: unknown
}

/**
 * MSFT_lod: levels of a node by number, with the coverages at which they are switched in its extras. A level that no
 * scene holds is hung beside the node that it belongs to, so that it is measured and written like any other.
 */
export class MsftLod extends Extension {
  static override readonly EXTENSION_NAME = NAME
  override readonly extensionName = NAME

  createLodChain(): LodChain {
    return new LodChain(this.document.getGraph())
  }
  override read({ jsonDoc, nodes }: ReaderContext): this {
    for (const [i, def] of (jsonDoc.json.nodes ?? []).entries()) {
      const ids = (def.extensions?.[NAME] as LodDef | undefined)?.ids
      if (!Array.isArray(ids)) continue
      const chain = this.createLodChain()
      for (const id of ids) {
        const level = Number.isInteger(id) ? nodes[id as number] : undefined
        if (level && level !== nodes[i]) chain.addLevel(level)
      }
      nodes[i]!.setExtension(NAME, chain)
    }
    return this
  }
  override write({ jsonDoc, nodeIndexMap }: WriterContext): this {
    for (const node of this.document.getRoot().listNodes()) {
      const chain = node.getExtension<LodChain>(NAME),
        index = nodeIndexMap.get(node)
      if (!chain || index === undefined) continue
      const ids = chain.listLevels().flatMap((level) => nodeIndexMap.get(level) ?? [])
      const def = jsonDoc.json.nodes![index]!
      if (ids.length > 0) def.extensions = { ...def.extensions, [NAME]: { ids } }
    }
    return this
  }
}

/** Levels that MSFT_lod gives to nodes, by the node that is such a level; 1 for the first coarser one. */
export function saidLevels(document: Document): Map<Node, number> {
  const found = new Map<Node, number>()
  for (const node of document.getRoot().listNodes())
    node
      .getExtension<LodChain>(NAME)
      ?.listLevels()
      .forEach((level, i) => void (found.has(level) || found.set(level, i + 1)))
  return found
}

/** Hangs levels that no scene shows beside the shown node whose levels they are. */
export function showLevels(document: Document): void {
  const scenes = document.getRoot().listScenes()
  const shown = new Set<Node>()
  for (const scene of scenes) scene.traverse((node) => void shown.add(node))
  for (const node of [...shown])
    for (const level of node.getExtension<LodChain>(NAME)?.listLevels() ?? []) {
      if (shown.has(level) || level.getParentNode()) continue
      const parent = node.getParentNode()
      if (parent) parent.addChild(level)
      else for (const scene of scenes) if (scene.listChildren().includes(node)) scene.addChild(level)
      level.traverse((below) => void shown.add(below))
    }
}

/** Coverages at which a file says that levels are switched, one for each level, the last for drawing none. */
export function switchCoverages(document: Document): number[] | null {
  for (const node of document.getRoot().listNodes()) {
    const said = node.getExtras()[COVERAGE]
    if (Array.isArray(said) && said.length > 0 && said.every((v) => typeof v === 'number' && v >= 0))
      return said as number[]
  }
  return null
}

/** Writes a chain with its coverages onto the node of the finest level. */
export function setChain(
  document: Document,
  finest: Node,
  levels: readonly Node[],
  coverages: readonly number[],
): void {
  finest.getExtension<LodChain>(NAME)?.dispose()
  const chain = document.createExtension(MsftLod).createLodChain()
  for (const level of levels) chain.addLevel(level)
  finest.setExtension(NAME, chain)
  finest.setExtras({ ...finest.getExtras(), [COVERAGE]: [...coverages] })
}

/** Takes every chain and its coverages out; false where there was none. Levels stay, and are known by their names. */
export function dropChains(document: Document): boolean {
  let had = false
  for (const node of document.getRoot().listNodes()) {
    const chain = node.getExtension<LodChain>(NAME),
      { [COVERAGE]: coverages, ...extras } = node.getExtras()
    if (!chain && coverages === undefined) continue
    chain?.dispose()
    node.setExtras(extras)
    had = true
  }
  return had
}
