import type { AssetClass, AssetNotes } from '@stern-gate/contract'

/** A class with what is noted of one asset put over it: purposes of UV channels, and an origin that is meant. */
export function classWithNotes(own: AssetClass, notes: AssetNotes | undefined): AssetClass {
  if (!notes || (notes.channels.length === 0 && !notes.pivotMeant)) return own
  const { channels, pivotMeant } = notes
  const said = new Set(channels.map((c) => c.channel))
  const light = channels.find((c) => c.purpose === 'lightmap')
  return {
    ...own,
    ...(light ? { lightmap: true, lightmapChannel: light.channel } : {}),
    dataChannels: [
      ...own.dataChannels.filter((channel) => !said.has(channel)),
      ...channels.filter((c) => c.purpose === 'data').map((c) => c.channel),
    ].sort((a, b) => a - b),
    ...(pivotMeant ? { pivots: ['any' as const] } : {}),
  }
}
