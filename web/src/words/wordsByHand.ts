const DROP = 'Drop the file on its place in the stage, or choose it there.'
const HULLS = 'Or add a step that makes one anew.'
const LEVELS = 'Or add a step that makes levels.'
const PAIRING = 'Pairing gives textures to slots.'

/** What a person can do about a finding that brings no remedy, by rule; empty where its own text says so. */
const words: Record<string, string> = {
  'collision/scale': `Export it in the units of the mesh. ${HULLS}`,
  'collision/convex': `Model it as closed, convex pieces. ${HULLS}`,
  'collision/corners': `Model it with fewer corners. ${HULLS}`,
  'collision/fit-out': `Fit it to the surface where it was made. ${HULLS}`,
  'collision/missing': `Deliver a mesh under that name, in the file or beside it. ${HULLS}`,
  'colour/base-range':
    'The picture may hold light or shadow that the game adds a second time: look at its histogram, and paint it without.',
  'colour/metal-between':
    'A few texels are right where paint meets bare metal, whole surfaces are not: correct the map.',
  'compression/asset-memory': 'Resize its largest textures: add a step.',
  'compression/error':
    'The table at Compression says what each format loses; the target says which one is for its role.',
  'compression/format':
    'Encode it anew from its source: choose a format at Compression; the file that is written has its mips.',
  'compression/input-limit': 'Pack single maps into one, or drop an input: add a step at Slots.',
  'compression/tile-set-allowed': 'Lay the parts out on one sheet, where the mesh was made.',
  'compression/mips':
    'Write the file again with its whole mip chain, or encode it anew from its source: that makes them.',
  'files/less-than-before':
    'Levels and collision can be kept from the version before; clips and a skin come with their mesh. ' +
    'Accepted for the asset it is declared gone.',
  'files/origin': 'Say where it came from: beside the facts of Files.',
  'files/several-things':
    'Take it apart: each thing becomes an asset of its own, and where it stood is kept.',
  'files/standard':
    'Tell whoever keeps the exporter; the code is the standard’s own. Other steps may write the part anew.',
  'files/duplicate-content': 'Let all slots use one of the two, where the mesh was made.',
  'files/kind-matches-extension': 'Give the file the extension of what it is, and deliver it again.',
  'files/missing-reference': DROP,
  'files/readable': '',
  'files/tile-gap': DROP,
  'files/unreferenced-texture': `Leave it out, or give it to a slot. ${PAIRING}`,
  'files/unsafe-reference': DROP,
  'mesh/cut-otherwise':
    'Cut quads into triangles before the map is baked and export those, or bake the map anew.',
  'lods/channels': `Keep them where the level was made. ${LEVELS}`,
  'lods/order': 'Correct the numbers in the names of the levels.',
  'lods/bounds': 'Look at what the level lost or moved, and make it again.',
  'lods/missing': `Deliver the levels in the file or beside it, each with its level in its name. ${LEVELS}`,
  'lods/slots': 'Give the level the slots of the finest one, where it was made.',
  'lods/step': `Reduce the level further. ${LEVELS}`,
  'mesh/not-finite': 'Export it again: something left values there that are no numbers.',
  'scale/far-from-origin': 'Bring it to the origin: add a step that moves the pivot.',
  'slots/count': 'Join slots that can share a texture, where the mesh was made.',
  'slots/empty': `Give it a texture or a surface of values. ${PAIRING}`,
  'slots/wrong-input': `Give the input its own map, and the normal map to the normal input. ${PAIRING}`,
  'slots/layer-source':
    'Paint it on the model, or lay it by something else: under Second layer, beside the stage.',
  'slots/missing-input': `Deliver the texture, or give the slot a surface of values. ${PAIRING}`,
  'slots/carry-over':
    'Set the surface by values that the target draws, bake it into the textures, or accept what it looks like there.',
  'slots/tiny': 'Give its triangles to another slot, where the mesh was made.',
  'uvs/degenerate':
    'On the sheet these triangles are a line or a point: lay them out where the mesh was made.',
  'uvs/density': 'Scale the islands where they were laid out, or deliver the texture in another size.',
  'uvs/mirrored':
    'Lay these islands out one by one where lettering, grain or baked light must not turn round.',
  'uvs/outside': 'Bring the islands into 0 … 1 where they were laid out.',
}

/** What stands on a finding in place of a remedy. */
export const wordsByHand = (rule: string): string =>
  words[rule] ?? 'No remedy fits here: mend it where it was made, and deliver it again.'
