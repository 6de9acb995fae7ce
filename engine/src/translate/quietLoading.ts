import { resolveObjectURL } from 'node:buffer'
import { DataTextureLoader, Texture, TextureLoader } from 'three'
import type { InnerPictures } from '@stern-gate/core'

/**
 * Runs a loader whose textures are never fetched: each keeps the path that was written, under
 * `userData.path`.
 */
export function keepingPaths<T>(run: () => T): T {
  const loaders = [TextureLoader.prototype, DataTextureLoader.prototype] as { load: unknown }[],
    real = loaders.map((l) => l.load)
  for (const loader of loaders)
    loader.load = (path: string): Texture => {
      const texture = new Texture()
      texture.userData['path'] = path
      return texture
    }
  try {
    return run()
  } finally {
    loaders.forEach((loader, i) => {
      loader.load = real[i]
    })
  }
}

export interface Heard<T> {
  value: T
  said: string[]
}

/** Runs a loader and gives what it warned of, each once, instead of printing it. */
export function hearing<T>(run: () => T): Heard<T> {
  const out = globalThis.console,
    said = new Set<string>(),
    { warn, error, log, info, debug } = out
  const note = (...words: unknown[]) =>
    void said.add(
      words
        .map(String)
        .join(' ')
        .replace(/^THREE\.|^\w+Loader: /g, '')
        .replace(/^\w+: /, '')
        .slice(0, 160),
    )
  const silent = (): void => undefined
  Object.assign(out, { warn: note, error: note, log: silent, info: silent, debug: silent })
  try {
    return { value: run(), said: [...said].filter((s) => !/Z-UP/.test(s)) }
  } finally {
    Object.assign(out, { warn, error, log, info, debug })
  }
}

/** Bytes of the pictures that a loader unpacked, by the address it gave them. */
export async function innerPictures(paths: Iterable<string>): Promise<InnerPictures> {
  const found = new Map<string, { bytes: Uint8Array; mimeType: string }>()
  for (const path of paths) {
    if (path.startsWith('blob:')) {
      const blob = resolveObjectURL(path)
      if (blob) found.set(path, { bytes: new Uint8Array(await blob.arrayBuffer()), mimeType: blob.type })
      URL.revokeObjectURL(path)
    } else if (path.startsWith('data:')) {
      const [head, body] = path.split(',', 2) as [string, string]
      found.set(path, {
        bytes: new Uint8Array(Buffer.from(body, 'base64')),
        mimeType: /^data:([^;]+)/.exec(head)?.[1] ?? 'application/octet-stream',
      })
    }
  }
  return found
}
