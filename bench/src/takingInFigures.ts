import { type ChildProcess } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { call, withServer } from './benchServer'
import { once } from './clock'
import type { Figure } from './figure'

const BATCH = 24

/**
 * Deliveries of many files through a server of its own: how much more memory it held with 2,000 pictures than with
 * 200, and how the time grows with small meshes that name other files.
 */
export const takingInFigures = (tell: (line: string) => void): Promise<Figure[]> =>
  withServer(async ({ url, process: server }) => {
    const project = (await call<{ id: string }>(url, 'POST', '/projects', { name: 'Bench' })).id
    tell('200 files through the server')
    await deliver(url, project, pictures('few', 200))
    const few = await peakBytes(server)
    tell('2,000 files through the server')
    const taken = await once(() => deliver(url, project, pictures('many', 2000)))
    const many = await peakBytes(server)
    tell('1,251 and 5,001 files of meshes through the server')
    const some = await once(() => deliver(url, project, meshes('some', 417)))
    const all = await once(() => deliver(url, project, meshes('all', 1667)))
    return [
      {
        what: '2,000 files of 64 × 64 texels taken in and judged: peak memory of the server against that with 200',
        measured: `${(many / 1e6).toFixed(0)} MB against ${(few / 1e6).toFixed(0)} MB, ${(taken / 1000).toFixed(0)} s`,
        ratio: many / few,
        wanted: { most: 1.25 },
      },
      {
        what: '5,001 small files – meshes that name a buffer and a picture each – taken in, measured and judged, in seconds',
        measured: `${(all / 1000).toFixed(0)} s`,
        ratio: all / 1000,
        wanted: { most: 240 },
      },
      {
        what: 'Exponent of its growth from 1,251 files on',
        measured: `${(some / 1000).toFixed(1)} s and ${(all / 1000).toFixed(1)} s`,
        ratio: Math.log(all / some) / Math.log(1667 / 417),
        wanted: { most: 1.15 },
      },
    ]
  })

interface SentFile {
  path: string
  bytes: Uint8Array<ArrayBuffer>
}

function* pictures(name: string, count: number): Generator<SentFile> {
  for (let i = 0; i < count; i++)
    yield { path: `${name}/harbour_${name}${i}_a_basecolor.png`, bytes: pictureOf(i, name.length * 20) }
}

const pictureOf = (i: number, blue: number): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(pngOf(pixelsOf(64, 64, 3, (x, y) => [(x * 3 + i) % 256, (y * 5 + (i >> 8)) % 256, blue])))

/** Meshes of a triangle, each with its buffer and its picture in files of their own. */
function* meshes(name: string, count: number): Generator<SentFile> {
  for (let i = 0; i < count; i++) {
    const stem = `harbour_${name}${i}_a`
    const corners = Float32Array.of(0, 0, 0, 1 + i / 1000, 0, 0, 0, 1, 0)
    const document = {
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ name: stem, mesh: 0 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
      materials: [{ name: stem, pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
      textures: [{ source: 0 }],
      images: [{ uri: `${stem}_basecolor.png` }],
      accessors: [
        {
          bufferView: 0,
          componentType: 5126,
          count: 3,
          type: 'VEC3',
          min: [0, 0, 0],
          max: [corners[3], 1, 0],
        },
      ],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [{ uri: `${stem}.bin`, byteLength: 36 }],
    }
    yield { path: `${name}/${stem}.gltf`, bytes: new TextEncoder().encode(JSON.stringify(document)) }
    yield { path: `${name}/${stem}.bin`, bytes: new Uint8Array(corners.buffer) }
    yield { path: `${name}/${stem}_basecolor.png`, bytes: pictureOf(i, name.length * 20) }
  }
}

/** What comes, in portions. */
function* portionsOf(files: Iterable<SentFile>): Generator<SentFile[]> {
  let portion: SentFile[] = []
  for (const file of files) {
    portion.push(file)
    if (portion.length < BATCH) continue
    yield portion
    portion = []
  }
  if (portion.length > 0) yield portion
}

async function deliver(url: string, project: string, files: Iterable<SentFile>): Promise<void> {
  const { id } = await call<{ id: string }>(url, 'POST', `/projects/${project}/deliveries`, {})
  for (const portion of portionsOf(files)) {
    const form = new FormData()
    for (const { path, bytes } of portion) {
      form.append('path', path)
      form.append('file', new Blob([bytes]), 'file')
    }
    // Drawing them takes so long that the server may have let go of the connection: it is noticed now, not
    // while writing
    await new Promise((resolve) => setTimeout(resolve, 5))
    const response = await fetch(`${url}/api/deliveries/${id}/files`, { method: 'POST', body: form })
    if (!response.ok) throw new Error(`files: ${response.status}`)
    await response.arrayBuffer()
  }
  await call(url, 'POST', `/deliveries/${id}/close`)
  for (let state = ''; state !== 'done';) {
    await new Promise((resolve) => setTimeout(resolve, 200))
    state = (await call<{ state: string }>(url, 'GET', `/deliveries/${id}`)).state
  }
}

const peakBytes = async (process: ChildProcess): Promise<number> =>
  Number(/^VmHWM:\s*(\d+) kB/m.exec(await readFile(`/proc/${process.pid}/status`, 'utf8'))![1]) * 1024
