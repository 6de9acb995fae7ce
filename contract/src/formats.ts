/**
 * Every file format by one line: what it is called, how its bytes begin, what its extensions are. A texture format is
 * this line, its header reader and the reader's place in `core/read/readTextureHeader`; a mesh format this line and its
 * reader in `core/read/readMeshFile`, or in the engine where that needs a library.
 */
export interface Format {
  /** As a person calls it. */
  words: string
  /** The first is the one that is written. None: it goes by its whole ending. */
  extensions: readonly string[]
  /** What its bytes begin with, in Latin-1; ANY stands for any byte. */
  marks: readonly string[]
  /** Bytes without a mark are of this format where the extension says so and they look like this. */
  looks: 'text' | 'xml' | 'json' | 'tga' | 'something' | 'anything' | null
  mediaType: string | null
  /** Text, or may be: marks of byte order are taken off and UTF-16 is read. */
  isText?: true
  /** There are so many ways of packing it that a file which is not decoded need not be damaged. */
  partlyDecoded?: true
  /** A browser shows it as it is. */
  shownByBrowsers?: true
}

/** Any byte in a mark. */
export const ANY = '\u2026'

const marked = (words: string, extensions: string[], marks: string[], mediaType: string | null) => ({
  ...{ words, extensions, marks, mediaType },
  looks: null,
})

/** Pictures. */
export const textureFormatTable = {
  png: { ...marked('PNG', ['png'], ['\x89PNG'], 'image/png'), shownByBrowsers: true },
  jpeg: { ...marked('JPEG', ['jpg', 'jpeg'], ['\xff\xd8\xff'], 'image/jpeg'), shownByBrowsers: true },
  webp: {
    ...marked('WebP', ['webp'], [`RIFF${ANY.repeat(4)}WEBP`], 'image/webp'),
    shownByBrowsers: true,
  },
  avif: marked(
    'AVIF',
    ['avif'],
    ['f', 's'].map((last) => `${ANY.repeat(4)}ftypavi${last}`),
    'image/avif',
  ),
  tga: { words: 'TGA', extensions: ['tga'], marks: [], looks: 'tga', mediaType: 'image/tga' },
  tiff: marked('TIFF', ['tif', 'tiff'], ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'], 'image/tiff'),
  ktx2: { ...marked('KTX2', ['ktx2'], ['\xabKTX 20'], 'image/ktx2'), partlyDecoded: true },
  dds: marked('DDS', ['dds'], ['DDS '], 'image/vnd-ms.dds'),
  exr: { ...marked('EXR', ['exr'], ['\x76\x2f\x31\x01'], 'image/x-exr'), partlyDecoded: true },
  hdr: {
    ...marked(
      'HDR',
      ['hdr'],
      ['RADIANCE', 'RGBE'].flatMap((name) => [`#?${name}\n`, `#?${name}\r\n`]),
      'image/vnd.radiance',
    ),
    partlyDecoded: true,
  },
} as const satisfies Record<string, Format>

/** Meshes, by how much of a surface their format can say: of equal files the first is taken. */
export const meshFormatTable = {
  glb: marked('GLB', ['glb'], ['glTF'], 'model/gltf-binary'),
  gltf: {
    ...{ words: 'glTF', extensions: ['gltf'], marks: [], looks: 'json' },
    ...{ mediaType: 'model/gltf+json', isText: true },
  },
  fbx: {
    ...{ words: 'FBX', extensions: ['fbx'], marks: ['Kaydara FBX Binary  '], looks: 'text' },
    ...{ mediaType: null, isText: true },
  },
  dae: {
    ...{ words: 'COLLADA', extensions: ['dae'], marks: [], looks: 'xml' },
    ...{ mediaType: 'model/vnd.collada+xml', isText: true },
  },
  obj: {
    ...{ words: 'OBJ', extensions: ['obj'], marks: [], looks: 'text' },
    ...{ mediaType: 'model/obj', isText: true },
  },
  ply: { ...marked('PLY', ['ply'], ['ply\n', 'ply\r'], null), isText: true },
  stl: {
    ...{ words: 'STL', extensions: ['stl'], marks: [], looks: 'something' },
    ...{ mediaType: 'model/stl', isText: true },
  },
} as const satisfies Record<string, Format>

/** What stands beside them, and what holds them. */
export const otherFormatTable = {
  library: {
    ...{ words: 'material library', extensions: ['mtl'], marks: [], looks: 'text' },
    ...{ mediaType: 'model/mtl', isText: true },
  },
  buffer: {
    ...{ words: 'buffer', extensions: ['bin'], marks: [], looks: 'anything' },
    mediaType: 'application/octet-stream',
  },
  surface: {
    ...{ words: 'surface file', extensions: [], marks: [], looks: 'json' },
    mediaType: 'application/json',
  },
  zip: marked('ZIP', ['zip'], ['PK\x03\x04'], 'application/zip'),
} as const satisfies Record<string, Format>

export type TextureFormat = keyof typeof textureFormatTable
export type MeshFormat = keyof typeof meshFormatTable
/** What a file is by its first bytes; `unknown`: no format that is read. */
export type FileKind = TextureFormat | MeshFormat | keyof typeof otherFormatTable | 'unknown'

const keysOf = <T extends object>(table: T): [keyof T & string, ...(keyof T & string)[]] =>
  Object.keys(table) as [keyof T & string, ...(keyof T & string)[]]
export const textureFormats = keysOf(textureFormatTable)
export const meshFormats = keysOf(meshFormatTable)
/** All of them. */
export const formats: Readonly<Record<Exclude<FileKind, 'unknown'>, Format>> = {
  ...textureFormatTable,
  ...meshFormatTable,
  ...otherFormatTable,
}
export const fileKinds = [...keysOf(formats), 'unknown'] as const satisfies readonly FileKind[]

/** "GLB, glTF, FBX …" */
export const meshFormatWords = meshFormats.map((f) => formats[f].words).join(', ')
/** "PNG, JPEG, WebP …" */
export const textureFormatWords = textureFormats.map((f) => formats[f].words).join(', ')
/** What a format is called; "unknown" for none. */
export const formatWords = (kind: FileKind): string => (kind === 'unknown' ? kind : formats[kind].words)
/** Whether a file that does not decode may be packed in a way that is not read, and need not be damaged. */
export const isPartlyDecoded = (format: TextureFormat): boolean => formats[format].partlyDecoded === true
/** Whether a browser shows it as it is. */
export const isShownByBrowsers = (format: TextureFormat): boolean => formats[format].shownByBrowsers === true
