import type { Document, Node } from '@gltf-transform/core'

/** Nodes that a clip moves by themselves; what hangs under them goes along. */
export const movedNodes = (document: Document): Set<Node> =>
  new Set(
    document
      .getRoot()
      .listAnimations()
      .flatMap((a) => a.listChannels().flatMap((c) => c.getTargetNode() ?? [])),
  )
