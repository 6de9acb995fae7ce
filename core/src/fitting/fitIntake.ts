import type { Proposal, RemedyOptions, Rulebook } from '@stern-gate/contract'
import { LEAST_FIT } from './fitNames'
import type { FitSample } from './fitSample'
import { counted } from './nameParts'
import { LEAST_PICTURES, proposal } from './proposal'

/** So far outside of its class a size has to be, as a factor, before another unit is believed. */
const SUSPECT = 2
/** Units by the factor from metres, likeliest first; see units of files/intake. */
const UNITS = [
  ['centimetre', 0.01],
  ['millimetre', 0.001],
  ['inch', 0.0254],
  ['foot', 0.3048],
  ['decimetre', 0.1],
] as const

/** What most of one generator's files have in common, and which have it. */
interface Common {
  options: RemedyOptions
  words: string
  fitting: readonly FitSample[]
  of: readonly FitSample[]
}

/**
 * Intake presets for what one generator writes: the unit, where most of its files are that much too large for their
 * class, and the axis that is up, where most of them lie on their side in one way.
 */
export function fitIntake(samples: readonly FitSample[], rulebook: Rulebook): Proposal[] {
  const byGenerator = new Map<string, FitSample[]>()
  for (const sample of samples) {
    // One preset for all versions of it
    const generator = sample.mesh?.generator.replace(/[\s(]*v?\d[\d.]*.*$/i, '').trim() ?? ''
    if (generator !== '') byGenerator.set(generator, [...(byGenerator.get(generator) ?? []), sample])
  }
  return [...byGenerator]
    .sort((a, b) => (a[0] < b[0] ? -1 : 1))
    .flatMap(([generator, own]) => {
      const name = generator.slice(0, 60).trim()
      if (Object.values(rulebook.intake).some((p) => p.generator === generator) || name in rulebook.intake)
        return []
      const found = [unitOf(own), upOf(own)].flatMap((c) => c ?? [])
      return found.length === 0 ? [] : [presetFor(generator, name, found)]
    })
}

function presetFor(generator: string, name: string, found: readonly Common[]): Proposal {
  const least = [...found].sort((a, b) => a.fitting.length / a.of.length - b.fitting.length / b.of.length)[0]!
  const options: RemedyOptions = Object.assign({}, ...found.map((f) => f.options)) as RemedyOptions
  return proposal(
    'conventions',
    {
      id: `intake.${generator}`,
      title: `What “${generator}” writes: ${found.map((f) => f.words).join(', ')}`,
      now: 'taken in as it is read',
      then: `intake preset “${name}”`,
      change: [
        {
          path: ['intake', name],
          value: { options, generator, folder: '', mend: false, apart: null, absent: 'ask' },
        },
      ],
    },
    {
      fitting: least.fitting.length,
      misfits: least.of
        .filter((s) => !least.fitting.includes(s))
        .map((s) => s.name)
        .sort(),
    },
  )
}

/** A class that is only guessed says nothing of sizes. */
function unitOf(samples: readonly FitSample[]): Common | null {
  const of = samples.filter((s) => s.mesh!.expected !== null)
  if (of.length < LEAST_PICTURES) return null
  for (const [unit, factor] of UNITS) {
    const fitting = of.filter(({ mesh }) => isMeantIn(mesh!.longestSide, mesh!.expected!, factor))
    if (fitting.length >= of.length * LEAST_FIT)
      return { options: { unit }, words: `one unit is a ${unit}`, fitting, of }
  }
  return null
}

const isMeantIn = (size: number, { min, max }: { min: number; max: number }, factor: number): boolean =>
  size > max * SUSPECT && size * factor >= min && size * factor <= max

/** Only what is seen to lie speaks for another axis; what shows no side speaks against it. */
function upOf(of: readonly FitSample[]): Common | null {
  const [best] = counted(of.flatMap((s) => s.mesh!.up ?? []))
  if (!best || of.length < LEAST_PICTURES || best[1] < of.length * LEAST_FIT) return null
  const [up] = best
  return { options: { up }, words: `${up} is up`, fitting: of.filter((s) => s.mesh!.up === up), of }
}
