/**
 * One fault that the generator plants. `from` tells since when its rule is there: now, or when the station is
 * filled in.
 */
export interface PlantedFault {
  asset: string
  rule: string
  place: string
  count: number
  from: 'now' | 'later'
  words: string
}

/** Faults of the shed and what stands in it, and of what hangs and stands along the quay. */
export const plantedInSets: readonly PlantedFault[] = [
  {
    asset: 'harbour_awning_a',
    rule: 'slots/variants-complete',
    place: 'awning-dry',
    count: 1,
    from: 'now',
    words: 'three weathers over one normal map, of which the mossy one has no base colour',
  },
  {
    asset: 'harbour_sail_cover_a',
    rule: 'uvs/grain',
    place: 'harbour_sail_cover_a',
    count: 1,
    from: 'later',
    words: 'woven cloth whose grain runs across on one of three panels',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'files/reference-figure',
    place: 'scale_figure',
    count: 1,
    from: 'now',
    words: 'a figure that it was measured against',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'files/several-things',
    place: 'asset',
    count: 1,
    from: 'now',
    words: 'eight things in one file',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'mesh/half-model',
    place: 'harbour_shed_door_a',
    count: 1,
    from: 'now',
    words: 'half a door, whose mirror was not exported',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'scale/unbaked-transform',
    place: 'node',
    count: 6,
    from: 'now',
    words: 'things stand turned in their scene',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'scale/expected-size',
    place: 'asset',
    count: 1,
    from: 'now',
    words: 'a whole scene is longer than a prop',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'scale/pivot',
    place: 'asset',
    count: 1,
    from: 'now',
    words: 'a scene has no base of its own',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'collision/missing',
    place: 'asset',
    count: 1,
    from: 'now',
    words: 'no collision, as a scene has none',
  },
  {
    asset: 'harbour_fender_a',
    rule: 'uvs/missing',
    place: 'channel',
    count: 2,
    from: 'now',
    words: 'modelled and never laid out: no UVs on either slot',
  },
  {
    asset: 'harbour_fender_a',
    rule: 'slots/missing-input',
    place: 'fender-rubber',
    count: 2,
    from: 'now',
    words: 'without UVs there are no textures',
  },
  {
    asset: 'harbour_fender_a',
    rule: 'mesh/doubled-points',
    place: 'harbour_fender_a',
    count: 1,
    from: 'now',
    words: 'seams of UVs that are not there',
  },
  {
    asset: 'harbour_diving_bell_a',
    rule: 'slots/missing-input',
    place: 'bell-copper',
    count: 5,
    from: 'now',
    words: 'bare grey slots by name, no textures',
  },
  {
    asset: 'harbour_diving_bell_a',
    rule: 'slots/count',
    place: 'asset',
    count: 1,
    from: 'now',
    words: 'five slots',
  },
  {
    asset: 'harbour_berth_number_a',
    rule: 'slots/decal-gap',
    place: 'berth-number',
    count: 1,
    from: 'now',
    words: 'a stencilled number lies exactly in the face under it',
  },
  {
    asset: 'harbour_pennant_a',
    rule: 'compression/empty-resolution',
    place: 'texture',
    count: 2,
    from: 'now',
    words: 'painted softly: half the texels a side would carry the same',
  },
  {
    asset: 'harbour_quaystone_a',
    rule: 'compression/empty-resolution',
    place: 'texture',
    count: 5,
    from: 'now',
    words: 'painted softly: half the texels a side would carry the same',
  },
  {
    asset: 'harbour_tidegauge_a',
    rule: 'compression/empty-resolution',
    place: 'texture',
    count: 1,
    from: 'now',
    words: 'painted softly: half the texels a side would carry the same',
  },
  {
    asset: 'harbour_chart_table_a',
    rule: 'compression/empty-resolution',
    place: 'texture',
    count: 2,
    from: 'now',
    words: 'painted softly: half the texels a side would carry the same',
  },
  {
    asset: 'harbour_shed_set',
    rule: 'compression/empty-resolution',
    place: 'texture',
    count: 2,
    from: 'now',
    words: 'painted softly: half the texels a side would carry the same',
  },
]
