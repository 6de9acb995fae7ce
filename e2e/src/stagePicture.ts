import type { Page } from 'puppeteer-core'
import { until } from './testApplication'

/** What the stage shows, as the address of a PNG. */
export const stagePicture = (page: Page): Promise<string> =>
  page.$eval('canvas[data-ready]', (c) => (c as HTMLCanvasElement).toDataURL())

/** The picture once it stays as it is. */
export async function settledStage(page: Page): Promise<string> {
  let before = ''
  return until(
    () => stagePicture(page),
    (now) => {
      const isSame = now === before
      before = now
      return isSame
    },
  )
}

/** Share of the pixels in which two pictures differ by more than eight of 255. */
export const differingShare = (page: Page, a: string, b: string): Promise<number> =>
  page.evaluate(
    async (one, other) => {
      const pixelsOf = async (address: string): Promise<Uint8ClampedArray> => {
        const bitmap = await createImageBitmap(await (await fetch(address)).blob())
        const canvas = new OffscreenCanvas(bitmap.width, bitmap.height),
          context = canvas.getContext('2d')!
        context.drawImage(bitmap, 0, 0)
        return context.getImageData(0, 0, bitmap.width, bitmap.height).data
      }
      const [p, q] = [await pixelsOf(one), await pixelsOf(other)]
      let count = 0
      for (let k = 0; k < p.length; k += 4)
        if ([0, 1, 2].some((c) => Math.abs(p[k + c]! - q[k + c]!) > 8)) count++
      return count / (p.length / 4)
    },
    a,
    b,
  )
