import type { Page } from 'puppeteer-core'

type Show = (
  format: string,
  width: number,
  height: number,
  bytes: number[],
) => { error: number; texels: number[] }

/**
 * Prepares a page that decodes compressed texels by WebGL. Answers with red, green, blue and alpha of each
 * texel, rows from the top; linear where the format is sRGB.
 */
export async function compressedInPage(
  page: Page,
): Promise<(format: string, width: number, height: number, bytes: Uint8Array) => Promise<number[]>> {
  await page.evaluate(prepare)
  return async (format, width, height, bytes) => {
    const { error, texels } = await page.evaluate(
      (...given: Parameters<Show>) => (window as unknown as { show: Show }).show(...given),
      format,
      width,
      height,
      [...bytes],
    )
    if (error !== 0) throw new Error(`WebGL takes no ${format}: error ${error}`)
    return texels
  }
}

/** Runs in the page. */
function prepare(): void {
  const gl = document.createElement('canvas').getContext('webgl2')!
  gl.getExtension('EXT_color_buffer_float')
  const formats: Record<string, number> = {}
  for (const name of [
    'EXT_texture_compression_bptc',
    'EXT_texture_compression_rgtc',
    'WEBGL_compressed_texture_astc',
    'WEBGL_compressed_texture_etc',
  ]) {
    const extension = gl.getExtension(name) as Record<string, number>
    for (const key in extension) formats[key] = extension[key]!
  }
  const program = gl.createProgram()
  const add = (type: number, source: string): void => {
    const shader = gl.createShader(type)!
    gl.shaderSource(shader, `#version 300 es\n${source}`)
    gl.compileShader(shader)
    gl.attachShader(program, shader)
  }
  add(
    gl.VERTEX_SHADER,
    'void main() { gl_Position = vec4(gl_VertexID == 1 ? 3.0 : -1.0, gl_VertexID == 2 ? 3.0 : -1.0, 0.0, 1.0); }',
  )
  add(
    gl.FRAGMENT_SHADER,
    'precision highp float; uniform highp sampler2D picture; out vec4 texel; void main() { texel = ' +
      'texelFetch(picture, ivec2(gl_FragCoord.xy), 0); }',
  )
  gl.linkProgram(program)
  gl.useProgram(program)
  const show: Show = (format, width, height, bytes) => {
    const target = gl.createTexture()
    gl.bindTexture(gl.TEXTURE_2D, target)
    gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA32F, width, height)
    gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer())
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, target, 0)
    gl.bindTexture(gl.TEXTURE_2D, gl.createTexture())
    gl.texStorage2D(gl.TEXTURE_2D, 1, formats[format]!, width, height)
    gl.compressedTexSubImage2D(gl.TEXTURE_2D, 0, 0, 0, width, height, formats[format]!, new Uint8Array(bytes))
    gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST)
    gl.viewport(0, 0, width, height)
    gl.drawArrays(gl.TRIANGLES, 0, 3)
    const texels = new Float32Array(width * height * 4)
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.FLOAT, texels)
    // What is no number does not travel
    return {
      error: gl.getError(),
      texels: Array.from(texels, (v) => (Number.isFinite(v) ? v : v > 0 ? 1e9 : 0)),
    }
  }
  ;(window as unknown as { show: Show }).show = show
}
