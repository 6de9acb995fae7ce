import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Finding } from '@stern-gate/contract'
import { openDemoProject } from './demoProject'
import { type Application, jsonAt, madeAsset, until } from './testApplication'

const NAMES = ['awning', 'navbuoy', 'pennant', 'berth_number', 'chart_table'] as const
let app: Application,
  page: Page,
  project: string,
  ids: string[] = []

beforeAll(async () => {
  ;({ app, page, project, ids } = await openDemoProject('Put right', NAMES))
}, 180_000)
afterAll(() => app.stop())

/** What a person would mend next: graver than a note, with a button that does it. */
const next = ({ source, output }: AssetDetail): Finding | undefined =>
  (output ?? source).findings.find((f) => f.level !== 'note' && f.remedies.length > 0)

/** Presses the first button of a finding's card. */
async function press(id: string, finding: Finding): Promise<void> {
  await page.goto(`${app.url}/p/${project}/assets/${id}/${finding.station}`)
  await until(
    () =>
      page.evaluate((rule) => {
        const ask = document.querySelector(`[aria-label="About the rule ${rule}"]`)
        for (let at = ask?.parentElement; at; at = at.parentElement) {
          const go = at.querySelector<HTMLButtonElement>('.btn.go:not([disabled])')
          if (go) {
            go.click()
            return true
          }
        }
        return false
      }, finding.rule),
    Boolean,
  )
}

describe.each(NAMES.map((name, i) => [name, i] as const))('the %s of the demo', (_, i) => {
  it('is put right on the screens, by a button for each finding', async () => {
    const id = ids[i]!
    for (let presses = 0; presses < 8; presses++) {
      const detail = await jsonAt<AssetDetail>(app, `/assets/${id}`)
      const finding = next(detail)
      if (!finding) break
      await press(id, finding)
      await madeAsset(app, id, (d) => d.recipeRevision > detail.recipeRevision)
    }
    const detail = await madeAsset(app, id, () => true)
    expect(next(detail)).toBeUndefined()
    expect(detail.output!.verdict).toBe('clear')
    expect(detail.recipe.steps.length).toBeGreaterThan(0)
  }, 180_000)
})
