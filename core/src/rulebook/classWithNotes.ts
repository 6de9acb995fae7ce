import type { AssetClass, AssetNotes } from '@stern-gate/contract'

/** A class with what is noted of one asset put over it: purposes of UV channels, and an origin that is meant. */
export function classWithNotes(own: AssetClass, { channels, pivotMeant }: AssetNotes): AssetClass {
  if (channels.length === 0 && !pivotMeant) return own
  const said = new Set(channels.map((c) => c.channel)),
    light = channels.find((c) => c.purpose === 'lightmap')
  const dataChannels = [
    ...own.dataChannels.filter((channel) => !said.has(channel)),
    ...channels.filter((c) => c.purpose === 'data').map((c) => c.channel),
  ].sort((a, b) => a - b)
  return {
    ...own,
    lightmap: own.lightmap || light !== undefined,
    lightmapChannel: light
      ? light.channel
      : said.has(own.lightmapChannel)
        ? firstFree(own.lightmapChannel, [...said, ...dataChannels])
        : own.lightmapChannel,
    dataChannels,
    pivots: pivotMeant ? ['any'] : own.pivots,
  }
}

/** The lightmap leaves a channel that serves something else, for the next one that serves nothing. */
function firstFree(wanted: number, taken: readonly number[]): number {
  let channel = wanted
  while (taken.includes(channel)) channel++
  return channel
}
