import * as z from 'zod'
import { ownSurrounding } from './surroundingKept'

export const environments = ['overcast', 'dusk', 'studio', 'night'] as const
export type EnvironmentName = (typeof environments)[number]
/** A surrounding of ours, or a picture that was brought. */
export type Surrounding = EnvironmentName | 'own'
export const environmentWords: Readonly<Record<EnvironmentName, string>> = {
  overcast: 'Overcast quay',
  dusk: 'Harbour dusk',
  studio: 'White studio',
  night: 'Night lamps',
}

export const toneCurves = ['straight', 'shoulder', 'film', 'even'] as const
export type ToneCurve = (typeof toneCurves)[number]
export const toneWords: Readonly<Record<ToneCurve, string>> = {
  straight: 'Straight: cut at white',
  shoulder: 'Soft shoulder',
  film: 'Strong contrast',
  even: 'Colours kept',
}

const lampSchema = z.object({
  angle: z.number().min(-180).max(180),
  height: z.number().min(-90).max(90),
  strength: z.number().min(0).max(20),
  colour: z.string().regex(/^#[0-9a-f]{6}$/),
})
export type Lamp = z.infer<typeof lampSchema>

/** How the stage is lit, and against which grey. Angles in degrees: from the front to the right, and upward. */
export const lightSettingsSchema = z.object({
  environment: z.enum([...environments, 'own']),
  strength: z.number().min(0).max(5),
  turn: z.number().min(-180).max(180),
  exposure: z.number().min(-6).max(6),
  curve: z.enum(toneCurves),
  grey: z.number().min(0).max(255).nullable(),
  checkers: z.boolean(),
  lens: z.number().min(8).max(100).default(32).describe('angle of view from foot to top, degrees'),
  lamps: z.tuple([lampSchema, lampSchema, lampSchema]),
})
export type LightSettings = z.infer<typeof lightSettingsSchema>

export const lampWords = ['Key', 'Fill', 'Rim'] as const

/** Bright enough for dark iron, and not so bright that a white surface loses its shape. */
export const firstLight: LightSettings = {
  environment: 'studio',
  strength: 0.5,
  turn: 0,
  exposure: 0,
  curve: 'straight',
  grey: null,
  checkers: false,
  lens: 32,
  lamps: [
    { angle: 45, height: 50, strength: 1.6, colour: '#fff9f1' },
    { angle: -75, height: 26, strength: 0.6, colour: '#e8f3ff' },
    { angle: 180, height: 35, strength: 0.5, colour: '#ffffff' },
  ],
}

const keyOf = (project: string): string => `stern-gate-light-${project}`

/** What was set in a project, on this machine; what cannot be read is as at first. */
export function rememberedLight(project: string): LightSettings {
  try {
    const read = lightSettingsSchema.safeParse(JSON.parse(localStorage.getItem(keyOf(project)) ?? 'null'))
    if (!read.success) return firstLight
    // A picture of one's own is there only as long as the page is open
    return read.data.environment === 'own' && !ownSurrounding()
      ? { ...read.data, environment: firstLight.environment }
      : read.data
  } catch {
    return firstLight
  }
}

export function rememberLight(project: string, settings: LightSettings): void {
  try {
    localStorage.setItem(keyOf(project), JSON.stringify(settings))
  } catch {
    // A browser that keeps nothing: the light is as at first the next time
  }
}
