import {
  CanvasTexture,
  Color,
  type BufferAttribute,
  DoubleSide,
  Material,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  NearestFilter,
  NoColorSpace,
  RepeatWrapping,
  ShaderMaterial,
  SRGBColorSpace,
  Texture,
} from 'three'
import { colourChannels, type ColourChannel, type ModelFrame, type SurfaceMap } from './modelFrame'
import { slotColour } from './slotColours'

/** What a mesh wears in a view; null: its own surface. */
export function viewMaterial(frame: ModelFrame, mesh: Mesh, slot: string): Material | Material[] | null {
  switch (frame.view) {
    case 'plain':
      return [mesh.material].flat().map(plain)
    case 'checker':
      return checker(mesh, frame.channel)
    case 'map':
      return [mesh.material].flat().map((m) => oneMap(m as MeshStandardMaterial, frame.map))
    case 'slots':
      return new MeshLambertMaterial({
        color: new Color(slotColour(frame.slots, slot)).multiplyScalar(0.5),
        side: DoubleSide,
      })
    case 'colours':
      return vertexColours(mesh, frame.colourChannel)
    default:
      return null
  }
}

/** Vertex colours as they are, or one channel of them as grey. What has none is drawn in stage grey. */
function vertexColours(mesh: Mesh, channel: ColourChannel): Material {
  const attribute = mesh.geometry.getAttribute('color') as BufferAttribute | undefined
  const index = colourChannels.indexOf(channel) - 1
  if (!attribute || index >= attribute.itemSize)
    return new MeshBasicMaterial({ color: 0x6a6a6a, side: DoubleSide })
  if (index < 0) return new MeshBasicMaterial({ vertexColors: true, side: DoubleSide })
  // Grey as the value stands in the file, with nothing bent on the way to the screen
  return new ShaderMaterial({
    side: DoubleSide,
    vertexColors: true,
    defines: attribute.itemSize === 4 ? { USE_COLOR_ALPHA: '' } : {},
    vertexShader: `#include <common>
#include <skinning_pars_vertex>
varying float level;
void main() {
  level = color[${index}];
#include <skinbase_vertex>
#include <begin_vertex>
#include <skinning_vertex>
#include <project_vertex>
}`,
    fragmentShader: 'varying float level; void main() { gl_FragColor = vec4(vec3(level), 1.0); }',
  })
}

/** Base colour without any light. */
function plain(material: Material): Material {
  const source = material as MeshStandardMaterial
  return new MeshBasicMaterial({
    color: source.color ?? 0xffffff,
    map: source.map ?? null,
    alphaMap: source.alphaMap ?? null,
    transparent: source.transparent,
    opacity: source.opacity,
    alphaTest: source.alphaTest,
    side: source.side,
  })
}

const mapOf: Record<
  SurfaceMap,
  { field: 'map' | 'normalMap' | 'aoMap' | 'roughnessMap' | 'metalnessMap' | 'emissiveMap'; channel: number }
> = {
  basecolor: { field: 'map', channel: -1 },
  normal: { field: 'normalMap', channel: -1 },
  occlusion: { field: 'aoMap', channel: 0 },
  roughness: { field: 'roughnessMap', channel: 1 },
  metallic: { field: 'metalnessMap', channel: 2 },
  emissive: { field: 'emissiveMap', channel: -1 },
}

/** Linear light brought back to what the texture stores, by the curve of sRGB (IEC 61966-2-1). */
const STORED = 'mix(t.rgb * 12.92, 1.055 * pow(t.rgb, vec3(1.0 / 2.4)) - 0.055, step(vec3(0.0031308), t.rgb))'

/** One map without light, or one channel of it as grey; what has no such map is drawn in stage grey. */
function oneMap(source: MeshStandardMaterial, which: SurfaceMap): Material {
  const { field, channel } = mapOf[which]
  const map: Texture | null = source[field] ?? null
  if (!map) return new MeshBasicMaterial({ color: 0x6a6a6a, side: DoubleSide })
  return new ShaderMaterial({
    side: DoubleSide,
    uniforms: { map: { value: map }, channel: { value: channel } },
    vertexShader: `#include <common>
#include <skinning_pars_vertex>
varying vec2 at;
${map.channel > 0 ? `attribute vec2 uv${map.channel};` : ''}
void main() {
  at = ${map.channel > 0 ? `uv${map.channel}` : 'uv'};
#include <skinbase_vertex>
#include <begin_vertex>
#include <skinning_vertex>
#include <project_vertex>
}`,
    // The renderer hands colour maps over in linear light; shown is what is stored
    fragmentShader: `uniform sampler2D map;
uniform int channel;
varying vec2 at;
void main() {
  vec4 t = texture2D(map, at);
  ${map.colorSpace === SRGBColorSpace ? `t.rgb = ${STORED};` : ''}
  float one = channel == 0 ? t.r : channel == 1 ? t.g : t.b;
  gl_FragColor = vec4(channel < 0 ? t.rgb : vec3(one), 1.0);
}`,
  })
}

let pattern: CanvasTexture | null = null

/** Squares in two greys, each with its place on the sheet and an arrow that points up in it. */
function checkerPattern(): CanvasTexture {
  if (pattern) return pattern
  const side = 1024,
    cells = 8,
    cell = side / cells
  const canvas = document.createElement('canvas')
  canvas.width = canvas.height = side
  const pen = canvas.getContext('2d')!
  for (let y = 0; y < cells; y++)
    for (let x = 0; x < cells; x++) {
      const dark = (x + y) % 2 === 0
      pen.fillStyle = dark ? '#5b6b6e' : '#d9d3c2'
      pen.fillRect(x * cell, y * cell, cell, cell)
      pen.strokeStyle = pen.fillStyle = dark ? '#f2ecdc' : '#17323a'
      pen.lineWidth = 5
      pen.beginPath()
      pen.moveTo(x * cell + cell / 2, y * cell + cell * 0.84)
      pen.lineTo(x * cell + cell / 2, y * cell + cell * 0.42)
      pen.moveTo(x * cell + cell * 0.36, y * cell + cell * 0.56)
      pen.lineTo(x * cell + cell / 2, y * cell + cell * 0.4)
      pen.lineTo(x * cell + cell * 0.64, y * cell + cell * 0.56)
      pen.stroke()
      pen.font = `600 ${cell * 0.24}px Barlow, sans-serif`
      pen.textAlign = 'center'
      pen.fillText(`${'ABCDEFGH'[x]}${y + 1}`, x * cell + cell / 2, y * cell + cell * 0.29)
    }
  pattern = new CanvasTexture(canvas)
  pattern.wrapS = pattern.wrapT = RepeatWrapping
  pattern.colorSpace = NoColorSpace
  pattern.magFilter = NearestFilter
  pattern.flipY = false
  pattern.anisotropy = 8
  return pattern
}

function checker(mesh: Mesh, channel: number): Material {
  const name = channel === 0 ? 'uv' : `uv${channel}`
  if (!mesh.geometry.hasAttribute(name)) return new MeshBasicMaterial({ color: 0x6a6a6a, side: DoubleSide })
  const map = checkerPattern().clone()
  map.channel = channel
  return new MeshBasicMaterial({ map, side: DoubleSide, toneMapped: false })
}
