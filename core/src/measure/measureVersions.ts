/** Version of each measure: raise one and only that part is measured again. */
export const measureVersions = { mesh: 9, texture: 9, thumbnail: 1 } as const
export type MeasureKey = keyof typeof measureVersions
