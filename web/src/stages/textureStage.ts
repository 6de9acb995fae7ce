import { SaidError } from '../words/troubleWords'
import { listenToHand } from './listenToHand'

export type TextureView = 'all' | 'R' | 'G' | 'B' | 'A' | 'light' | 'tiled' | 'error'

/** One picture of the texture desk. */
export interface TextureFrame {
  /** Address of what is shown, or on the right of the divider. */
  after: string
  /** Address of what stands on the left of the divider; null: no divider. */
  before: string | null
  view: TextureView
  /** Where the divider stands, as a share of the stage's width. */
  divider: number
  /** Which way green points, for the view under light. */
  green: 'up' | 'down'
  background: readonly [number, number, number]
  /** Cells that the mesh uses, 256 × 256, 1 or 0; what it does not use is dimmed. Null: all is shown alike. */
  islands: Uint8Array | null
  /** The mip level that is shown, each texel by itself; 0: as near as one looks. */
  mip: number
}

export interface Placement {
  pxPerTexel: number
  zeroX: number
  zeroY: number
  width: number
  height: number
}
export interface TexelReading {
  x: number
  y: number
  values: [number, number, number, number]
}

export interface TextureStage {
  draw: (frame: TextureFrame) => Promise<void>
  fit: () => void
  resize: () => void
  /** The texel under a point of the stage, or null outside. */
  read: (x: number, y: number) => TexelReading | null
  dispose: () => void
}

const VERTEX = `#version 300 es
in vec2 corner; void main() { gl_Position = vec4(corner, 0.0, 1.0); }`

const FRAGMENT = `#version 300 es
precision highp float;
uniform sampler2D before, after;
uniform vec2 stage, zero, texels;
uniform float pxPerTexel, divider, green;
uniform int view;
uniform bool split;
uniform vec3 background;
uniform vec2 lightAt;
uniform sampler2D islands;
uniform bool dims;
uniform float mip;
out vec4 colour;
void main() {
  vec2 at = vec2(gl_FragCoord.x, stage.y - gl_FragCoord.y);
  vec2 uv = (at - zero) / pxPerTexel / texels;
  bool tiled = view == 6;
  bool outside = any(lessThan(uv, vec2(0.0))) || any(greaterThanEqual(uv, vec2(1.0)));
  if (!tiled && outside) {
    colour = vec4(background, 1.0);
    return;
  }
  uv = fract(uv);
  bool left = split && at.x < divider;
  vec4 t = mip > 0.0
    ? (left ? textureLod(before, uv, mip) : textureLod(after, uv, mip))
    : (left ? texture(before, uv) : texture(after, uv));
  if (view == 1) t = vec4(t.rrr, 1.0);
  else if (view == 2) t = vec4(t.ggg, 1.0);
  else if (view == 3) t = vec4(t.bbb, 1.0);
  else if (view == 4) t = vec4(t.aaa, 1.0);
  else if (view == 7) t = vec4(abs(texture(after, uv).rgb - texture(before, uv).rgb) * 8.0, 1.0);
  else if (view == 5) {
    vec3 n = t.xyz * 2.0 - 1.0;
    n.y *= green;
    vec3 l = normalize(vec3(lightAt, 0.55));
    float d = max(0.0, dot(normalize(n), l));
    vec3 h = normalize(l + vec3(0.0, 0.0, 1.0));
    t = vec4(vec3(0.08 + 0.72 * d + 0.25 * pow(max(0.0, dot(normalize(n), h)), 24.0)), 1.0);
  }
  else {
    float check = mod(floor(at.x / 8.0) + floor(at.y / 8.0), 2.0) * 0.12 + 0.4;
    t = vec4(mix(vec3(check), t.rgb, t.a), 1.0);
  }
  if (dims) {
    float here = texture(islands, uv).r, side = 1.5 / pxPerTexel;
    float right = texture(islands, uv + vec2(side / texels.x, 0.0)).r;
    float below = texture(islands, uv + vec2(0.0, side / texels.y)).r;
    if (here < 0.5) t.rgb = mix(vec3(dot(t.rgb, vec3(0.33))), t.rgb, 0.4) * 0.3;
    if (abs(here - right) + abs(here - below) > 0.5) t.rgb = vec3(0.31, 0.8, 0.85);
  }
  if (split && view != 7 && abs(at.x - divider) < 1.0) t = vec4(1.0);
  colour = vec4(t.rgb, 1.0);
}`

const views: TextureView[] = ['all', 'R', 'G', 'B', 'A', 'light', 'tiled', 'error']

/**
 * A desk for textures: texels as stored, with no colour conversion and no premultiplied alpha, from afar or
 * one by one.
 */
export function createTextureStage(
  canvas: HTMLCanvasElement,
  onPlaced: (placement: Placement) => void,
): TextureStage {
  const gl = canvas.getContext('webgl2', { preserveDrawingBuffer: true, antialias: false })
  if (!gl) throw new SaidError('This browser has no WebGL 2, which the texture desk needs.')
  const program = makeProgram(gl)
  const at = (name: string) => gl.getUniformLocation(program, name)
  const pictures = new Map<string, Promise<Picture>>()
  let frame: TextureFrame | null = null,
    after: Picture | null = null,
    before: Picture | null = null
  let pxPerTexel = 1,
    zeroX = 0,
    zeroY = 0,
    fitted = '',
    asked = 0,
    light: [number, number] = [0.5, 0.6]

  const take = (address: string): Promise<Picture> => {
    const known = pictures.get(address) ?? loadPicture(gl, address)
    pictures.set(address, known)
    known.catch(() => pictures.delete(address))
    return known
  }
  const cells = gl.createTexture()
  let shownCells: Uint8Array | null = null
  const showIslands = (islands: Uint8Array | null): void => {
    gl.activeTexture(gl.TEXTURE2)
    gl.bindTexture(gl.TEXTURE_2D, cells)
    if (islands && islands !== shownCells) {
      const side = Math.sqrt(islands.length)
      gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1)
      gl.texImage2D(
        gl.TEXTURE_2D,
        0,
        gl.R8,
        side,
        side,
        0,
        gl.RED,
        gl.UNSIGNED_BYTE,
        islands.map((on) => on * 255),
      )
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST)
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST)
      shownCells = islands
    }
    gl.uniform1i(at('islands'), 2)
    gl.uniform1i(at('dims'), islands ? 1 : 0)
  }
  const paint = (): void => {
    asked = 0
    if (!frame || !after) return
    const ratio = canvas.width / Math.max(1, canvas.clientWidth)
    gl.viewport(0, 0, canvas.width, canvas.height)
    gl.useProgram(program)
    for (const [unit, picture] of [after, before ?? after].entries()) {
      gl.activeTexture(gl.TEXTURE0 + unit)
      gl.bindTexture(gl.TEXTURE_2D, picture.texture)
      // Far away each pixel is a mean of texels; close up every texel stands for itself
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, gl.NEAREST)
      gl.texParameteri(
        gl.TEXTURE_2D,
        gl.TEXTURE_MIN_FILTER,
        frame.mip > 0 ? gl.NEAREST_MIPMAP_NEAREST : pxPerTexel < 1 ? gl.LINEAR_MIPMAP_LINEAR : gl.NEAREST,
      )
    }
    showIslands(frame.islands)
    gl.uniform1f(at('mip'), frame.mip)
    gl.uniform1i(at('after'), 0)
    gl.uniform1i(at('before'), 1)
    gl.uniform2f(at('stage'), canvas.width, canvas.height)
    gl.uniform2f(at('zero'), zeroX * ratio, zeroY * ratio)
    gl.uniform2f(at('texels'), after.width, after.height)
    gl.uniform1f(at('pxPerTexel'), pxPerTexel * ratio)
    gl.uniform1f(at('divider'), frame.divider * canvas.width)
    gl.uniform1f(at('green'), frame.green === 'up' ? 1 : -1)
    gl.uniform1i(at('view'), views.indexOf(frame.view))
    gl.uniform1i(at('split'), before ? 1 : 0)
    gl.uniform3f(at('background'), ...frame.background)
    gl.uniform2f(at('lightAt'), ...light)
    gl.drawArrays(gl.TRIANGLES, 0, 3)
    onPlaced({ pxPerTexel, zeroX, zeroY, width: after.width, height: after.height })
  }
  const paintSoon = (): void => {
    asked ||= requestAnimationFrame(paint)
  }
  const fit = (): void => {
    if (!after) return
    const { clientWidth: w, clientHeight: h } = canvas
    pxPerTexel = Math.min((w - 32) / after.width, (h - 64) / after.height)
    zeroX = (w - after.width * pxPerTexel) / 2
    zeroY = (h + 28 - after.height * pxPerTexel) / 2
    paintSoon()
  }
  const moves = listenToHand(canvas, {
    zoom: (x, y, factor) => {
      const next = Math.min(64, Math.max(0.02, pxPerTexel * factor))
      zeroX = x - ((x - zeroX) * next) / pxPerTexel
      zeroY = y - ((y - zeroY) * next) / pxPerTexel
      pxPerTexel = next
      paintSoon()
    },
    move: (dx, dy) => {
      zeroX += dx
      zeroY += dy
      paintSoon()
    },
    hover: (x, y) => {
      light = [(x / canvas.clientWidth) * 2 - 1, 1 - (y / canvas.clientHeight) * 2]
      if (frame?.view === 'light') paintSoon()
    },
  })
  return {
    fit,
    async draw(now) {
      frame = now
      const [next, other] = await Promise.all([take(now.after), now.before ? take(now.before) : null])
      if (frame !== now) return
      after = next
      before = other
      const key = `${after.width}×${after.height}`
      if (fitted !== key) {
        fitted = key
        fit()
      }
      paintSoon()
    },
    resize() {
      const ratio = Math.min(2, devicePixelRatio)
      const { clientWidth: w, clientHeight: h } = canvas.parentElement ?? canvas
      canvas.width = Math.max(1, Math.round(w * ratio))
      canvas.height = Math.max(1, Math.round(h * ratio))
      fit()
    },
    read(x, y) {
      if (!after || !frame) return null
      const picture = before && x < frame.divider * canvas.clientWidth ? before : after
      const tx = Math.floor((x - zeroX) / pxPerTexel),
        ty = Math.floor((y - zeroY) / pxPerTexel)
      return tx < 0 || ty < 0 || tx >= picture.width || ty >= picture.height
        ? null
        : { x: tx, y: ty, values: readTexel(gl, picture, tx, ty) }
    },
    dispose() {
      moves()
      cancelAnimationFrame(asked)
      for (const picture of pictures.values())
        void picture.then((p) => gl.deleteTexture(p.texture)).catch(() => undefined)
      gl.deleteTexture(cells)
      gl.deleteProgram(program)
      // A browser has few contexts, and takes them from stages that are in use
      gl.getExtension('WEBGL_lose_context')?.loseContext()
    },
  }
}

interface Picture {
  texture: WebGLTexture
  width: number
  height: number
}

async function loadPicture(gl: WebGL2RenderingContext, address: string): Promise<Picture> {
  const response = await fetch(address)
  if (!response.ok) throw new SaidError('The texture cannot be shown: the server does not have it.')
  const bitmap = await createImageBitmap(await response.blob(), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
    imageOrientation: 'none',
  })
  const texture = gl.createTexture()
  gl.bindTexture(gl.TEXTURE_2D, texture)
  gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false)
  gl.pixelStorei(gl.UNPACK_COLORSPACE_CONVERSION_WEBGL, gl.NONE)
  gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, gl.RGBA, gl.UNSIGNED_BYTE, bitmap)
  gl.generateMipmap(gl.TEXTURE_2D)
  const picture = { texture, width: bitmap.width, height: bitmap.height }
  bitmap.close()
  return picture
}

function readTexel(
  gl: WebGL2RenderingContext,
  picture: Picture,
  x: number,
  y: number,
): [number, number, number, number] {
  const buffer = gl.createFramebuffer(),
    out = new Uint8Array(4)
  gl.bindFramebuffer(gl.FRAMEBUFFER, buffer)
  gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, picture.texture, 0)
  gl.readPixels(x, y, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, out)
  gl.bindFramebuffer(gl.FRAMEBUFFER, null)
  gl.deleteFramebuffer(buffer)
  return [out[0]!, out[1]!, out[2]!, out[3]!]
}

function makeProgram(gl: WebGL2RenderingContext): WebGLProgram {
  const program = gl.createProgram()
  for (const [type, source] of [
    [gl.VERTEX_SHADER, VERTEX],
    [gl.FRAGMENT_SHADER, FRAGMENT],
  ] as const) {
    const shader = gl.createShader(type)!
    gl.shaderSource(shader, source)
    gl.compileShader(shader)
    if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
      throw new Error(gl.getShaderInfoLog(shader) ?? 'shader')
    gl.attachShader(program, shader)
  }
  gl.bindAttribLocation(program, 0, 'corner')
  gl.linkProgram(program)
  const buffer = gl.createBuffer()
  gl.bindBuffer(gl.ARRAY_BUFFER, buffer)
  gl.bufferData(gl.ARRAY_BUFFER, new Float32Array([-1, -1, 3, -1, -1, 3]), gl.STATIC_DRAW)
  gl.enableVertexAttribArray(0)
  gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 0, 0)
  return program
}
