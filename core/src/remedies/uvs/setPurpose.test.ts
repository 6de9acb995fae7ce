import { describe, expect, it } from 'vitest'
import type { CrateOptions } from '../../fixtures/crateFixture'
import { subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { judge } from '../../judge/judge'
import { writeWork } from '../../recipe/writeWork'
import { assetNotes, noteOfAsset } from '../../scene/assetNotes'

const PURPOSE = 'uvs/set-purpose'
const handProp: CrateOptions = { folder: 'hand-props', size: 0.4, uvChannels: 3 }

describe('the purpose of a UV channel', () => {
  it('goes before what the class says, in the output, too', async () => {
    const work = await openedCrate(handProp)
    await mend(work, PURPOSE, { channel: 0, purpose: 'data' })
    await mend(work, PURPOSE, { channel: 2, purpose: 'lightmap' })
    const [subject] = await subjectsOf(
      Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes])),
    )
    expect(subject!.class).toMatchObject({ lightmap: true, lightmapChannel: 2, dataChannels: [0] })
    // Six faces in one place of a channel of data are no overlap
    expect(judge(subject!).findings.filter((f) => f.rule === 'uvs/overlap')).toEqual([])
  })
  it('is one word a channel, and baked light has one channel', async () => {
    const work = await openedCrate(handProp)
    await mend(work, PURPOSE, { channel: 2, purpose: 'lightmap' })
    await mend(work, PURPOSE, { channel: 1, purpose: 'lightmap' })
    expect(assetNotes(work.document!).channels).toEqual([{ channel: 1, purpose: 'lightmap' }])
    expect(await mend(work, PURPOSE, { channel: 1, purpose: 'lightmap' })).toMatchObject({ changed: false })
    await mend(work, PURPOSE, { channel: 1, purpose: 'surface' })
    expect(assetNotes(work.document!).channels).toEqual([{ channel: 1, purpose: 'surface' }])
    await mend(work, PURPOSE, { channel: 1, purpose: 'as its class' })
    expect(assetNotes(work.document!).channels).toEqual([])
    expect(await mend(work, PURPOSE, { channel: 1, purpose: 'as its class' })).toMatchObject({
      changed: false,
    })
  })
  it('goes along where channels change places or move down, and goes with a channel', async () => {
    const work = await openedCrate({ ...handProp, hull: false })
    noteOfAsset(work.document!, {
      channels: [
        { channel: 0, purpose: 'surface' },
        { channel: 2, purpose: 'data' },
      ],
    })
    await mend(work, 'uvs/exchange', { a: 0, b: 1, follow: true })
    expect(assetNotes(work.document!).channels.map((c) => c.channel)).toEqual([1, 2])
    await mend(work, 'uvs/remove', { channel: 1 })
    expect(assetNotes(work.document!).channels).toEqual([{ channel: 1, purpose: 'data' }])
  })
  it('that cannot be read counts as none; a file without a scene gets one', async () => {
    const work = await openedCrate()
    const [scene] = work.document!.getRoot().listScenes()
    scene!.setExtras({ 'stern-gate': { pivotMeant: 'yes', channels: [{ channel: 99 }] }, kept: 1 })
    expect(assetNotes(work.document!)).toEqual({ pivotMeant: false, channels: [] })
    noteOfAsset(work.document!, { pivotMeant: true })
    expect(scene!.getExtras()).toEqual({ 'stern-gate': { pivotMeant: true, channels: [] }, kept: 1 })
    const roots = scene!.listChildren()
    scene!.dispose()
    noteOfAsset(work.document!, { pivotMeant: true })
    expect(work.document!.getRoot().listScenes()[0]!.listChildren()).toEqual(roots)
  })
})
