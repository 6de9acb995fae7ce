/** Version of each measure: raise one and only that part is measured again. */
export const measureVersions = { mesh: 13, texture: 13, thumbnail: 2 } as const
export type MeasureKey = keyof typeof measureVersions
